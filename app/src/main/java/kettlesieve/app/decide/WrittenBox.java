package kettlesieve.app.decide;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.collections.ListChangeListener;
import javafx.scene.control.Button;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.FlowPane;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import org.kordamp.ikonli.feather.Feather;

/** What was written: to be dragged into a file manager or an editing program, or copied there. */
final class WrittenBox extends FlowPane {
  private final Workspace workspace;

  WrittenBox(Workspace workspace) {
    super(6, 4);
    this.workspace = workspace;
    setId("written");
    setAlignment(javafx.geometry.Pos.CENTER_LEFT);
    ListChangeListener<Path> fill = c -> fill();
    workspace.handover().written().addListener(fill);
    fill();
  }

  private void fill() {
    List<Path> written = workspace.handover().written();
    getChildren().clear();
    setVisible(!written.isEmpty());
    setManaged(!written.isEmpty());
    if (written.isEmpty()) {
      return;
    }
    getChildren().add(Texts.of("Written; drag on, or click to copy:", "quiet", "small"));
    for (Path file : written) {
      getChildren().add(chip(file));
    }
  }

  private Button chip(Path file) {
    boolean folder = Files.isDirectory(file);
    Button chip =
        new Button(file.getFileName().toString(), Icons.of(folder ? Feather.FOLDER : Feather.FILE));
    chip.setMnemonicParsing(false);
    chip.getStyleClass().add("tool-toggle");
    chip.setMaxWidth(320);
    chip.setAccessibleText("Copy " + file.getFileName() + " to the clipboard as a file");
    Hint.set(chip, file + "\nDrag it into another program, or click to copy it.");
    chip.setOnAction(
        e -> {
          Clipboard.getSystemClipboard().setContent(content(file));
          workspace.news().done(file.getFileName() + " is on the clipboard: paste it elsewhere.");
        });
    chip.setOnDragDetected(
        e -> {
          Dragboard board = chip.startDragAndDrop(TransferMode.COPY);
          board.setContent(content(file));
          e.consume();
        });
    return chip;
  }

  /** The file; of a folder what is in it, as an editing program takes no folders. */
  static ClipboardContent content(Path file) {
    ClipboardContent content = new ClipboardContent();
    File[] inside = file.toFile().listFiles(f -> f.isFile() && !f.getName().startsWith("."));
    List<File> files =
        inside == null || inside.length == 0 ? List.of(file.toFile()) : List.of(inside);
    content.putFiles(files);
    return content;
  }
}
