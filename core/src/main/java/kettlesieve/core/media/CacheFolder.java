package kettlesieve.core.media;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A folder that may be emptied at any time, and is used by several programs at once. */
public final class CacheFolder {
  private record Kept(Path file, long used, long bytes) {}

  private CacheFolder() {}

  /**
   * Bytes of all files in a folder and below; 0 if there is none.
   *
   * @throws IOException if it cannot be read
   */
  public static long bytes(Path folder) throws IOException {
    long bytes = 0;
    for (Path file : files(folder)) {
      bytes += file.toFile().length();
    }
    return bytes;
  }

  /**
   * Removes all files in a folder and below. Files that are mapped stay readable to whoever has
   * them open.
   *
   * @throws IOException if one cannot be removed
   */
  public static void empty(Path folder) throws IOException {
    for (Path file : files(folder)) {
      Files.deleteIfExists(file);
    }
  }

  private static List<Path> files(Path folder) throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(Files::isRegularFile).toList();
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  /**
   * Removes what was not used for longest until a folder is within its size.
   *
   * @param ending of the names of the files that count
   * @param most bytes that may stay
   * @throws IOException if the folder cannot be read
   */
  public static void prune(Path folder, String ending, long most) throws IOException {
    // Seen once: others touch and remove files meanwhile, which no sorting survives.
    List<Kept> files = new ArrayList<>();
    try (Stream<Path> all = Files.list(folder)) {
      all.filter(f -> f.getFileName().toString().endsWith(ending))
          .forEach(f -> files.add(new Kept(f, f.toFile().lastModified(), f.toFile().length())));
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    files.sort(Comparator.comparingLong(Kept::used));
    long bytes = files.stream().mapToLong(Kept::bytes).sum();
    for (Kept old : files) {
      if (bytes <= most) {
        return;
      }
      bytes -= old.bytes();
      Files.deleteIfExists(old.file());
    }
  }
}
