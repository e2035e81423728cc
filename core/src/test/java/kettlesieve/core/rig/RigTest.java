package kettlesieve.core.rig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RigTest {
  @TempDir Path folder;
  private MediaReader reader;
  private Rig rig;
  private Recording source;
  private Comparison comparison;

  @BeforeEach
  void setUp() throws Exception {
    reader = new MediaReader(folder.resolve("cache"));
    rig = new Rig(reader);
    // A name that a shell would take apart, and that looks like an option.
    Path file = folder.resolve("-rf $(reboot) 'fog'; horn.wav");
    Audio tone = Audio.of(16_000, Sounds.sine(16_000, 1.5, 330, 0.3, 0));
    WavWriter.write(tone, file, WavWriter.Format.PCM_24, Progress.SILENT);
    source = reader.read(file, Progress.SILENT);
    comparison = Comparison.empty("x", Job.DENOISE).withSource(MediaRef.of(file));
  }

  @AfterEach
  void tearDown() {
    rig.close();
  }

  private static CommandTool tool(Job job, double limit, String... words) {
    List<String> arguments = new ArrayList<>();
    arguments.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    arguments.addAll(
        List.of("-cp", System.getProperty("java.class.path"), "kettlesieve.core.rig.FakeTool"));
    arguments.addAll(List.of(words));
    return new CommandTool("Fake " + words[0], job, arguments, Map.of(), 0, 1, limit, "9 €", true);
  }

  private Run run(CommandTool tool, double amount) throws Exception {
    Order order =
        Order.onSource(
            new RigTool.Outside(tool), comparison, source, amount, folder.resolve("made"));
    return rig.submit(order, Progress.SILENT, r -> {}).await();
  }

  private List<Path> made() throws Exception {
    try (Stream<Path> all = Files.walk(folder.resolve("made"))) {
      return all.filter(p -> !p.equals(folder.resolve("made"))).toList();
    }
  }

  @Test
  void aToolMakesAVersionWithItsCost() throws Exception {
    Run run = run(tool(Job.DENOISE, 60, "copy", "{input}", "{output}", "{amount}"), 40);
    assertThat(run.problem()).isNull();
    Version version = run.addedTo(comparison).orElseThrow().versions().get(0);
    assertThat(version.label()).isEqualTo("Fake copy 40");
    assertThat(version.tool()).isEqualTo("Fake copy");
    assertThat(version.amount()).isEqualTo(40);
    assertThat(version.cost().seconds()).isPositive();
    assertThat(version.cost().price()).isEqualTo("9 €");
    assertThat(version.cost().realTime()).isTrue();
    assertThat(reader.read(version.media().file(), Progress.SILENT).facts().frames())
        .isEqualTo(24_000);
    assertThat(made()).containsExactly(version.media().file());
  }

  @Test
  void processorTimeIsRecorded() throws Exception {
    Run run = run(tool(Job.DENOISE, 60, "work", "{input}", "{output}"), 0);
    assertThat(run.outcome()).isEqualTo(Run.Outcome.DONE);
    // The tool works until its own thread has used 0.7 s of a processor, however long that takes.
    assertThat(run.processorSeconds()).isGreaterThan(0.3);
    // Told by Linux: a shell holds some hundred KiB at least.
    assertThat(run.cost().memoryBytes()).isGreaterThan(300_000);
    assertThat(run.seconds()).isPositive();
  }

  @Test
  void noShellSeesTheArguments() throws Exception {
    Run run =
        run(
            tool(Job.DENOISE, 60, "words", "{input}", "{output}", "a={amount} $HOME `id`", "*"),
            50);
    assertThat(run.outcome()).isEqualTo(Run.Outcome.DONE);
    assertThat(run.messages()).containsExactly("[a=0.500000 $HOME `id`]", "[*]");
  }

  @Test
  void aFailingToolLeavesAClearEntryAndNothingElse() throws Exception {
    Run run = run(tool(Job.DENOISE, 60, "fail", "{input}", "{output}", "{amount}"), 25);
    assertThat(run.outcome()).isEqualTo(Run.Outcome.FAILED);
    assertThat(run.problem()).contains("status 7").contains("the amount 0.250000 has run out");
    assertThat(run.messages()).hasSize(2);
    assertThat(run.addedTo(comparison)).isEmpty();
    assertThat(made()).isEmpty();
  }

  @Test
  void rubbishAndNothingAreRefused() throws Exception {
    Run garbage = run(tool(Job.DENOISE, 60, "garbage", "{input}", "{output}"), 0);
    assertThat(garbage.outcome()).isEqualTo(Run.Outcome.FAILED);
    assertThat(garbage.problem()).startsWith("what the tool wrote cannot be used");
    Run nothing = run(tool(Job.DENOISE, 60, "nothing", "{input}", "{output}"), 0);
    assertThat(nothing.problem()).contains("wrote no audio file");
    Run missing =
        run(CommandTool.of("m", Job.DENOISE, List.of("/no/such", "{input}", "{output}")), 0);
    assertThat(missing.problem()).contains("/no/such could not be started");
    assertThat(made()).isEmpty();
  }

  @Test
  void aToolThatSpoilsItsInputSpoilsACopy() throws Exception {
    byte[] before = Files.readAllBytes(source.file());
    for (String way : List.of("spoil", "eat")) {
      Run run = run(tool(Job.DENOISE, 60, way, "{input}", "{output}"), 0);
      assertThat(run.outcome()).as(way).isEqualTo(Run.Outcome.DONE);
      assertThat(source.file()).hasBinaryContent(before);
    }
  }

  @Test
  void aResultThatWasCutOffIsNotTaken() throws Exception {
    Run cut = run(tool(Job.DENOISE, 60, "cut", "{input}", "{output}"), 0);
    assertThat(cut.outcome()).isEqualTo(Run.Outcome.FAILED);
    assertThat(cut.problem()).contains("ends early");
    assertThat(made()).isEmpty();
  }

  @Test
  void aPathOfAToolIsMeantFromWhereTheProgramWasStarted() throws Exception {
    Path here = Path.of("").toAbsolutePath();
    Path script = Files.createTempFile(here.resolve("target"), "tool", ".sh");
    try {
      Files.writeString(script, "#!/bin/sh\ncp \"$1\" \"$2\"\n");
      assertThat(script.toFile().setExecutable(true)).isTrue();
      String relative = here.relativize(script).toString();
      Run run = run(CommandTool.of("s", Job.DENOISE, List.of(relative, "{input}", "{output}")), 0);
      assertThat(run.problem()).isNull();
    } finally {
      Files.delete(script);
    }
  }

  @Test
  void timeLimitsThatAreNoneAreRefused() {
    CommandTool good = CommandTool.of("t", Job.DENOISE, List.of("t", "{input}", "{output}"));
    for (double limit : new double[] {0, -1, Double.NaN, Double.POSITIVE_INFINITY}) {
      assertThatThrownBy(() -> good.withTimeLimit(limit)).hasMessageContaining("time limit");
    }
  }

  @Test
  void theTimeLimitAndCancellingStopATool() throws Exception {
    Run late = run(tool(Job.DENOISE, 1, "hang", "{input}", "{output}"), 0);
    assertThat(late.outcome()).isEqualTo(Run.Outcome.TOO_LONG);
    assertThat(late.problem()).contains("time limit");
    Order order =
        Order.onSource(
            new RigTool.Outside(tool(Job.DENOISE, 60, "hang", "{input}", "{output}")),
            comparison,
            source,
            0,
            folder.resolve("made"));
    Rig.Ticket first = rig.submit(order, Progress.SILENT, r -> {});
    Rig.Ticket second = rig.submit(order, Progress.SILENT, r -> {});
    Rig.Ticket waiting = rig.submit(order, Progress.SILENT, r -> {});
    waiting.cancel();
    first.cancel();
    second.cancel();
    for (Rig.Ticket ticket : List.of(first, second, waiting)) {
      assertThat(ticket.await().outcome()).isEqualTo(Run.Outcome.CANCELLED);
    }
    assertThat(made()).isEmpty();
  }

  @Test
  void twoRunAtOnceAndNoMore() throws Exception {
    AtomicInteger now = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    List<Rig.Ticket> tickets = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      AtomicBoolean begun = new AtomicBoolean();
      Order order =
          Order.onSource(
              new RigTool.Inside(new PlainSubtraction()),
              comparison,
              source,
              10 * (i + 1),
              folder.resolve("made"));
      tickets.add(
          rig.submit(
              order,
              (what, share) -> {
                if (!begun.getAndSet(true)) {
                  most.accumulateAndGet(now.incrementAndGet(), Math::max);
                }
              },
              r -> now.decrementAndGet()));
    }
    for (Rig.Ticket ticket : tickets) {
      assertThat(ticket.await().outcome()).isEqualTo(Run.Outcome.DONE);
    }
    assertThat(most.get()).isEqualTo(2);
    assertThat(made()).hasSize(6);
  }

  @Test
  void stemsOfAFolderGetTheirRoles() throws Exception {
    comparison = comparison.withJob(Job.STEMS);
    Run run = run(tool(Job.STEMS, 60, "stems", "{input}", "{folder}"), 0);
    assertThat(run.files().keySet()).containsExactlyInAnyOrder("vocals", "drums");
    Version version = run.addedTo(comparison).orElseThrow().versions().get(0);
    assertThat(version.stems().get("drums").origin()).isNull();
    assertThat(made()).hasSize(2);
  }

  @Test
  void aStandInThatCannotSaysWhy() throws Exception {
    Order order =
        Order.onSource(
            new RigTool.Inside(new CentreSplit()),
            comparison.withJob(Job.STEMS),
            source,
            50,
            folder.resolve("made"));
    Run run = rig.submit(order, Progress.SILENT, r -> {}).await();
    assertThat(run.outcome()).isEqualTo(Run.Outcome.FAILED);
    assertThat(run.problem()).contains("stereo");
    assertThat(made()).isEmpty();
  }

  @Test
  void aFolderThatCannotBeWrittenIsNamed() throws Exception {
    Path blocked = Files.writeString(folder.resolve("file"), "x").resolve("made");
    Order order =
        Order.onSource(new RigTool.Inside(new PlainSubtraction()), comparison, source, 50, blocked);
    Run run = rig.submit(order, Progress.SILENT, r -> {}).await();
    assertThat(run.problem()).contains(blocked.toString()).contains("room on the disk");
  }

  @Test
  void wordsAreTakenApartWithoutAShell() {
    assertThat(CommandTool.words("tool {input} -a \"two words\" 'it is' x\"y z\""))
        .containsExactly("tool", "{input}", "-a", "two words", "it is", "xy z");
    assertThat(CommandTool.words("a $HOME; rm -rf * | b"))
        .containsExactly("a", "$HOME;", "rm", "-rf", "*", "|", "b");
    CommandTool tool =
        CommandTool.of("t", Job.DENOISE, List.of("t", "{input}", "{output}", "two words"));
    assertThat(CommandTool.words(tool.line())).isEqualTo(tool.arguments());
    assertThatThrownBy(() -> CommandTool.words("a 'b")).hasMessageContaining("not closed");
  }

  @Test
  void aHostileFileNameStaysOneArgument() {
    CommandTool tool =
        new CommandTool(
            "t",
            Job.STRETCH,
            List.of("t", "--in={input}", "{output}", "{mode}", "{tempo}", "{percent}"),
            Map.of("mode", "{input} $1"),
            0,
            100,
            null,
            null,
            null);
    assertThat(tool.filled("-x {output}; $(id)", "o.wav", "f", new Setup(50, 0.8, 0)))
        .containsExactly("t", "--in=-x {output}; $(id)", "o.wav", "{input} $1", "1.250000", "80");
    assertThat(tool.timeLimitSeconds()).isEqualTo(CommandTool.USUAL_LIMIT_SECONDS);
  }

  @Test
  void toolsThatCannotWorkAreRefused() {
    assertThatThrownBy(() -> CommandTool.of("t", Job.DENOISE, List.of("t", "{output}")))
        .hasMessageContaining("{input}");
    assertThatThrownBy(() -> CommandTool.of("t", Job.DENOISE, List.of("t", "{input}")))
        .hasMessageContaining("{output}");
    assertThatThrownBy(
            () -> CommandTool.of("t", Job.DENOISE, List.of("t", "{input}", "{output}", "{mood}")))
        .hasMessageContaining("{mood}");
    assertThatThrownBy(() -> CommandTool.of(" ", Job.DENOISE, List.of("t", "{input}{output}")))
        .hasMessageContaining("name");
  }

  @Test
  void toolsAreKeptAndHandedOn() throws Exception {
    CommandTool a = tool(Job.DENOISE, 5, "copy", "{input}", "{output}");
    CommandTool b = CommandTool.of("B", Job.STEMS, List.of("b", "{input}", "{folder}"));
    Path file = folder.resolve("shelf/tools.json");
    ToolShelf.write(List.of(a, b), file);
    assertThat(ToolShelf.read(file)).containsExactly(a, b);
    assertThat(ToolShelf.named(ToolShelf.read(file), "b")).contains(b);
    assertThat(ToolShelf.with(List.of(a, b), b.withTimeLimit(9))).hasSize(2);
    Files.writeString(file, "{\"schema\": \"other\"}");
    assertThatThrownBy(() -> ToolShelf.read(file)).hasMessageContaining("no list of tools");
    Files.writeString(file, "{");
    assertThatThrownBy(() -> ToolShelf.read(file)).hasMessageContaining("damaged");
    Files.writeString(
        file,
        "{\"schema\": \"kettle-sieve/tools/1\", \"tools\": [{\"name\": \"x\", \"arguments\": [\"x\"]}]}");
    assertThatThrownBy(() -> ToolShelf.read(file)).hasMessageContaining("{input}");
  }
}
