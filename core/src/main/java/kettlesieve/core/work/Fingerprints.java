package kettlesieve.core.work;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.PlainFile;
import kettlesieve.core.media.WholeFile;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Checksums of files by path, size and time of change, so that a file that was read before need not
 * be read again to know what it is. Kept in a small file; one that cannot be read or written is no
 * harm, since checksums can be taken again. Thread-safe.
 */
final class Fingerprints {
  private static final Logger LOG = LoggerFactory.getLogger(Fingerprints.class);
  private static final int MOST = 5000;
  private static final long LARGEST = 8L << 20;

  private final Path file;
  private final Map<String, String> known =
      new LinkedHashMap<>(64, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, String> eldest) {
          return size() > MOST;
        }
      };

  /**
   * @param file where they are kept; null to keep them in memory only
   */
  Fingerprints(Path file) {
    this.file = file;
    if (file != null && Files.isRegularFile(file)) {
      try {
        String text = new String(PlainFile.bytes(file, LARGEST), StandardCharsets.UTF_8);
        int first = text.indexOf('\n') + 1;
        if (!text.startsWith(Checksum.ofText(text.substring(first)) + "\n")) {
          throw new IOException("they were altered");
        }
        for (String line : text.substring(first).split("\n")) {
          int tab = line.indexOf('\t');
          if (tab == 64) {
            known.put(line.substring(tab + 1), line.substring(0, tab));
          }
        }
      } catch (IOException e) {
        LOG.warn("the checksums that were kept cannot be read; they are taken again", e);
      }
    }
  }

  private static Optional<String> key(Path path) {
    try {
      Path real = path.toAbsolutePath().normalize();
      return Optional.of(
          real
              + "\t"
              + Files.size(real)
              + "\t"
              + Files.getLastModifiedTime(real).to(TimeUnit.NANOSECONDS));
    } catch (IOException e) {
      return Optional.empty();
    }
  }

  /** The checksum of a file as it is now; empty if it was not seen as it is. */
  synchronized Optional<String> of(Path path) {
    return key(path).map(known::get);
  }

  /** Notes the checksum of a file that was just read. */
  synchronized void note(Path path, String sha256) {
    key(path).ifPresent(k -> known.put(k, sha256));
  }

  /** Keeps what is known for the next start. */
  synchronized void keep() {
    if (file == null) {
      return;
    }
    StringBuilder text = new StringBuilder();
    known.forEach((k, sha) -> text.append(sha).append('\t').append(k).append('\n'));
    try {
      Files.createDirectories(file.getParent());
      WholeFile.write(file, Checksum.ofText(text.toString()) + "\n" + text);
    } catch (IOException e) {
      LOG.warn("the checksums could not be kept", e);
    }
  }
}
