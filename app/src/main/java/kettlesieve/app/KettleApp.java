package kettlesieve.app;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.List;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.beans.value.ChangeListener;
import javafx.beans.value.ObservableValue;
import javafx.geometry.Rectangle2D;
import javafx.scene.Scene;
import javafx.scene.control.ButtonBar;
import javafx.scene.control.ButtonType;
import javafx.stage.Screen;
import javafx.stage.Stage;
import kettlesieve.app.frame.Frame;
import kettlesieve.app.frame.Look;
import kettlesieve.app.frame.Magnified;
import kettlesieve.app.frame.Preferences;
import kettlesieve.app.model.Autosave;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Dialogs;
import kettlesieve.app.shared.Ink;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.listen.JavaSoundOut;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.UserFolders;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.work.ResultStore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The application: one window on one workspace. */
public final class KettleApp extends Application {
  private static final Logger LOG = LoggerFactory.getLogger(KettleApp.class);

  private Workspace workspace;
  private Preferences preferences;
  private Stage stage;

  @Override
  public void start(Stage primary) {
    stage = primary;
    Thread.setDefaultUncaughtExceptionHandler(
        (thread, e) -> {
          LOG.error("an error in {}", thread.getName(), e);
          Platform.runLater(
              () ->
                  workspace
                      .messageProperty()
                      .set("The program made an error of its own; its log says more."));
        });
    preferences = new Preferences(UserFolders.state());
    workspace =
        new Workspace(
            Platform::runLater,
            MediaReader.standard(),
            () -> new JavaSoundOut(preferences.device()),
            ResultStore.standard(),
            UserFolders.state());
    // While the window is being built, what was measured before is already being looked up.
    openNamed(getParameters().getRaw());
    Frame frame = new Frame(workspace, preferences);
    // A small screen gets a window that fits it.
    Rectangle2D room = Screen.getPrimary().getVisualBounds();
    Ink.wear(preferences.look());
    Magnified whole = new Magnified(frame, preferences.sizeProperty());
    Scene scene =
        new Scene(whole, Math.min(1280, room.getWidth()), Math.min(800, room.getHeight()));
    Look.apply(scene);
    frame.installKeys(scene);
    stage.setScene(scene);
    stage.setMinWidth(Magnified.LEAST_WIDTH);
    stage.setMinHeight(Magnified.LEAST_HEIGHT);
    preferences.place(stage);
    stage.titleProperty().bind(frame.titleProperty());
    stage.setOnCloseRequest(
        event -> {
          if (!frame.mayClose()) {
            event.consume();
          }
        });
    stage
        .focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (is) {
                workspace.lookAgain();
              }
            });
    // A signal ends the program without a word; what was not kept yet is kept then.
    Runtime.getRuntime()
        .addShutdownHook(new Thread(() -> workspace.document().autosave().flush(), "last copy"));
    stage.show();
    frame.requestFocus();
    long shown = System.nanoTime();
    workspace
        .sheetProperty()
        .addListener(
            new ChangeListener<>() {
              @Override
              public void changed(
                  ObservableValue<? extends ScoreSheet> sheet, ScoreSheet was, ScoreSheet is) {
                workspace.sheetProperty().removeListener(this);
                LOG.info(
                    "first sheet {} ms after the window", (System.nanoTime() - shown) / 1_000_000);
              }
            });
    workspace.watchFiles();
    begin(frame, getParameters().getRaw());
    long started = java.lang.management.ManagementFactory.getRuntimeMXBean().getStartTime();
    LOG.info("window shown {} ms after start", System.currentTimeMillis() - started);
  }

  private void openNamed(List<String> arguments) {
    if (!arguments.isEmpty() && !arguments.get(0).startsWith("--")) {
      try {
        workspace.open(Path.of(arguments.get(0)));
      } catch (ComparisonFileException e) {
        workspace.messageProperty().set(e.getMessage());
      } catch (InvalidPathException e) {
        workspace.messageProperty().set("No file can be called " + arguments.get(0) + ".");
      }
    }
  }

  private void begin(Frame frame, List<String> arguments) {
    if (arguments.contains("--shots")) {
      int at = arguments.indexOf("--shots");
      List<String> names = arguments.subList(at + 2, arguments.size());
      new Shots(stage, frame, workspace, Path.of(arguments.get(at + 1)), names).run();
      return;
    }
    boolean recovered = offerUnsaved();
    if (arguments.contains("--demo") && !recovered) {
      frame.openDemo();
    }
  }

  /** Whatever was opened: work that a crash left is offered at every start until it is decided. */
  private boolean offerUnsaved() {
    Autosave autosave = workspace.document().autosave();
    for (Autosave.Copy copy : autosave.left()) {
      ButtonType goOn = new ButtonType("Go on with it", ButtonBar.ButtonData.YES);
      ButtonType giveUp = new ButtonType("Give it up", ButtonBar.ButtonData.OTHER);
      ButtonType later = new ButtonType("Ask again next time", ButtonBar.ButtonData.CANCEL_CLOSE);
      ButtonType answer =
          Dialogs.ask(
              stage,
              "There is unsaved work",
              "The program ended before \""
                  + copy.comparison().name()
                  + "\" was saved"
                  + (copy.original() == null ? "" : " (" + copy.original().getFileName() + ")")
                  + ". Go on with it?",
              goOn,
              giveUp,
              later);
      if (answer == giveUp) {
        autosave.forget(copy);
      }
      if (answer == goOn) {
        workspace.recover(copy);
        autosave.release();
        return true;
      }
    }
    autosave.release();
    return false;
  }

  @Override
  public void stop() {
    preferences.remember(stage);
    workspace.close();
  }
}
