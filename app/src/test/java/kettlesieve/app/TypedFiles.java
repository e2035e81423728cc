package kettlesieve.app;

import java.io.File;
import java.nio.file.Path;
import java.util.Deque;
import java.util.List;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import kettlesieve.app.shared.Choosers;

/**
 * Answers the system's file dialogs, which no test can.
 *
 * @param typed what a person would type into them, one after another
 */
record TypedFiles(Deque<Path> typed) implements Choosers.Asker {
  @Override
  public List<File> open(FileChooser chooser, Window owner, boolean several) {
    return List.of(typed.removeFirst().toFile());
  }

  @Override
  public File save(FileChooser chooser, Window owner) {
    return typed.removeFirst().toFile();
  }

  @Override
  public File folder(DirectoryChooser chooser, Window owner) {
    return typed.removeFirst().toFile();
  }
}
