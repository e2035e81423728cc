package kettlesieve.core.media;

import java.io.IOException;
import java.io.Reader;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Properties;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Where a person wants kept what can be made again, as {@code settings.properties} in a folder
 * says. It counts from the next start on: what is open keeps to where it began.
 */
public final class CachePlace {
  private static final Logger LOG = LoggerFactory.getLogger(CachePlace.class);
  private static final String KEY = "cache";

  private CachePlace() {}

  private static Path settings(Path folder) {
    return folder.resolve("settings.properties");
  }

  private static Properties read(Path folder) throws IOException {
    Properties values = new Properties();
    if (Files.isRegularFile(settings(folder))) {
      try (Reader in = Files.newBufferedReader(settings(folder), StandardCharsets.UTF_8)) {
        values.load(in);
      } catch (IllegalArgumentException e) {
        throw new IOException("the settings are damaged", e);
      }
    }
    return values;
  }

  /** The place that was chosen; empty for the usual one. */
  public static Optional<Path> chosen(Path folder) {
    try {
      String place = read(folder).getProperty(KEY, "").strip();
      return place.isEmpty() ? Optional.empty() : Optional.of(Path.of(place));
    } catch (IOException | InvalidPathException e) {
      LOG.warn("{} cannot be used; the cache is where it usually is", settings(folder), e);
      return Optional.empty();
    }
  }

  /**
   * Chooses a place; what else the settings say stays.
   *
   * @param place a folder that can be written to; null for the usual one
   * @throws IOException if it cannot be written to, or the settings cannot be kept
   */
  public static void choose(Path folder, Path place) throws IOException {
    if (place != null) {
      Files.createDirectories(place);
      // Found out now, not when something is to be kept there.
      Files.delete(Files.createTempFile(place, "kettle", ".try"));
    }
    Properties values = read(folder);
    if (place == null) {
      values.remove(KEY);
    } else {
      values.setProperty(KEY, place.toAbsolutePath().toString());
    }
    Files.createDirectories(folder);
    StringWriter text = new StringWriter();
    values.store(text, null);
    WholeFile.write(settings(folder), text.toString());
  }
}
