package kettlesieve.calibrate;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/**
 * A folder for the time of some work; gone with all that is in it when it is closed.
 *
 * @param path where it is
 */
public record WorkFolder(Path path) implements AutoCloseable {
  /** One within a folder, which is made if need be. */
  public static WorkFolder in(Path parent) throws IOException {
    Files.createDirectories(parent);
    return new WorkFolder(Files.createTempDirectory(parent, "work"));
  }

  /** Deletes a folder and what is in it; nothing if there is none. */
  public static void delete(Path folder) throws IOException {
    if (!Files.exists(folder)) {
      return;
    }
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(p);
      }
    }
  }

  @Override
  public void close() throws IOException {
    delete(path);
  }
}
