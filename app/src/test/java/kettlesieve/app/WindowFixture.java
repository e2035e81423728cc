package kettlesieve.app;

import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CopyOnWriteArrayList;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.stage.Stage;
import kettlesieve.app.frame.Frame;
import kettlesieve.app.frame.Look;
import kettlesieve.app.frame.Preferences;
import kettlesieve.app.gather.GatherView;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.listen.SimulatedOut;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.ResultStore;
import kettlesieve.demo.KeepersLog;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;

/** The real window on a workspace with the simulated output, and the demo's recordings. */
@ExtendWith(SteadyRobot.Extension.class)
abstract class WindowFixture {
  /** What all classes of window tests share: the demo, its decoded files, what was measured. */
  private static final Path KEPT =
      Path.of(System.getProperty("kettle.kept", "target/kept")).toAbsolutePath();

  private static final Path demo = KEPT.resolve("demos");

  @TempDir Path folder;

  final List<SimulatedOut> outputs = new CopyOnWriteArrayList<>();
  Workspace workspace;
  private Frame frame;

  /** Its beginning: what is clicked and shown is the same, and matched in half the time. */
  private static final Path beginning = KEPT.resolve("beginning");

  private static final double SECONDS = 14;

  @BeforeAll
  static void makeDemo() throws Exception {
    KeepersLog.make(demo, Progress.SILENT);
    Files.createDirectories(beginning);
    try (DirectoryStream<Path> recordings =
        Files.newDirectoryStream(demo, "keepers-log-*.{wav,flac}")) {
      for (Path recording : recordings) {
        String name = recording.getFileName().toString().replace(".flac", ".wav");
        if (!Files.exists(beginning.resolve(name))) {
          Audio whole =
              new MediaReader(KEPT.resolve("decoded")).read(recording, Progress.SILENT).audio();
          long frames = Math.round(SECONDS * whole.sampleRate());
          WavWriter.write(
              whole.slice(0, Math.min(frames, whole.frames())),
              beginning.resolve(name),
              WavWriter.Format.PCM_24,
              Progress.SILENT);
        }
      }
    }
  }

  void show(Stage stage) {
    workspace =
        new Workspace(
            Platform::runLater,
            new MediaReader(KEPT.resolve("decoded")),
            () -> {
              SimulatedOut out = new SimulatedOut(true);
              outputs.add(out);
              return out;
            },
            new ResultStore(KEPT.resolve("results")),
            folder.resolve("state"));
    frame = new Frame(workspace, new Preferences(folder.resolve("state")));
    Scene scene = new Scene(frame, 1280, 800);
    Look.apply(scene);
    frame.installKeys(scene);
    stage.setScene(scene);
    // One that another test made smaller would hide what this one looks for.
    stage.sizeToScene();
    stage.show();
    stage.toFront();
    frame.requestFocus();
  }

  @AfterEach
  void tearDown() {
    frame.dispose();
    workspace.close();
  }

  static void await(Callable<Boolean> condition) {
    Awaitility.await().atMost(Duration.ofSeconds(60)).until(condition);
  }

  static Path demo() {
    return demo;
  }

  Frame frame() {
    return frame;
  }

  GatherView gather() {
    return frame.gather();
  }

  static Path file(String name) {
    return beginning.resolve("keepers-log-" + name);
  }

  /** The source and two versions, matched and measured. */
  void bringIn(FxRobot robot) {
    robot.interact(
        () ->
            workspace.addFiles(
                List.of(
                    file("tape.wav"),
                    file("plain-subtraction-60.wav"),
                    file("smoothed-wiener-30.wav"))));
    awaitSheet();
  }

  void awaitSheet() {
    awaitSheet(2);
  }

  void awaitSheet(int versions) {
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().entries().size() == versions
                && !workspace.busyProperty().get());
  }

  /** A copy of a demo comparison, so that what a test changes stays its own; measured. */
  void open(FxRobot robot, String name) throws Exception {
    Comparison c = ComparisonFile.load(demo().resolve(name).resolve(name + ".sieve"));
    Path copy = folder.resolve(name + ".sieve");
    ComparisonFile.save(c, copy);
    robot.interact(
        () -> {
          try {
            workspace.open(copy);
          } catch (Exception e) {
            throw new AssertionError(e);
          }
        });
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().entries().size() == c.versions().size()
                && !workspace.busyProperty().get());
  }

  void goTo(FxRobot robot, Step step) {
    robot.interact(() -> workspace.stepProperty().set(step));
  }

  static <T extends Node> T find(FxRobot robot, String query, Class<T> type) {
    return robot.lookup(query).queryAs(type);
  }

  /** Chooses a value in a box that is chosen from. */
  @SuppressWarnings("unchecked")
  static <T> void choose(FxRobot robot, String box, T value) {
    robot.interact(() -> find(robot, box, ComboBox.class).setValue(value));
  }

  /** Types into a field and ends with Enter. */
  static void type(FxRobot robot, String field, String text) {
    robot.interact(
        () -> {
          TextField box = find(robot, field, TextField.class);
          box.setText(text);
          box.getOnAction().handle(null);
        });
  }

  /** Whether a text stands in the window. */
  static boolean text(FxRobot robot, String part) {
    return robot
        .lookup((Labeled l) -> l.getText() != null && l.getText().contains(part))
        .tryQuery()
        .isPresent();
  }
}
