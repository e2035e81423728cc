package kettlesieve.app.frame;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Locale;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.media.CacheFolder;
import kettlesieve.core.media.CachePlace;
import kettlesieve.core.media.UserFolders;

/**
 * Where decoded samples and results are kept, how large they are, and how to be rid of them. The
 * folders are looked through on a thread of their own.
 */
final class CacheBox extends VBox {
  private final Workspace workspace;
  private final Label size = Texts.of("Looking …", "quiet", "small");
  private final Button empty = new Button("Empty it");

  CacheBox(Workspace workspace) {
    super(4);
    this.workspace = workspace;
    Label place = Texts.wrapped(UserFolders.cache().toString(), "small");
    place.setId("cache-place");
    size.setId("cache-size");
    empty.setId("cache-empty");
    empty.getStyleClass().add("tool-toggle");
    empty.setOnAction(e -> background(true));
    Button other = new Button("Another place …");
    other.setId("cache-other");
    other.getStyleClass().add("tool-toggle");
    other.setOnAction(e -> choose());
    Button usual = new Button("The usual place");
    usual.setId("cache-usual");
    usual.getStyleClass().add("tool-toggle");
    usual.setOnAction(e -> use(null));
    HBox line = new HBox(10, size, empty, other, usual);
    line.setAlignment(Pos.CENTER_LEFT);
    Label hint =
        Texts.wrapped(
            "Nothing of yours is in it. Another place counts from the next start on; KETTLE_CACHE"
                + " comes first where it is set.",
            "quiet",
            "small");
    getChildren().addAll(place, line, hint);
  }

  private void choose() {
    Choosers.folder(
            workspace.lastFolder(), "A folder for what can be made again", getScene().getWindow())
        .ifPresent(this::use);
  }

  private void use(Path place) {
    try {
      CachePlace.choose(UserFolders.state(), place);
      workspace.news().done("From the next start on it is kept " + words(place) + ".");
    } catch (IOException e) {
      workspace
          .messageProperty()
          .set(
              (place == null ? "The settings" : place.toString())
                  + " cannot be written to. Choose another folder.");
    }
  }

  private static String words(Path place) {
    return place == null ? "in the usual place" : "in " + place;
  }

  /** Looks how large it is. */
  void look() {
    background(false);
  }

  private void background(boolean emptied) {
    empty.setDisable(true);
    Path folder = UserFolders.cache();
    Thread thread =
        new Thread(
            () -> {
              String words;
              try {
                if (emptied) {
                  CacheFolder.empty(folder.resolve("decoded"));
                  CacheFolder.empty(folder.resolve("results"));
                }
                long bytes =
                    CacheFolder.bytes(folder.resolve("decoded"))
                        + CacheFolder.bytes(folder.resolve("results"));
                words = String.format(Locale.ROOT, "%.1f MB", bytes / 1e6);
              } catch (IOException e) {
                words = "cannot be looked through: " + e.getMessage();
              }
              String told = words;
              Platform.runLater(() -> told(told, emptied));
            },
            "cache size");
    thread.setDaemon(true);
    thread.start();
  }

  private void told(String words, boolean emptied) {
    size.setText(words);
    empty.setDisable(false);
    if (emptied) {
      workspace.news().done("What was kept is gone; it is made again when it is needed.");
    }
  }
}
