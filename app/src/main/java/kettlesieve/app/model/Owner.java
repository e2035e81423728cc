package kettlesieve.app.model;

import java.nio.file.Path;

/**
 * A comparison as long as the program knows it: what was ordered for it belongs to it, also when
 * another is open meanwhile.
 */
final class Owner {
  private final long id;
  private Path file;

  /**
   * @param id counted as comparisons are opened
   * @param file the file it belongs to; null as long as it has none
   */
  Owner(long id, Path file) {
    this.id = id;
    this.file = file;
  }

  long id() {
    return id;
  }

  Path file() {
    return file;
  }

  void savedTo(Path path) {
    file = path;
  }

  /** Whether both are the same comparison, opened once or twice. */
  boolean same(Owner other) {
    return id == other.id || file != null && other.file != null && at(file).equals(at(other.file));
  }

  private static Path at(Path path) {
    return path.toAbsolutePath().normalize();
  }
}
