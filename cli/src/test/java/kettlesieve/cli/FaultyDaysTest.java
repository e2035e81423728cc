package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * The program as a process, killed, signalled, started twice at once, on full disks and without
 * memory: no version is lost, no comparison is torn, nothing is left behind, no trace is shown.
 */
class FaultyDaysTest {
  private static final int RATE = 16_000;
  private static final boolean LONG = "long".equals(System.getProperty("kettle.faults"));

  @TempDir Path folder;
  private Path tape;
  private Path comparison;

  private static int count(int few, int many) {
    return LONG ? many : few;
  }

  @BeforeEach
  void makeTape() throws Exception {
    tape = folder.resolve("tape.wav");
    SplittableRandom random = new SplittableRandom(4);
    float[] x = new float[4 * RATE];
    for (int i = 0; i < x.length; i++) {
      double seconds = (double) i / RATE;
      double tone = seconds % 1 < 0.6 ? 0.2 * Math.sin(2 * Math.PI * 300 * seconds) : 0;
      x[i] = (float) (tone + 0.01 * random.nextGaussian());
    }
    WavWriter.write(Audio.of(RATE, x), tape, WavWriter.Format.PCM_24, Progress.SILENT);
    comparison = folder.resolve("watch.sieve");
    ComparisonFile.save(
        Comparison.empty("Watch", Job.DENOISE).withSource(MediaRef.of(tape)), comparison);
  }

  private String[] making(String amounts) {
    return new String[] {
      "run", "--tool", "plain-subtraction", "--amounts", amounts, comparison.toString()
    };
  }

  /** What lies in the folder of results and is no recording of a version. */
  private List<Path> left() throws IOException {
    List<Path> left = new ArrayList<>();
    for (Path in : List.of(folder, folder.resolve("made-here"))) {
      if (Files.isDirectory(in)) {
        try (Stream<Path> all = Files.list(in)) {
          all.filter(
                  p -> {
                    String name = p.getFileName().toString();
                    return name.startsWith(".")
                        || name.endsWith(".part")
                        || name.endsWith(".wav") && p.toFile().length() == 0;
                  })
              .forEach(left::add);
        }
      }
    }
    return left;
  }

  /** Scores the tape against itself, with words for Java before. */
  private Program.Ended scored(String... java) throws Exception {
    List<String> words = new ArrayList<>(List.of(java));
    words.addAll(List.of("score", "--job", "denoise", "--source", tape.toString()));
    words.addAll(List.of("--version", "a=" + tape, "--json", "-"));
    return Program.start(folder.resolve("program"), List.of(), words).ended();
  }

  private void whole() throws Exception {
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    for (Version v : ComparisonFile.load(comparison).versions()) {
      assertThat(reader.read(v.media().file(), Progress.SILENT).facts().seconds()).isEqualTo(4);
    }
  }

  /** Waits until the program has begun to work, then a little more, another each time. */
  private static void wait(Program program, long millis) throws Exception {
    program.process().waitFor(millis, TimeUnit.MILLISECONDS);
  }

  @Test
  void killsLoseNothingThatWasReported() throws Exception {
    int kills = count(3, 100);
    SplittableRandom random = new SplittableRandom(1);
    int reported = 0;
    int killed = 0;
    for (int i = 0; i < kills; i++) {
      Path own = folder.resolve("program");
      Program program = Program.start(own, List.of(), List.of(making("10,20,30,40,50,60")));
      // Every other time it is let come as far as its first result, however busy the machine is.
      while (i % 2 == 0 && program.process().isAlive() && Files.size(own.resolve("out")) == 0) {
        wait(program, 20);
      }
      wait(program, random.nextInt(i % 2 == 0 ? 400 : 1500));
      killed += program.process().isAlive() ? 1 : 0;
      program.process().destroyForcibly();
      Program.Ended ended = program.ended();
      reported += (int) ended.out().lines().filter(l -> l.contains("Plain subtraction")).count();
      // Whatever happened, the file is whole, and holds at least what was reported.
      assertThat(ComparisonFile.load(comparison).versions()).hasSizeGreaterThanOrEqualTo(reported);
    }
    whole();
    Program.Ended last = Program.run(folder.resolve("program"), making("70"));
    assertThat(last.status()).as(last.err()).isZero();
    System.out.printf("%d runs killed of %d, %d versions reported%n", killed, kills, reported);
    assertThat(killed).isPositive();
  }

  @Test
  void signalsLeaveNothingBehindNorAnyToolRunning() throws Exception {
    Path tool = folder.resolve("slow.sh");
    Files.writeString(tool, "#!/bin/sh\nsleep 61.5 &\nsleep 61.5\ncp \"$1\" \"$2\"\n");
    assertThat(tool.toFile().setExecutable(true)).isTrue();
    // Whoever starts the tests may have these ignored, and the program would inherit that.
    List<String> heeding = List.of("env", "--default-signal=INT,TERM,HUP");
    for (String signal : List.of("INT", "TERM", "HUP")) {
      Program program =
          Program.start(
              folder.resolve("program"),
              heeding,
              List.of("run", comparison.toString(), "--", tool.toString(), "{input}", "{output}"));
      while (program.process().descendants().count() < 2 && program.process().isAlive()) {
        wait(program, 20);
      }
      List<ProcessHandle> children = program.process().descendants().toList();
      assertThat(children).hasSizeGreaterThanOrEqualTo(2);
      new ProcessBuilder("kill", "-" + signal, Long.toString(program.process().pid()))
          .start()
          .waitFor();
      Program.Ended ended = program.ended();
      assertThat(ended.trace()).as(ended.err()).isFalse();
      for (ProcessHandle child : children) {
        child.onExit().get(10, TimeUnit.SECONDS);
      }
      assertThat(left()).as(signal).isEmpty();
    }
    assertThat(ComparisonFile.load(comparison).versions()).isEmpty();
  }

