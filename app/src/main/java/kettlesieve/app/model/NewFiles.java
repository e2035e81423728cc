package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;

/**
 * Audio files that appear beside the versions while the window is open, and are named like them:
 * they are offered, never taken by themselves. {@link #look} is called on any one thread, the rest
 * on the interface thread.
 */
public final class NewFiles {
  private static final int MOST_FOLDERS = 20;
  private static final int MOST_FILES = 5000;

  private final FileWatch watch = new FileWatch();
  private final ObservableList<Path> offered = FXCollections.observableArrayList();
  private final ObservableList<Path> shown = FXCollections.unmodifiableObservableList(offered);
  private Set<Path> folders = Set.of();
  private Set<String> words = Set.of();
  private final Set<Path> known = new HashSet<>();
  private final Set<Path> listed = new HashSet<>();
  private final Set<Path> coming = new LinkedHashSet<>();

  NewFiles() {}

  /** What could be brought in now. */
  public ObservableList<Path> offered() {
    return shown;
  }

  /** These are not to be offered again. */
  public void leave() {
    offered.clear();
  }

  /** Beside the files of a comparison; what lies there now is not new. */
  void beside(Comparison c) {
    Set<Path> now = new LinkedHashSet<>();
    Set<String> first = new HashSet<>();
    for (Version v : c.versions()) {
      for (MediaRef ref : v.files()) {
        if (ref.named()) {
          now.add(ref.file().toAbsolutePath().getParent());
          first.add(firstWord(ref.file()));
        }
      }
    }
    if (c.source() != null && c.source().named()) {
      first.add(firstWord(c.source().file()));
    }
    Set<Path> own = new HashSet<>();
    c.files().stream().filter(MediaRef::named).forEach(ref -> own.add(ref.file()));
    offered.removeIf(own::contains);
    Set<Path> few = Set.copyOf(now.stream().limit(MOST_FOLDERS).toList());
    synchronized (this) {
      words = Set.copyOf(first);
      known.addAll(own);
      folders = few;
      listed.retainAll(few);
    }
  }

  /** Another comparison is open. */
  void forget() {
    offered.clear();
    synchronized (this) {
      folders = Set.of();
      known.clear();
      listed.clear();
      coming.clear();
    }
  }

  private static String firstWord(Path file) {
    String[] parts = FileNames.stem(file).toLowerCase(Locale.ROOT).split("[\\s_\\-+.()]+", 2);
    return parts[0];
  }

  private static Collection<Path> audioIn(Path folder) {
    try (Stream<Path> all = Files.list(folder)) {
      return all.limit(MOST_FILES)
          .filter(f -> !f.getFileName().toString().startsWith(".") && FileNames.audio(f))
          .toList();
    } catch (IOException | java.io.UncheckedIOException e) {
      return List.of();
    }
  }

  /**
   * Looks for new files that have come to rest.
   *
   * @param now milliseconds of any clock that goes on evenly
   * @return those that fit by their names
   */
  synchronized List<Path> look(long now) {
    for (Path folder : folders) {
      // What lies there at the first look is not new. Listing may take a while, and is done here.
      boolean first = listed.add(folder);
      for (Path file : audioIn(folder)) {
        if (known.add(file) && !first && words.contains(firstWord(file))) {
          // Remembered as if it were not there: it comes when it is whole.
          coming.add(file);
        }
      }
    }
    List<Path> whole = new java.util.ArrayList<>();
    watch.await(coming);
    for (FileWatch.Found found : watch.settled(now)) {
      if (found.change() != FileWatch.Change.GONE) {
        whole.add(found.file());
        coming.remove(found.file());
      }
    }
    return whole;
  }

  void offer(List<Path> files) {
    files.stream().filter(f -> !offered.contains(f)).forEach(offered::add);
  }
}
