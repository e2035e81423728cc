package kettlesieve.core.media;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;

/**
 * Keeps other programs from changing a file while this one reads it, changes it and writes it: a
 * lock on a small hidden file beside it, which is gone afterwards.
 */
public final class FileGuard implements AutoCloseable {
  private static final long PATIENCE_MILLIS = 20_000;
  private static final Map<Path, ReentrantLock> OWN = new ConcurrentHashMap<>();

  private final Path file;
  private final ReentrantLock own;
  private final FileChannel channel;

  private FileGuard(Path file, ReentrantLock own, FileChannel channel) {
    this.file = file;
    this.own = own;
    this.channel = channel;
  }

  /**
   * Waits until nobody else guards the file.
   *
   * @throws IOException if another program does so for longer than saving ever takes, or the folder
   *     cannot be written
   */
  public static FileGuard of(Path guarded) throws IOException {
    Path target = guarded.toAbsolutePath().normalize();
    Path file = target.resolveSibling("." + target.getFileName() + ".lock");
    ReentrantLock own = OWN.computeIfAbsent(file, f -> new ReentrantLock());
    own.lock();
    try {
      long end = System.nanoTime() + PATIENCE_MILLIS * 1_000_000;
      while (System.nanoTime() < end) {
        FileChannel channel = held(file);
        if (channel != null) {
          return new FileGuard(file, own, channel);
        }
        Thread.sleep(5);
      }
      throw new IOException("another program has kept " + target + " to itself for too long");
    } catch (InterruptedException e) {
      own.unlock();
      Thread.currentThread().interrupt();
      throw new IOException("interrupted", e);
    } catch (IOException | RuntimeException e) {
      own.unlock();
      throw e;
    }
  }

  /** The locked file; null if another has it, or it was made or deleted meanwhile. */
  private static FileChannel held(Path file) throws IOException {
    // Looked at before it is opened and after it is locked: the name may stand for another file by
    // then, and the lock would be on one that is gone.
    Object before = key(file);
    if (before == null) {
      open(file, StandardOpenOption.CREATE).close();
      return null;
    }
    FileChannel channel;
    try {
      channel = open(file, StandardOpenOption.WRITE);
    } catch (NoSuchFileException e) {
      return null;
    }
    boolean kept = false;
    try {
      FileLock lock = channel.tryLock();
      kept = lock != null && before.equals(key(file));
      return kept ? channel : null;
    } finally {
      if (!kept) {
        channel.close();
      }
    }
  }

  private static FileChannel open(Path file, StandardOpenOption how) throws IOException {
    return FileChannel.open(file, how, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS);
  }

  private static Object key(Path file) throws IOException {
    try {
      BasicFileAttributes facts =
          Files.readAttributes(file, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
      return facts.fileKey() == null ? file : facts.fileKey();
    } catch (NoSuchFileException e) {
      return null;
    }
  }

  @Override
  public void close() {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      // An empty hidden file stays; whoever comes next locks it again.
    }
    try {
      channel.close();
    } catch (IOException e) {
      // The lock ends with the program at the latest.
    } finally {
      own.unlock();
    }
  }
}
