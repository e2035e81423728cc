package kettlesieve.app.model;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.WholeFile;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Keeps a copy of unsaved work until it is saved or given up by a person, so that nothing is lost
 * in a crash. Every window has a folder of its own, locked for as long as it lives, with one copy a
 * comparison; copies in folders that nobody holds any more were left by a crash.
 */
public final class Autosave implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Autosave.class);
  private static final String LOCK = "lock";
  private static final String ORIGIN = ".origin";
  private static final long DELAY_MILLIS = 400;

  /**
   * Work that a crash left.
   *
   * @param file the copy
   * @param comparison as it was
   * @param original the file it belongs to; null if it had none
   * @param sha256 checksum of that file when it was read; empty if it was not
   */
  public record Copy(Path file, Comparison comparison, Path original, String sha256) {}

  /** What is to be kept, and what it belongs to. */
  private record Work(Comparison comparison, Path original, String sha256) {}

  private final Path all;
  private final Path own;
  private final Map<Path, FileChannel> held = new HashMap<>();
  private final ScheduledExecutorService timer =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread thread = new Thread(task, "autosave");
            thread.setDaemon(true);
            return thread;
          });
  private int number = 1;
  private Work pending;
  private boolean closed;

  Autosave(Path folder) {
    this.all = folder.resolve("unsaved");
    this.own = all.resolve(UUID.randomUUID().toString());
  }

  /** Keeps the work as it is now, within a moment. */
  synchronized void later(Comparison comparison, Path original, String sha256) {
    boolean asked = pending != null;
    pending = new Work(comparison, original, sha256);
    if (!asked && !closed) {
      timer.schedule(this::flush, DELAY_MILLIS, TimeUnit.MILLISECONDS);
    }
  }

  /**
   * Keeps at once what is still to be kept.
   *
   * @return whether nothing is left to be kept; if not, the log says why
   */
  public synchronized boolean flush() {
    if (pending == null) {
      return true;
    }
    Work work = pending;
    pending = null;
    try {
      Files.createDirectories(own);
      hold(own);
      Path copy = copy(number);
      // The copy comes last: with it there is something to offer.
      WholeFile.write(
          origin(copy),
          work.sha256() + "\n" + (work.original() == null ? "" : work.original()) + "\n");
      ComparisonFile.save(work.comparison(), copy);
      return true;
    } catch (ComparisonFileException | IOException e) {
      LOG.warn("no recovery copy could be written", e);
      return false;
    }
  }

  private Path copy(int n) {
    return own.resolve(n + ComparisonFile.ENDING);
  }

  private static Path origin(Path copy) {
    return copy.resolveSibling(copy.getFileName() + ORIGIN);
  }

  /** Another comparison is open from now on; the copy of this one stays until it is offered. */
  synchronized void next() {
    flush();
    number++;
  }

  /** Forgets the copy of what is open: it is saved, or given up. */
  public synchronized void discard() {
    pending = null;
    delete(copy(number));
  }

  /** What crashes left, the newest first. Until {@link #release} no other window is offered it. */
  public synchronized List<Copy> left() {
    List<Path> files = new ArrayList<>();
    try (Stream<Path> folders = Files.list(all)) {
      for (Path folder : folders.filter(Files::isDirectory).toList()) {
        if (!folder.equals(own) && hold(folder)) {
          List<Path> copies = copies(folder);
          if (copies.isEmpty()) {
            let(folder);
          }
          files.addAll(copies);
        }
      }
    } catch (IOException e) {
      LOG.debug("no recovery copies", e);
    }
    files.sort(Comparator.comparingLong((Path f) -> f.toFile().lastModified()).reversed());
    List<Copy> copies = new ArrayList<>();
    for (Path file : files) {
      try {
        copies.add(read(file));
      } catch (ComparisonFileException | IOException e) {
        // It stays where it is: a person may still get something out of it.
        LOG.warn("the recovery copy {} cannot be read", file, e);
      }
    }
    return copies;
  }

  private static List<Path> copies(Path folder) throws IOException {
    try (Stream<Path> files = Files.list(folder)) {
      return files.filter(f -> f.toString().endsWith(ComparisonFile.ENDING)).toList();
    }
  }

  private static Copy read(Path file) throws ComparisonFileException, IOException {
    List<String> lines =
        Files.exists(origin(file))
            ? Files.readAllLines(origin(file), StandardCharsets.UTF_8)
            : List.of();
    String original = lines.size() > 1 ? lines.get(1) : "";
    return new Copy(
        file,
        ComparisonFile.load(file),
        original.isEmpty() ? null : Path.of(original),
        lines.isEmpty() ? "" : lines.get(0));
  }

  /** A person gave it up, or it is open and has a copy of its own by now. */
  public synchronized void forget(Copy copy) {
    delete(copy.file());
  }

  /** What was not decided may be offered to the next one who asks. */
  public synchronized void release() {
    for (Path folder : List.copyOf(held.keySet())) {
      if (!folder.equals(own)) {
        let(folder);
      }
    }
  }

  /** Whether the lock of a folder is ours now. */
  private boolean hold(Path folder) {
    if (held.containsKey(folder)) {
      return true;
    }
    FileChannel channel = null;
    try {
      channel =
          FileChannel.open(
              folder.resolve(LOCK), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
      FileLock lock = channel.tryLock();
      if (lock != null) {
        held.put(folder, channel);
        return true;
      }
      channel.close();
    } catch (IOException | OverlappingFileLockException e) {
      LOG.debug("{} is held by another", folder, e);
      close(channel);
    }
    return false;
  }

  /** Lets a folder go, and deletes it if nothing is in it. */
  private void let(Path folder) {
    FileChannel channel = held.remove(folder);
    try {
      if (channel != null && copies(folder).isEmpty()) {
        Files.deleteIfExists(folder.resolve(LOCK));
        Files.deleteIfExists(folder);
      }
    } catch (IOException e) {
      LOG.debug("{} stays", folder, e);
    }
    close(channel);
  }

  private static void close(FileChannel channel) {
    try {
      if (channel != null) {
        channel.close();
      }
    } catch (IOException e) {
      LOG.debug("a lock could not be closed", e);
    }
  }

  private static void delete(Path copy) {
    try {
      Files.deleteIfExists(copy);
      Files.deleteIfExists(origin(copy));
    } catch (IOException e) {
      LOG.warn("the recovery copy cannot be deleted", e);
    }
  }

  @Override
  public synchronized void close() {
    if (!closed) {
      closed = true;
      flush();
      timer.shutdownNow();
      release();
      let(own);
    }
  }
}
