package kettlesieve.app.model;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Whether files are as they were when they were looked at last: by size and time of change, without
 * opening them. Thread-safe.
 */
final class FileWatch {
  /** How a file differs from what it was. */
  enum Change {
    GONE("is gone"),
    BACK("is there again"),
    REPLACED("was replaced");

    private final String words;

    Change(String words) {
      this.words = words;
    }
  }

  /**
   * A file that differs.
   *
   * @param file which
   * @param change how
   */
  record Found(Path file, Change change) {
    /** For people. */
    String words() {
      return file.getFileName() + " " + change.words;
    }
  }

  private record Stamp(long modified, long bytes) {
    static Stamp of(Path file) {
      return new Stamp(file.toFile().lastModified(), file.toFile().length());
    }

    boolean gone() {
      return modified == 0;
    }
  }

  private final Map<Path, Stamp> seen = new HashMap<>();

  /** Remembers files as they are now; others are forgotten. */
  synchronized void remember(Collection<Path> files) {
    seen.keySet().retainAll(files);
    files.forEach(f -> seen.put(f, Stamp.of(f)));
  }

  /** Files that are not as they were remembered; they are remembered as they are now. */
  synchronized List<Found> changed() {
    List<Found> found = new ArrayList<>();
    seen.replaceAll(
        (file, was) -> {
          Stamp is = Stamp.of(file);
          if (!is.equals(was)) {
            Change change = is.gone() ? Change.GONE : was.gone() ? Change.BACK : Change.REPLACED;
            found.add(new Found(file, change));
          }
          return is;
        });
    return found;
  }
}
