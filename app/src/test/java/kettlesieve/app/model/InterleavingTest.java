package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.SimulatedOut;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Random sequences of what a person does while work is going on: however they interleave, every
 * comparison ends as if each thing had been done alone.
 */
class InterleavingTest {
  private static final int SEQUENCES = 100;
  private static final int RATE = 16_000;
  private static final List<String> NAMES = List.of("quay", "lamp", "boat");

  @TempDir Path folder;

  private final ExecutorService ui = Executors.newSingleThreadExecutor();
  private final ResultStore store = ResultStore.inMemory();
  private Workspace workspace;
  private MediaReader reader;

  private interface Action {
    void run() throws Exception;
  }

  private void onUi(Action action) throws Exception {
    ui.submit(
            () -> {
              action.run();
              return null;
            })
        .get(30, TimeUnit.SECONDS);
  }

  private static void await(BooleanSupplier condition) {
    Awaitility.await()
        .pollInterval(Duration.ofMillis(2))
        .atMost(Duration.ofSeconds(60))
        .until(condition::getAsBoolean);
  }

  private Path file(String name) {
    return folder.resolve(name + ".sieve");
  }

  private Path made(String name, int seed, double noise) throws Exception {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[3 * RATE];
    for (int i = 0; i < x.length; i++) {
      boolean voice = i / (RATE / 2) % 2 == 1;
      double tone = voice ? 0.3 * Math.sin(2 * Math.PI * (300 + 40 * seed) * i / RATE) : 0;
      x[i] = (float) (tone + noise * random.nextGaussian());
    }
    Path path = folder.resolve(name + ".wav");
    WavWriter.write(Audio.of(RATE, x), path, WavWriter.Format.FLOAT, Progress.SILENT);
    return path;
  }

  @BeforeEach
  void setUp() throws Exception {
    reader = new MediaReader(folder.resolve("cache"));
    workspace =
        new Workspace(
            ui::execute, reader, () -> new SimulatedOut(true), store, folder.resolve("state"));
    int seed = 1;
    for (String name : NAMES) {
      Comparison c =
          Comparison.empty(name, Job.DENOISE)
              .withSource(MediaRef.of(made(name, seed, 0.02)))
              .plus(Version.of("v1", "half", MediaRef.of(made(name + "-half", seed, 0.01))))
              .plus(Version.of("v2", "little", MediaRef.of(made(name + "-little", seed, 0.002))));
      ComparisonFile.save(c, file(name));
      seed++;
    }
  }

  @AfterEach
  void tearDown() throws Exception {
    workspace.close();
    ui.shutdown();
    assertThat(ui.awaitTermination(10, TimeUnit.SECONDS)).isTrue();
  }

  private void step(SplittableRandom random) throws Exception {
    String name = NAMES.get(random.nextInt(NAMES.size()));
    switch (random.nextInt(8)) {
      case 0, 1 -> onUi(() -> workspace.open(file(name)));
      case 2 -> onUi(workspace::startNew);
      case 3 ->
          onUi(
              () ->
                  workspace.edit(
                      c -> c.withExcerpt(c.excerpt() == null ? new TimeSpan(0.2, 2.8) : null)));
      case 4 -> onUi(workspace.document()::undo);
      case 5 ->
          onUi(
              () -> {
                if (workspace.sourceProperty().get() != null
                    && workspace.comparison().source() != null) {
                  RigTool tool = workspace.workshop().of(Job.DENOISE).get(0);
                  workspace.workshop().make(tool, List.of(30.0), Workshop.Subject.SOURCE);
                }
              });
      case 6 -> onUi(workspace::cancelWork);
      default -> Thread.sleep(random.nextInt(25));
    }
  }

  /** All that was set going has come to its end. */
  private void settle() throws Exception {
    await(
        () ->
            List.copyOf(workspace.workshop().entries()).stream()
                .allMatch(e -> e.runProperty().get() != null));
    onUi(() -> {});
    onUi(workspace::workAgain);
    int versions = workspace.comparison().versions().size();
    boolean source = workspace.comparison().source() != null;
    await(
        () ->
            !workspace.busyProperty().get()
                && (!source
                    || workspace.sourceProperty().get() != null
                        && workspace.sheetProperty().get() != null
                        && workspace.sheetProperty().get().entries().size() == versions));
  }

  @Test
  void everyComparisonEndsAsIfEachHadBeenDoneAlone() throws Exception {
    for (int n = 0; n < SEQUENCES; n++) {
      SplittableRandom random = new SplittableRandom(7_000 + n);
      for (int i = 0; i < 7; i++) {
        step(random);
      }
      settle();
      check("sequence " + n);
      onUi(workspace.document()::discardChanges);
    }
  }

  private void check(String what) throws Exception {
    Comparison c = workspace.comparison();
    if (c.source() == null) {
      assertThat(workspace.sourceProperty().get()).as(what).isNull();
      assertThat(workspace.sheetProperty().get()).as(what).isNull();
      assertThat(workspace.versionStates()).as(what).isEmpty();
      return;
    }
    String own = c.name();
    assertThat(workspace.sourceProperty().get().file()).as(what).isEqualTo(c.source().file());
    assertThat(c.source().sha256()).as(what).isEqualTo(Checksum.sha256(c.source().file()));
    // A tool's result belongs to the comparison that ordered it.
    for (Version v : c.versions()) {
      assertThat(v.media().file().getFileName().toString()).as(what).startsWith(own);
    }
    assertThat(workspace.versionStates().keySet())
        .as(what)
        .containsExactlyInAnyOrderElementsOf(c.versions().stream().map(Version::id).toList());
    try (Conductor alone = new Conductor(reader, store)) {
      String expected = ScoresJson.write(alone.run(c).sheet(), folder);
      assertThat(ScoresJson.write(workspace.sheetProperty().get(), folder))
          .as(what)
          .isEqualTo(expected);
    }
    for (String name : NAMES) {
      for (Version v : ComparisonFile.load(file(name)).versions()) {
        assertThat(v.media().file().getFileName().toString()).as(what).startsWith(name);
      }
    }
  }
}
