package kettlesieve.app.shared;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import kettlesieve.app.model.LastFolder;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.FileNames;

/** Asks for files, beginning where the last one was. */
public final class Choosers {
  /** Audio files. */
  public static final FileChooser.ExtensionFilter AUDIO =
      new FileChooser.ExtensionFilter(
          "Audio", FileNames.audioEndings().stream().map(e -> "*." + e).toArray(String[]::new));

  /** Comparisons. */
  public static final FileChooser.ExtensionFilter COMPARISONS =
      new FileChooser.ExtensionFilter("Comparisons", "*" + ComparisonFile.ENDING);

  /** Who asks: the system's own dialogs, which no test can answer, or what stands in for them. */
  public interface Asker {
    /** Files to read; null or empty if nothing was chosen. */
    List<File> open(FileChooser chooser, Window owner, boolean several);

    /** A file to write; null if none was chosen. */
    File save(FileChooser chooser, Window owner);

    /** A folder; null if none was chosen. */
    File folder(DirectoryChooser chooser, Window owner);
  }

  private static final Asker SYSTEM =
      new Asker() {
        @Override
        public List<File> open(FileChooser chooser, Window owner, boolean several) {
          if (several) {
            return chooser.showOpenMultipleDialog(owner);
          }
          File one = chooser.showOpenDialog(owner);
          return one == null ? null : List.of(one);
        }

        @Override
        public File save(FileChooser chooser, Window owner) {
          return chooser.showSaveDialog(owner);
        }

        @Override
        public File folder(DirectoryChooser chooser, Window owner) {
          return chooser.showDialog(owner);
        }
      };

  private static Asker asker = SYSTEM;

  /** Lets another ask from now on; null for the system. Interface thread. */
  public static void askBy(Asker other) {
    asker = other == null ? SYSTEM : other;
  }

  private final FileChooser chooser = new FileChooser();
  private final LastFolder last;

  private Choosers(LastFolder last, String title, FileChooser.ExtensionFilter... filters) {
    this.last = last;
    chooser.setTitle(title);
    chooser.getExtensionFilters().addAll(filters);
    chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("All files", "*"));
    last.get().ifPresent(folder -> chooser.setInitialDirectory(folder.toFile()));
  }

  /** A dialog for files of some kinds, the first of which is chosen. */
  public static Choosers of(LastFolder last, String title, FileChooser.ExtensionFilter... filters) {
    return new Choosers(last, title, filters);
  }

  /** A dialog for audio files. */
  public static Choosers audio(LastFolder last, String title) {
    return of(last, title, AUDIO);
  }

  /** One file to read. */
  public Optional<Path> open(Window owner) {
    List<File> files = asker.open(chooser, owner, false);
    return taken(files == null || files.isEmpty() ? null : files.get(0));
  }

  /** Files to read; none if nothing was chosen. */
  public List<File> openSeveral(Window owner) {
    List<File> files = asker.open(chooser, owner, true);
    if (files == null || files.isEmpty()) {
      return List.of();
    }
    last.used(files.get(0).toPath());
    return files;
  }

  /** A file to write, in a folder if one is told. */
  public Optional<Path> save(Window owner, String name, Path folder) {
    chooser.setInitialFileName(name);
    if (folder != null && Files.isDirectory(folder)) {
      chooser.setInitialDirectory(folder.toFile());
    }
    return taken(asker.save(chooser, owner));
  }

  /** A folder to write to. */
  public static Optional<Path> folder(LastFolder last, String title, Window owner) {
    DirectoryChooser chooser = new DirectoryChooser();
    chooser.setTitle(title);
    last.get().ifPresent(folder -> chooser.setInitialDirectory(folder.toFile()));
    File folder = asker.folder(chooser, owner);
    return Optional.ofNullable(folder).map(File::toPath);
  }

  private Optional<Path> taken(File file) {
    if (file == null) {
      return Optional.empty();
    }
    last.used(file.toPath());
    return Optional.of(file.toPath());
  }
}
