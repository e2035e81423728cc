package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.report.RoundupJson;
import kettlesieve.core.report.ScoreFiles;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupMaker;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ManyComparisonsTest {
  private static final int RATE = 16_000;

  @TempDir private Path folder;
  private final AtomicInteger readers = new AtomicInteger();

  private Path comparison(int n) throws Exception {
    float[] speech = Arrays.copyOf(Sounds.speech16(), 6 * RATE);
    float[] noise = Sounds.white(speech.length, n);
    double factor = Sounds.noiseFactor(speech, noise, 12);
    Comparison c =
        Comparison.empty("number " + n, Job.DENOISE)
            .withTags(List.of("tag " + n % 2))
            .withSource(write("s" + n + ".wav", Sounds.mix(speech, noise, factor)));
    for (int v = 1; v <= 2; v++) {
      MediaRef file =
          write("v" + n + "-" + v + ".wav", Sounds.mix(speech, noise, factor / (3 * v)));
      c = c.plus(Version.of("v" + v, "Tool " + 30 * v, file).withTool("Tool").withAmount(30.0 * v));
    }
    Path file = folder.resolve("c" + n + ".sieve");
    ComparisonFile.save(c, file);
    return file;
  }

  private MediaRef write(String name, float[] x) throws Exception {
    Sounds.write(folder.resolve(name), RATE, x);
    return MediaRef.of(folder.resolve(name));
  }

  private ManyComparisons many() {
    return new ManyComparisons(
        () -> {
          readers.incrementAndGet();
          return new MediaReader(folder.resolve("decoded"));
        },
        new ResultStore(folder.resolve("results")),
        2);
  }

  private static String json(ManyComparisons.Outcome outcome) {
    return RoundupJson.write(
        new RoundupMaker(Roundup.By.VERSION, Aspect.ALL).of(outcome.scored(), outcome.failed()), 2);
  }

  @Test
  void aSecondRoundUpReadsNoSoundAndGivesTheSameBytes() throws Exception {
    List<Path> files = new ArrayList<>();
    for (int n = 1; n <= 3; n++) {
      files.add(comparison(n));
    }
    Path broken = folder.resolve("broken.sieve");
    Files.writeString(broken, "{ not json");
    files.add(broken);
    Path without = folder.resolve("without.sieve");
    ComparisonFile.save(Comparison.empty("w", Job.DENOISE), without);
    files.add(without);
    List<ManyComparisons.Named> named = ManyComparisons.named(files);
    assertThat(named).extracting(ManyComparisons.Named::shown).contains("c1.sieve");
    List<String> told = new CopyOnWriteArrayList<>();
    ManyComparisons.Listener listener =
        new ManyComparisons.Listener() {
          @Override
          public void scored(ScoredComparison c) {
            told.add(c.file());
          }

          @Override
          public void failed(ScoredComparison.Failed f) {
            told.add(f.file() + " failed");
          }
        };
    ManyComparisons.Outcome first = many().run(named, c -> c, listener, Stop.NEVER);
    assertThat(first.scored()).hasSize(3);
    assertThat(first.failed())
        .extracting(ScoredComparison.Failed::file)
        .containsExactly("broken.sieve", "without.sieve");
    assertThat(first.failed().get(1).reason()).contains("no source");
    assertThat(told)
        .containsExactlyInAnyOrder(
            "c1.sieve", "c2.sieve", "c3.sieve", "broken.sieve failed", "without.sieve failed");
    assertThat(readers.get()).isEqualTo(3);
    ManyComparisons.Outcome second =
        many().run(named, c -> c, ManyComparisons.Listener.SILENT, Stop.NEVER);
    assertThat(readers.get()).isEqualTo(3);
    assertThat(json(second)).isEqualTo(json(first));
    assertThat(first.scored().get(0).versions().get(1).asVersion()).isEqualTo("Tool 60");
    // Another profile, another name: nothing is read, and it is not what was kept.
    ManyComparisons.Outcome other =
        many()
            .run(
                named.subList(0, 1),
                c -> c.withProfile("archive"),
                ManyComparisons.Listener.SILENT,
                Stop.NEVER);
    assertThat(other.scored().get(0).profile()).isEqualTo("archive");
    ComparisonFile.update(files.get(0), c -> c.withTags(List.of("renamed")));
    assertThat(
            many()
                .run(named.subList(0, 1), c -> c, ManyComparisons.Listener.SILENT, Stop.NEVER)
                .scored()
                .get(0)
                .tags())
        .containsExactly("renamed");
    assertThat(readers.get()).isEqualTo(3);
    // A version that was rendered again is measured again.
    Path version = folder.resolve("v1-1.wav");
    Files.copy(
        folder.resolve("v2-2.wav"), version, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    Files.setLastModifiedTime(version, FileTime.fromMillis(System.currentTimeMillis() + 5000));
    assertThat(
            json(
                many()
                    .run(named.subList(0, 1), c -> c, ManyComparisons.Listener.SILENT, Stop.NEVER)))
        .isNotEqualTo(json(first));
    assertThat(readers.get()).isEqualTo(4);
  }

  @Test
  void aStopEndsItWithAllItsThreads() throws Exception {
    List<ManyComparisons.Named> named =
        ManyComparisons.named(List.of(comparison(1), comparison(2), comparison(3)));
    for (long after : new long[] {0, 50, 400, 3000}) {
      AtomicInteger asked = new AtomicInteger();
      Stop stop =
          () -> {
            if (asked.incrementAndGet() > after) {
              throw new CancellationException();
            }
          };
      assertThatThrownBy(() -> many().run(named, c -> c, ManyComparisons.Listener.SILENT, stop))
          .isInstanceOf(CancellationException.class);
      assertThat(Thread.getAllStackTraces().keySet())
          .noneMatch(t -> t.getName().startsWith("comparison "));
    }
    assertThat(many().run(named, c -> c, ManyComparisons.Listener.SILENT, Stop.NEVER).scored())
        .hasSize(3);
  }

  @Test
  void foldersAreLookedThrough() throws Exception {
    Files.createDirectories(folder.resolve("deep/er"));
    ComparisonFile.save(Comparison.empty("x", Job.DENOISE), folder.resolve("deep/er/x.sieve"));
    ComparisonFile.save(Comparison.empty("y", Job.DENOISE), folder.resolve("y.sieve"));
    Files.writeString(folder.resolve("z.txt"), "");
    assertThat(ManyComparisons.in(folder))
        .extracting(p -> folder.relativize(p).toString())
        .containsExactly("deep/er/x.sieve", "y.sieve");
  }

  /** What is written of a sheet and read again is what the sheet itself says to a round-up. */
  @Test
  void scoresThatWereWrittenComeBackAsTheyWere() throws Exception {
    List<Path> files = List.of(comparison(1), comparison(2));
    Comparison c = ComparisonFile.load(files.get(1));
    // One is the source itself, and nobody's choice; one file is gone.
    Comparison more =
        c.plus(Version.of("same", "Untouched", c.source()))
            .plus(Version.of("gone", "Gone", MediaRef.of(folder.resolve("gone.wav"))));
    ComparisonFile.save(more, folder.resolve("more.sieve"));
    List<ManyComparisons.Named> named =
        ManyComparisons.named(List.of(files.get(0), folder.resolve("more.sieve")));
    String[] lines = new String[2];
    many()
        .sheets(
            named,
            one -> one,
            new ManyComparisons.Taken<String>() {
              @Override
              public String of(ManyComparisons.Named one, Comparison comparison, ScoreSheet sheet) {
                return ScoresJson.line(sheet, comparison, one.shown(), folder);
              }

              @Override
              public String failed(ScoredComparison.Failed failed) {
                return ScoresJson.failedLine(failed.file(), failed.reason());
              }

              @Override
              public void done(int index, String line) {
                lines[index] = line;
              }
            },
            ManyComparisons.Listener.SILENT,
            Stop.NEVER);
    Path written = folder.resolve("scores.jsonl");
    Files.write(written, List.of(lines));
    ScoreFiles read = new ScoreFiles(measure -> true);
    read.read(List.of(written));
    List<ScoredComparison> scored =
        many().run(named, one -> one, ManyComparisons.Listener.SILENT, Stop.NEVER).scored();
    assertThat(read.scored()).isEqualTo(scored);
    assertThat(scored.get(1).versions().get(2).choice()).isFalse();
    assertThat(scored.get(1).failed()).hasSize(1);
  }
}
