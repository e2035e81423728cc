package kettlesieve.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Platform;
import javafx.stage.Stage;
import javafx.util.Duration;
import kettlesieve.app.frame.Frame;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.PictureFile;

/** Draws the pictures of the documentation from the demo, one a step, at 1280x800, and ends. */
final class Shots {
  private static final double SETTLE_SECONDS = 2.5;

  private final Stage stage;
  private final Frame frame;
  private final Workspace workspace;
  private final Path folder;
  private int next;

  Shots(Stage stage, Frame frame, Workspace workspace, Path folder) {
    this.stage = stage;
    this.frame = frame;
    this.workspace = workspace;
    this.folder = folder;
  }

  void run() {
    stage.setWidth(1280);
    stage.setHeight(800);
    after(
        1,
        () -> {
          workspace.stepProperty().set(Step.GATHER);
          save("empty");
          frame.openDemo();
          await();
        });
  }

  private void await() {
    after(
        0.5,
        () -> {
          boolean ready =
              workspace.sheetProperty().get() != null && !workspace.busyProperty().get();
          if (ready) {
            workspace.listening().seek(6.4);
            workspace.listening().choose("v3");
            workspace.selection().reading("v3", "musical-noise");
            step();
          } else {
            await();
          }
        });
  }

  private void step() {
    if (next == Step.values().length) {
      Platform.exit();
      return;
    }
    Step step = Step.values()[next++];
    workspace.messageProperty().set("");
    workspace.stepProperty().set(step);
    after(
        SETTLE_SECONDS,
        () -> {
          save(step.name().toLowerCase(java.util.Locale.ROOT));
          step();
        });
  }

  private static void after(double seconds, Runnable action) {
    new Timeline(new KeyFrame(Duration.seconds(seconds), e -> action.run())).play();
  }

  private void save(String name) {
    try {
      PictureFile.write(stage.getScene().snapshot(null), folder.resolve(name + ".png"));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
