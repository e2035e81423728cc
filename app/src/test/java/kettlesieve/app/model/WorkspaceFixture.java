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
import kettlesieve.core.work.ResultStore;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A workspace without a window; a single thread stands for the interface's. */
abstract class WorkspaceFixture {
  static final Path KEPT = Path.of(System.getProperty("kettle.kept", "target/kept"));
  static final Path demos = KEPT.resolve("demos");
  @TempDir Path folder;

  ExecutorService ui;
  Workspace workspace;

  @BeforeEach
  void setUp() {
    ui = Executors.newSingleThreadExecutor();
    workspace = create();
  }

  Workspace create() {
    return new Workspace(
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

  /** Does something where the interface would, and waits for it. */
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

  void awaitSheet(int entries) {
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().entries().size() == entries
                && !workspace.busyProperty().get());
  }
}
