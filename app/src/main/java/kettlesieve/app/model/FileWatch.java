package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.media.MediaReader;

/**
 * Whether files are as they were when they were looked at last: by size, time of change and
 * identity, without opening those that stayed. A file that is being written is left alone until it
 * has stood still for a while and holds all that it promises. Looked at by asking: what tells of
 * changes by itself knows nothing of disks on other machines. Thread-safe.
 */
final class FileWatch {
  /** So long a file must have stood still, in milliseconds, before it counts as written. */
  static final long STILL = 700;

  /** So long a file may be away, as when another takes its place. */
  static final long AWAY = 1400;

  /** A file that stands still and lacks a part is told of after all: it was cut off. */
  static final long CUT_OFF = 10_000;

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

  private record Stamp(long modified, long bytes, Object identity) {
    static final Stamp GONE = new Stamp(0, -1, null);

    static Stamp of(Path file) {
      try {
        BasicFileAttributes a = Files.readAttributes(file, BasicFileAttributes.class);
        return new Stamp(
            a.lastModifiedTime().to(java.util.concurrent.TimeUnit.NANOSECONDS),
            a.size(),
            a.fileKey());
      } catch (IOException e) {
        return GONE;
      }
    }

    boolean gone() {
      return equals(GONE);
    }
  }

  /** A stamp that differs from what was seen, and since when it has stood still. */
  private record Moving(Stamp stamp, long since) {}

  private final Map<Path, Stamp> seen = new HashMap<>();
  private final Map<Path, Moving> moving = new HashMap<>();

  /** Remembers files as they are now; others are forgotten, and so is what was about to be told. */
  synchronized void remember(Collection<Path> files) {
    seen.keySet().retainAll(files);
    moving.keySet().retainAll(files);
    for (Path file : files) {
      // What is still being written is not taken for what was read.
      if (!moving.containsKey(file)) {
        seen.put(file, Stamp.of(file));
      }
    }
  }

  /** Files that are awaited: they are told of as if they were not there yet. */
  synchronized void await(Collection<Path> files) {
    seen.keySet().retainAll(files);
    moving.keySet().retainAll(files);
    files.forEach(f -> seen.putIfAbsent(f, Stamp.GONE));
  }

  /** Files that are not as they were remembered; they are remembered as they are now. */
  synchronized List<Found> changed() {
    List<Found> found = new ArrayList<>();
    moving.clear();
    seen.replaceAll((file, was) -> told(file, was, Stamp.of(file), found));
    return found;
  }

  /**
   * The same, of those that have come to rest.
   *
   * @param now milliseconds of any clock that goes on evenly
   */
  synchronized List<Found> settled(long now) {
    List<Found> found = new ArrayList<>();
    seen.replaceAll(
        (file, was) -> {
          Stamp is = Stamp.of(file);
          if (is.equals(was)) {
            moving.remove(file);
            return was;
          }
          Moving before = moving.get(file);
          if (before == null || !before.stamp().equals(is)) {
            moving.put(file, new Moving(is, now));
            return was;
          }
          long still = now - before.since();
          boolean rests =
              is.gone()
                  ? still >= AWAY
                  : still >= STILL && (still >= CUT_OFF || MediaReader.looksWhole(file));
          if (!rests || !is.equals(Stamp.of(file))) {
            return was;
          }
          moving.remove(file);
          return told(file, was, is, found);
        });
    return found;
  }

  private static Stamp told(Path file, Stamp was, Stamp is, List<Found> found) {
    if (!is.equals(was)) {
      Change change = is.gone() ? Change.GONE : was.gone() ? Change.BACK : Change.REPLACED;
      found.add(new Found(file, change));
    }
    return is;
  }
}
