package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.ResultStore;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.mockito.Mockito;

/** What arrives of runs that follow each other, on the thread it should arrive on. */
class PipelineTest {
  @TempDir Path folder;
  private final List<String> news = new CopyOnWriteArrayList<>();
  private final List<Thread> threads = new CopyOnWriteArrayList<>();
  private ExecutorService ui;
  private Pipeline pipeline;

  @BeforeEach
  void setUp() {
    ui = Executors.newSingleThreadExecutor(task -> new Thread(task, "interface"));
    Pipeline.Listener listener =
        Mockito.mock(
            Pipeline.Listener.class,
            call -> {
              threads.add(Thread.currentThread());
              Object first = call.getArguments().length > 0 ? call.getArgument(0) : null;
              boolean named = first instanceof String;
              news.add(call.getMethod().getName() + (named ? " " + first : ""));
              return null;
            });
    pipeline =
        new Pipeline(
            ui, new MediaReader(folder.resolve("cache")), ResultStore.inMemory(), listener);
  }

  @AfterEach
  void tearDown() {
    pipeline.cancel();
    ui.shutdownNow();
  }

  private MediaRef wav(String name, double gain) throws Exception {
    Path file = folder.resolve(name + ".wav");
    float[] x = new float[6 * 16_000];
    Random random = new Random(4);
    for (int i = 0; i < x.length; i++) {
      boolean tone = i % 32_000 > 9_000;
      double voice = tone ? 0.2 * Math.sin(0.05 * i) * Math.sin(0.0004 * i) : 0;
      x[i] = (float) (voice + gain * 0.01 * random.nextGaussian());
    }
    WavWriter.write(Audio.of(16_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    return MediaRef.of(file);
  }

  private Comparison comparison(String... versions) throws Exception {
    Comparison c = Comparison.empty("Tones", Job.DENOISE).withSource(wav("source", 1));
    for (String version : versions) {
      c = c.plus(Version.of(version, version, wav(version, 0.3)));
    }
    return c;
  }

  private void awaitNews(String what) {
    Awaitility.await().atMost(Duration.ofSeconds(30)).until(() -> news.contains(what));
  }

  @Test
  void tellsSourceVersionsAndResultsInTheirOrder() throws Exception {
    pipeline.request(1, comparison("a", "b"));
    awaitNews("finished");
    assertThat(news)
        .containsSubsequence("sourceRead", "sourceReady", "versionReady a", "results", "finished");
    assertThat(news).contains("versionReady b").doesNotContain("sourceFailed");
    assertThat(threads).extracting(Thread::getName).containsOnly("interface");
  }

  /** Of a run that another one follows nothing arrives any more. */
  @Test
  void whatIsSupersededIsNotTold() throws Exception {
    Comparison first = comparison("old");
    Comparison second = comparison("new");
    pipeline.request(1, first);
    pipeline.request(1, second);
    awaitNews("versionReady new");
    awaitNews("finished");
    assertThat(news).doesNotContain("versionReady old");
    assertThat(news.stream().filter("finished"::equals)).hasSize(1);
  }

  @Test
  void afterCancelNothingArrives() throws Exception {
    pipeline.request(1, comparison("a"));
    pipeline.cancel();
    Thread.sleep(1500);
    assertThat(news).doesNotContain("versionReady a", "results");
  }

  /** What is wrong with one file is told of it; the other one is ready all the same. */
  @Test
  void aBrokenFileIsNamedAndTheRestGoesOn() throws Exception {
    Comparison c = comparison("good");
    Path broken = Files.write(folder.resolve("broken.wav"), new byte[100]);
    pipeline.request(1, c.plus(Version.of("bad", "bad", MediaRef.of(broken))));
    awaitNews("finished");
    assertThat(news).contains("versionReady good", "versionFailed bad");
    assertThat(news).doesNotContain("versionReady bad");
  }

  @Test
  void aMissingSourceIsSaidAndEndsTheRun() throws Exception {
    Comparison c =
        comparison("a").withSource(MediaRef.of(folder.resolve("nowhere.wav").toAbsolutePath()));
    pipeline.request(1, c);
    awaitNews("finished");
    assertThat(news).anyMatch(n -> n.startsWith("sourceFailed") && n.contains("nowhere.wav"));
  }
}
