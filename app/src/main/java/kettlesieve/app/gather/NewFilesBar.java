package kettlesieve.app.gather;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import kettlesieve.app.model.NewFiles;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;

/** Files that have appeared beside the versions, offered to be brought in. */
final class NewFilesBar extends HBox {
  private static final int NAMED = 3;

  /**
   * @param bringIn takes files in as if they had been dropped
   */
  NewFilesBar(Workspace workspace, Consumer<List<File>> bringIn) {
    super(10);
    NewFiles files = workspace.newFiles();
    setId("new-files");
    getStyleClass().add("activity");
    setAlignment(Pos.CENTER_LEFT);
    Label words = Texts.wrapped("");
    HBox.setHgrow(words, Priority.ALWAYS);
    words.setMaxWidth(Double.MAX_VALUE);
    Button take = new Button("Bring in");
    take.setId("new-files-take");
    take.getStyleClass().add("primary");
    take.setMinWidth(Region.USE_PREF_SIZE);
    take.setOnAction(
        e -> {
          List<File> all = files.offered().stream().map(Path::toFile).toList();
          files.leave();
          bringIn.accept(all);
        });
    Button leave = new Button("Not these");
    leave.setId("new-files-leave");
    leave.setMinWidth(Region.USE_PREF_SIZE);
    leave.setOnAction(e -> files.leave());
    getChildren().addAll(words, take, leave);
    ListChangeListener<Path> show = c -> words.setText(words(files.offered()));
    files.offered().addListener(show);
    words.setText(words(files.offered()));
    visibleProperty().bind(words.textProperty().isNotEmpty());
    managedProperty().bind(visibleProperty());
  }

  private static String words(List<Path> files) {
    if (files.isEmpty()) {
      return "";
    }
    String names =
        files.stream()
            .limit(NAMED)
            .map(f -> f.getFileName().toString())
            .collect(Collectors.joining(", "));
    String more = files.size() > NAMED ? " and " + (files.size() - NAMED) + " more" : "";
    return "New beside the versions: " + names + more;
  }
}
