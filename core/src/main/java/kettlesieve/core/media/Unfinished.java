package kettlesieve.core.media;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ThreadLocalRandom;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Files and folders that are being made: under names that are the program's own and that no one can
 * guess, deleted when the program is ended by a signal, and swept by a later start where it was
 * killed.
 */
public final class Unfinished {
  private static final Logger LOG = LoggerFactory.getLogger(Unfinished.class);
  private static final String MARK = ".kettle-";
  private static final String FILE = ".part";
  private static final String FOLDER = ".run";
  private static final String LOCK = "lock";

  /** Younger ones may be about to be locked by the program that makes them. */
  private static final Duration OLD = Duration.ofMinutes(2);

  /** What is being made now, and what holds its lock. */
  private static final Map<Path, FileChannel> OPEN = new ConcurrentHashMap<>();

  private static final Map<Path, Boolean> SWEPT = new ConcurrentHashMap<>();

  /** How often a folder is tried again in which a tool that is being ended still writes. */
  private static final int TRIES = 40;

  static {
    Runtime.getRuntime().addShutdownHook(new Thread(Unfinished::deleteAll, "unfinished files"));
  }

  private Unfinished() {}

  private static Path fresh(Path folder, String ending) {
    long random = ThreadLocalRandom.current().nextLong() & Long.MAX_VALUE;
    return folder.resolve(MARK + Long.toString(random, 36) + ending);
  }

  /**
   * A new, empty file in a folder, and the channel to write it with.
   *
   * @param file its name
   * @param out to be closed by {@link #done}
   */
  record Part(Path file, FileChannel out) {}

  /** Begins a file. */
  static Part file(Path folder) throws IOException {
    Path file = fresh(folder, FILE);
    FileChannel out =
        FileChannel.open(
            file, StandardOpenOption.CREATE_NEW, StandardOpenOption.READ, StandardOpenOption.WRITE);
    OPEN.put(file, out);
    lock(out);
    return new Part(file, out);
  }

  /**
   * Begins a folder, which is there until {@link #done}.
   *
   * @throws IOException if it cannot be made
   */
  public static Path folder(Path in) throws IOException {
    Path folder = Files.createDirectory(fresh(in, FOLDER));
    FileChannel held =
        FileChannel.open(
            folder.resolve(LOCK), StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    OPEN.put(folder, held);
    lock(held);
    return folder;
  }

  /** Ends what was begun: whatever is still there under its name is deleted. */
  public static void done(Path begun) {
    FileChannel held = OPEN.remove(begun);
    if (held != null) {
      try {
        held.close();
      } catch (IOException e) {
        LOG.warn("{} could not be closed", begun, e);
      }
    }
    delete(begun);
  }

  private static void lock(FileChannel channel) {
    try {
      channel.tryLock();
    } catch (IOException e) {
      // Some network disks know no locks; then its age alone keeps it from being swept.
      LOG.debug("no lock on an unfinished file", e);
    }
  }

  private static void deleteAll() {
    try {
      for (int i = 0; i < TRIES && !OPEN.isEmpty(); i++) {
        OPEN.keySet().forEach(Unfinished::delete);
        OPEN.keySet().removeIf(p -> !Files.exists(p, LinkOption.NOFOLLOW_LINKS));
        Thread.sleep(OPEN.isEmpty() ? 0 : 50);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** Deletes a file, or a folder with all that is in it; links are deleted, never followed. */
  private static void delete(Path path) {
    if (!Files.exists(path, LinkOption.NOFOLLOW_LINKS)) {
      return;
    }
    try (Stream<Path> all = Files.walk(path)) {
      for (Path inner : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(inner);
      }
    } catch (IOException | java.io.UncheckedIOException e) {
      LOG.warn("{} could not be deleted", path, e);
    }
  }

  /** Sweeps a folder the first time that this program works in it. */
  public static void sweepOnce(Path folder) {
    if (SWEPT.putIfAbsent(folder.toAbsolutePath().normalize(), true) == null) {
      sweep(folder, Instant.now().minus(OLD));
    }
  }

  /**
   * Deletes what a program that was killed left in a folder: only what has a name of ours, is older
   * than a moment, and is locked by nobody.
   */
  static void sweep(Path folder, Instant before) {
    List<Path> left;
    try (Stream<Path> all = Files.list(folder)) {
      left = all.filter(Unfinished::ours).toList();
    } catch (IOException | java.io.UncheckedIOException e) {
      return;
    }
    for (Path path : left) {
      try {
        boolean old =
            Files.getLastModifiedTime(path, LinkOption.NOFOLLOW_LINKS).toInstant().isBefore(before);
        if (old && !OPEN.containsKey(path) && free(path)) {
          LOG.info("sweeping {}, which an earlier run left", path);
          delete(path);
        }
      } catch (IOException e) {
        LOG.debug("{} is left alone", path, e);
      }
    }
  }

  private static boolean ours(Path path) {
    String name = path.getFileName().toString();
    return name.startsWith(MARK)
        && (name.endsWith(FILE) && Files.isRegularFile(path, LinkOption.NOFOLLOW_LINKS)
            || name.endsWith(FOLDER) && Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS));
  }

  /** Whether nobody holds the lock. */
  private static boolean free(Path path) throws IOException {
    Path locked = Files.isDirectory(path) ? path.resolve(LOCK) : path;
    if (!Files.isRegularFile(locked, LinkOption.NOFOLLOW_LINKS)) {
      return true;
    }
    try (FileChannel channel = FileChannel.open(locked, StandardOpenOption.WRITE);
        FileLock lock = channel.tryLock()) {
      return lock != null;
    } catch (OverlappingFileLockException e) {
      return false;
    }
  }
}