  @Test
  void twoProgramsAtOnceLoseNothing() throws Exception {
    int rounds = count(1, 5);
    String amounts = "10,20,30,40";
    int each = 4;
    for (int round = 1; round <= rounds; round++) {
      List<Program> programs = new ArrayList<>();
      for (int p = 0; p < 2; p++) {
        programs.add(
            Program.start(folder.resolve("program" + p), List.of(), List.of(making(amounts))));
      }
      while (programs.stream().anyMatch(p -> p.process().isAlive())) {
        // Readers never see a torn or absent file.
        ComparisonFile.load(comparison);
        Thread.sleep(2);
      }
      for (Program program : programs) {
        assertThat(program.ended().status()).isZero();
      }
      assertThat(ComparisonFile.load(comparison).versions()).hasSize(2 * each * round);
    }
    assertThat(ComparisonFile.load(comparison).versions().stream().map(v -> v.media().path()))
        .doesNotHaveDuplicates();
    whole();
    assertThat(left()).isEmpty();
  }

  /** A limit on the size of files stands for a disk that is full. */
  @Test
  void aFullDiskLeavesWhatWasThere() throws Exception {
    assertThat(Program.run(folder.resolve("program"), making("50")).status()).isZero();
    String before = Files.readString(comparison);
    Path results = Files.writeString(folder.resolve("scores.json"), "older results");
    List<String> full = List.of("bash", "-c", "ulimit -f 8; exec \"$@\"", "full");
    Program.Ended ended =
        Program.start(folder.resolve("full"), full, List.of(making("30"))).ended();
    assertThat(ended.status()).isEqualTo(3);
    assertThat(ended.err()).contains("room").doesNotContain("File size limit");
    assertThat(ended.trace()).as(ended.err()).isFalse();
    assertThat(comparison).hasContent(before);
    ended =
        Program.start(
                folder.resolve("full"),
                full,
                List.of("score", comparison.toString(), "--json", results.toString()))
            .ended();
    assertThat(ended.status()).as(ended.err()).isEqualTo(3);
    assertThat(ended.trace()).as(ended.err()).isFalse();
    assertThat(results).hasContent("older results");
    assertThat(left()).isEmpty();
  }

  @Test
  void withoutMemoryAPersonIsToldSo() throws Exception {
    Program.Ended ended = scored("-Xmx12m");
    assertThat(ended.status()).isNotZero();
    assertThat(ended.trace()).as(ended.err()).isFalse();
    assertThat(ended.err()).contains("memory");
  }

  @Test
  void aLogThatCannotBeWrittenIsNoMatter() throws Exception {
    Path blocked = Files.createFile(folder.resolve("blocked"));
    Program.Ended ended = scored("-Dkettle.state=" + blocked);
    assertThat(ended.status()).as(ended.err()).isZero();
    assertThat(ended.out()).startsWith("{");
    assertThat(ended.trace()).isFalse();
  }

  @Test
  void withoutRoomForItsLibrariesAPersonIsToldSo() throws Exception {
    Path blocked = Files.createFile(folder.resolve("blocked"));
    Program.Ended ended =
        scored(
            "-Dorg.bytedeco.javacpp.cachedir=" + blocked,
            "-Djava.io.tmpdir=" + blocked,
            "-Duser.home=" + blocked);
    assertThat(ended.trace()).as(ended.err()).isFalse();
    assertThat(ended.status()).isNotZero();
    assertThat(ended.err()).contains("libraries").contains("KETTLE_CACHE");
  }

  @Test
  void whatAKillLeftIsSweptAtALaterStart() throws Exception {
    Path made = Files.createDirectories(folder.resolve("made-here"));
    Path run = Files.createDirectories(made.resolve(".kettle-old.run/results"));
    Files.writeString(run.resolve("output.wav"), "half");
    Path part = Files.writeString(folder.resolve(".kettle-old.part"), "half");
    long longAgo = System.currentTimeMillis() - 3_600_000;
    assumeTrue(run.getParent().toFile().setLastModified(longAgo));
    assertThat(part.toFile().setLastModified(longAgo)).isTrue();
    assertThat(Program.run(folder.resolve("program"), making("50")).status()).isZero();
    assertThat(left()).isEmpty();
  }

  /** Whatever is asked for first on the way, the cache's place among it, begins the log there. */
  @Test
  void theLogLiesWithThePersonsOwnFilesFromTheFirstLineOn() throws Exception {
    Path own = Files.createDirectories(folder.resolve("logging"));
    // Where HOME says, not where the system's list of users does.
    Path state = Files.createDirectories(own.resolve(".local/state/kettle-sieve"));
    Files.writeString(state.resolve("settings.properties"), "cache = \\u12");
    List<String> home =
        List.of(
            "env",
            "-u",
            "KETTLE_CACHE",
            "-u",
            "KETTLE_STATE",
            "-u",
            "XDG_STATE_HOME",
            "HOME=" + own);
    Program.Ended ended = Program.start(own, home, List.of("score", "nothing.sieve")).ended();
    assertThat(ended.status()).isEqualTo(3);
    assertThat(state.resolve("log/kettle.log")).content().contains("CachePlace");
  }
}
