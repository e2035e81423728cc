package kettlesieve.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

class DemoTest {
  /** What is made and measured here need not be made again by the tests of the modules after it. */
  private static final Path KEPT =
      Path.of(System.getProperty("kettle.kept", "target/kept")).toAbsolutePath();

  private static final Path folder = KEPT.resolve("demos");
  private static final MediaReader READER = new MediaReader(KEPT.resolve("decoded"));
  private static final ResultStore STORE = new ResultStore(KEPT.resolve("results"));
  private static final Map<Demo, Comparison> MADE = new ConcurrentHashMap<>();
  private static final Map<Demo, ScoreSheet> SHEETS = new ConcurrentHashMap<>();

  @BeforeAll
  static void make() throws Exception {
    // What an earlier run left may be of another making.
    removed(folder);
    // Side by side: each is made by one thread, the longest first.
    List<Demo> all = new ArrayList<>(Demo.ALL);
    all.sort(Comparator.comparing(demo -> demo.job() != Job.STEMS));
    ExecutorService pool = Executors.newFixedThreadPool(2);
    try {
      for (Future<?> made :
          pool.invokeAll(all.stream().map(demo -> (Callable<Void>) () -> make(demo)).toList())) {
        made.get();
      }
    } finally {
      pool.shutdown();
    }
  }

  private static Void make(Demo demo) throws Exception {
    Comparison c = ComparisonFile.load(demo.make(folder, Progress.SILENT));
    MADE.put(demo, c);
    try (Conductor conductor = new Conductor(READER, STORE)) {
      SHEETS.put(demo, conductor.run(c).sheet());
    }
    return null;
  }

  private static void removed(Path old) throws IOException {
    if (Files.exists(old)) {
      try (Stream<Path> all = Files.walk(old)) {
        for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
          Files.delete(p);
        }
      }
    }
  }

  /** The first one of a job. */
  private static Demo of(Job job) {
    return Demo.ALL.stream().filter(d -> d.job() == job).findFirst().orElseThrow();
  }

  private static Match match(Job job, String label) {
    return match(of(job), label);
  }

  private static Match match(Demo demo, String label) {
    return SHEETS.get(demo).entries().stream()
        .filter(e -> e.version().label().startsWith(label))
        .findFirst()
        .orElseThrow()
        .version()
        .match();
  }

  private static Audio audio(MediaRef ref) throws Exception {
    return READER.read(ref.file(), Progress.SILENT).audio();
  }

  @Test
  void thereIsOneForEveryJobAndAllOfItIsUsable() {
    assertThat(MADE.keySet()).extracting(Demo::job).contains(Job.values());
    for (Demo demo : Demo.ALL) {
      Comparison c = MADE.get(demo);
      assertThat(c.job()).isEqualTo(demo.job());
      assertThat(c.name()).isEqualTo(demo.title());
      assertThat(c.versions()).hasSizeGreaterThan(2);
      assertThat(SHEETS.get(demo).failed()).isEmpty();
      for (Version v : c.versions()) {
        assertThat(v.files()).allMatch(f -> Files.exists(f.file()) && f.sha256() != null);
      }
      for (Entry e : SHEETS.get(demo).entries()) {
        assertThat(e.version().match().confidence()).as(e.version().label()).isGreaterThan(0.3);
      }
    }
  }

  @Test
  void theWaltzIsTheSumOfItsTrueStems() throws Exception {
    Comparison waltz = MADE.get(of(Job.STEMS));
    Audio mix = audio(waltz.source());
    float[] rest = mix.samples(0, 0, (int) mix.frames());
    for (MediaRef stem : waltz.trueStems().values()) {
      float[] part = audio(stem).samples(0, 0, rest.length);
      for (int i = 0; i < rest.length; i++) {
        rest[i] -= part[i];
      }
    }
    for (int i = 0; i < rest.length; i += 31) {
      assertThat(rest[i]).isCloseTo(0, within(1e-6f));
    }
    assertThat(waltz.trueStems().keySet())
        .containsExactlyInAnyOrder("vocals", "drums", "bass", "concertina");
    assertThat(waltz.versions())
        .anyMatch(v -> v.stems().values().stream().anyMatch(s -> s.origin() != null));
    assertThat(waltz.roleSums()).isNotEmpty();
  }

  @Test
  void theFaultsAreThereToBeFound() throws Exception {
    assertThat(match(Job.STRETCH, "Locked").delayMs()).isCloseTo(80, within(5.0));
    assertThat(match(Job.STRETCH, "Waveform").ratio()).isCloseTo(0.8, within(0.0008));
    assertThat(match(Demo.ALL.get(6), "Waveform").ratio()).isCloseTo(1.3, within(0.0013));
    assertThat(match(Job.DECLIP, "Predicted tops 100").delaySamples()).isCloseTo(240, within(0.1));
    float[] call = audio(MADE.get(of(Job.DECLIP)).source()).samples(0, 0, 9 * 48_000);
    long clipped =
        java.util.stream.IntStream.range(0, call.length)
            .filter(i -> Math.abs(call[i]) > 0.4999f)
            .count();
    assertThat(100.0 * clipped / call.length).isBetween(0.5, 20.0);
    assertThat(match(Job.PITCH, "Resampling").ratio()).isCloseTo(1, within(0.001));
  }

  @Test
  void nothingIsMadeTwice() throws Exception {
    Path file = Demo.ALL.get(4).make(folder, Progress.SILENT);
    byte[] before = Files.readAllBytes(file);
    Demo.ALL.get(4).make(folder, Progress.SILENT);
    assertThat(Arrays.equals(before, Files.readAllBytes(file))).isTrue();
  }
}
