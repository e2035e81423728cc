package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import kettlesieve.core.comparison.Comparison;

/** What a command writes, kept apart from what it reads. */
final class Outputs {
  /** Writes something to a file. */
  interface Content {
    void to(Path file) throws IOException;
  }

  private final List<Path> inputs = new ArrayList<>();

  /** Nothing is written over the files of a comparison. */
  void keep(Comparison comparison) {
    comparison.files().forEach(ref -> inputs.add(ref.file()));
  }

  /** Nothing is written over these. */
  void keep(Collection<Path> files) {
    inputs.addAll(files);
  }

  /**
   * Refuses names that are inputs, before any work is done.
   *
   * @throws UsageException with the name
   */
  void check(String target) {
    try {
      Path file = Path.of(target);
      for (Path input : inputs) {
        boolean same = file.toAbsolutePath().normalize().equals(input.toAbsolutePath().normalize());
        if (same || Files.exists(file) && Files.exists(input) && Files.isSameFile(file, input)) {
          throw new UsageException(
              target + ": this is one of the files compared. Choose another name");
        }
      }
    } catch (InvalidPathException e) {
      throw new UsageException(target + ": this is no name of a file");
    } catch (IOException e) {
      // What cannot be looked at is found out when it is written.
    }
  }

  /** Writes a file; false, with the reason said, if that cannot be done. */
  boolean write(String target, Content content, PrintWriter err) {
    try {
      content.to(Path.of(target));
      return true;
    } catch (IOException e) {
      err.println(
          "kettle: "
              + target
              + ": it could not be written. Check the folder and the room on disk.");
      return false;
    }
  }
}
