package kettlesieve.app.frame;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import javafx.application.Platform;
import javafx.scene.control.ButtonBar;
import javafx.scene.control.ButtonType;
import javafx.stage.Window;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Dialogs;
import kettlesieve.core.comparison.ChangedElsewhereException;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.UserFolders;
import kettlesieve.demo.Demo;
import kettlesieve.demo.HarbourInterviews;

/** New, open, save: what happens to comparison files. */
public final class FileActions {
  private final Workspace workspace;
  private final Preferences preferences;
  private final java.util.function.Supplier<Window> window;

  FileActions(
      Workspace workspace, Preferences preferences, java.util.function.Supplier<Window> window) {
    this.workspace = workspace;
    this.preferences = preferences;
    this.window = window;
  }

  List<Path> recent() {
    return preferences.recent().stream().filter(p -> p.toFile().exists()).limit(5).toList();
  }

  void startNew() {
    if (mayLeave()) {
      workspace.startNew();
    }
  }

  void open() {
    if (mayLeave()) {
      Choosers.of(workspace.lastFolder(), "Open a comparison", Choosers.COMPARISONS)
          .open(window.get())
          .ifPresent(this::openNow);
    }
  }

  /** Opens a comparison, if what is open may be left; whether it is open now. */
  boolean openFile(Path path) {
    return mayLeave() && openNow(path);
  }

  private boolean openNow(Path path) {
    try {
      workspace.open(path);
      preferences.used(path);
      return true;
    } catch (ComparisonFileException e) {
      workspace.messageProperty().set(e.getMessage());
      return false;
    }
  }

  /** Saves to the comparison's file, or asks for one. */
  public boolean save() {
    Path file = workspace.document().fileProperty().get();
    return file == null ? saveAs() : saveTo(file);
  }

  boolean saveAs() {
    Path file = workspace.document().fileProperty().get();
    return Choosers.of(workspace.lastFolder(), "Save the comparison", Choosers.COMPARISONS)
        .save(
            window.get(),
            workspace.comparison().name().replaceAll("[^\\p{L}\\p{N}]+", "-")
                + ComparisonFile.ENDING,
            file == null ? null : file.toAbsolutePath().getParent())
        .map(this::saveTo)
        .orElse(false);
  }

  private boolean saveTo(Path chosen) {
    Path file = workspace.document().named(chosen);
    try {
      workspace.document().save(file);
      return saved(file);
    } catch (ChangedElsewhereException e) {
      return saveAfterAll(file);
    } catch (ComparisonFileException e) {
      workspace.messageProperty().set(e.getMessage());
      return false;
    }
  }

  private boolean saved(Path file) {
    preferences.used(file);
    workspace.news().done("Saved as " + file.getFileName() + ".");
    return true;
  }

  private boolean saveAfterAll(Path file) {
    ButtonType other = new ButtonType("Save under another name …", ButtonBar.ButtonData.YES);
    ButtonType over = new ButtonType("Write over it", ButtonBar.ButtonData.OTHER);
    ButtonType answer =
        Dialogs.ask(
            window.get(),
            "The file has changed",
            "Another program has changed "
                + file.getFileName()
                + " since it was opened here, in more than added versions. Writing over it takes"
                + " those changes away.",
            other,
            over,
            ButtonType.CANCEL);
    if (answer == other) {
      return saveAs();
    }
    if (answer != over) {
      return false;
    }
    try {
      workspace.document().saveOver(file);
      return saved(file);
    } catch (ComparisonFileException e) {
      workspace.messageProperty().set(e.getMessage());
      return false;
    }
  }

  /** Makes the first demo if it is not there yet, and opens it on the Measure step's figures. */
  void openDemo() {
    openDemo(Demo.ALL.get(0));
  }

  /** Makes a demo comparison if it is not there yet, and opens it. */
  void openDemo(Demo demo) {
    if (!mayLeave()) {
      return;
    }
    workspace.news().underWay("Preparing the demo recordings …");
    String own = System.getProperty("kettle.demo");
    Path folder = own != null ? Path.of(own) : UserFolders.state().resolve("demo");
    CompletableFuture.supplyAsync(
            () -> {
              try {
                return demo.make(folder, (what, share) -> {});
              } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
              }
            })
        .whenComplete(
            (file, error) ->
                Platform.runLater(
                    () -> {
                      if (error != null) {
                        workspace
                            .messageProperty()
                            .set(
                                "The demo could not be written to "
                                    + folder
                                    + ". Check that there is room, and try again.");
                      } else {
                        workspace.messageProperty().set("");
                        openNow(file);
                        workspace
                            .stepProperty()
                            .set(demo == Demo.ALL.get(0) ? Step.MEASURE : Step.LISTEN);
                      }
                    }));
  }

  /** Makes the demo's interviews if they are not there yet, and brings them into the round-up. */
  void openInterviews() {
    workspace.roundups().showingProperty().set(true);
    workspace.news().underWay("Preparing the interviews …");
    String own = System.getProperty("kettle.demo");
    Path folder =
        (own != null ? Path.of(own) : UserFolders.state().resolve("demo")).resolve("interviews");
    CompletableFuture.supplyAsync(
            () -> {
              try {
                return HarbourInterviews.make(folder, (what, share) -> {});
              } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
              }
            })
        .whenComplete(
            (made, error) ->
                Platform.runLater(
                    () -> {
                      workspace
                          .messageProperty()
                          .set(
                              error == null
                                  ? ""
                                  : "The demo could not be written to "
                                      + folder
                                      + ". Check that there is room, and try again.");
                      if (error == null) {
                        workspace.roundups().add(made);
                      }
                    }));
  }

  /** Whether what is open may be left: it is saved, or the person says so. */
  boolean mayLeave() {
    if (!workspace.document().unsavedProperty().get()) {
      return true;
    }
    ButtonType save = new ButtonType("Save", ButtonBar.ButtonData.YES);
    ButtonType leave = new ButtonType("Do not save", ButtonBar.ButtonData.NO);
    ButtonType answer =
        Dialogs.ask(
            window.get(),
            "Save the changes?",
            "\"" + workspace.comparison().name() + "\" has changes that are not saved.",
            save,
            leave,
            ButtonType.CANCEL);
    if (answer == leave) {
      // Said by a person: only now the copy of it may go.
      workspace.document().discardChanges();
    }
    return answer == leave || answer == save && save();
  }
}
