package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Duration;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import kettlesieve.core.listen.SimulatedOut;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.signal.Progress;
import kettlesieve.core.work.ResultStore;
import kettlesieve.demo.Demo;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A workspace on the demo comparisons of the other kinds of job, without a window. */
abstract class JobsFixture {
  static final Path KEPT = Path.of(System.getProperty("kettle.kept", "target/kept"));
  static final Path demos = KEPT.resolve("demos");
  @TempDir Path folder;

  ExecutorService ui;
  Workspace workspace;

  @BeforeAll
  static void makeDemos() throws Exception {
    for (Demo demo : Demo.ALL.subList(2, 6)) {
      demo.make(demos, Progress.SILENT);
    }
  }

  @BeforeEach
  void setUp() {
    ui = Executors.newSingleThreadExecutor();
    workspace =
        new Workspace(
            ui::execute,
            new MediaReader(KEPT.resolve("decoded")),
            () -> new SimulatedOut(true),
            new ResultStore(KEPT.resolve("results")),
            folder.resolve("state"));
  }

  @AfterEach
  void tearDown() throws Exception {
    workspace.close();
    ui.shutdown();
    assertThat(ui.awaitTermination(5, TimeUnit.SECONDS)).isTrue();
  }

  interface ThrowingRunnable {
    void run() throws Exception;
  }

  void onUi(ThrowingRunnable action) {
    try {
      ui.submit(
              () -> {
                action.run();
                return null;
              })
          .get(20, TimeUnit.SECONDS);
    } catch (Exception e) {
      throw new AssertionError(e);
    }
  }

  static void await(BooleanSupplier condition) {
    Awaitility.await().atMost(Duration.ofSeconds(60)).until(condition::getAsBoolean);
  }

  static Path sieve(String name) {
    return demos.resolve(name).resolve(name + ".sieve");
  }

  void open(Path file, int entries) {
    onUi(() -> workspace.open(file));
    awaitSheet(entries);
  }

  void awaitSheet(int entries) {
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().entries().size() == entries
                && !workspace.busyProperty().get());
  }
}
