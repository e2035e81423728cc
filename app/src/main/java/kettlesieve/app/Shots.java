package kettlesieve.app;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Platform;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javafx.stage.Stage;
import javafx.util.Duration;
import javax.imageio.ImageIO;
import kettlesieve.app.frame.Frame;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;

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
    WritableImage image = stage.getScene().snapshot(null);
    int width = (int) image.getWidth();
    int height = (int) image.getHeight();
    BufferedImage copy = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    PixelReader pixels = image.getPixelReader();
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        copy.setRGB(x, y, pixels.getArgb(x, y));
      }
    }
    try {
      Files.createDirectories(folder);
      ImageIO.write(copy, "png", folder.resolve(name + ".png").toFile());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
