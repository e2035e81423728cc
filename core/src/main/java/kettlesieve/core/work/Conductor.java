package kettlesieve.core.work;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ThreadFactory;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads, matches, measures and ranks a comparison: the one place where that is done, for the window
 * and for the command line. All versions are matched before any is measured, because what the
 * others hold may decide whose a cell is. What was worked out before, for the same bytes, the same
 * parameters and the same code, is taken from the {@link ResultStore}.
 *
 * <p>A version that cannot be used is listed as failed, and the others go on. Versions are worked
 * on side by side; results do not depend on how many at once.
 *
 * <p>One run at a time, on the thread that asks for it: {@link Recall} what is known, {@link
 * ReadComparison} the files, {@link PreparedSource} from the source, {@link VersionRun} over the
 * versions. When {@code run} returns or throws, none of its threads is alive any more. A stop is
 * heeded within a moment, wherever the work is ({@link Stop#over(Stop, Stop.Task)}); what a stopped
 * run had worked out whole is kept for the next.
 */
public final class Conductor implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Conductor.class);

  /** Told how the work goes on; from threads of the conductor. */
  public interface Listener {
    /** Tells nobody. */
    Listener SILENT = new Listener() {};

    /** What is being done, and how much of it. */
    default void progress(String what, double share) {}

    /** What was measured before is there, while files are still to be read. */
    default void recalled(Results results) {}

    /** The source was read, and not analysed yet. */
    default void sourceRead(Recording source) {}

    /** The source was analysed. */
    default void sourceReady(Recording source, Recording reference, PreparedSource prepared) {}

    /** The files of a version were read. */
    default void versionRead(String versionId, Map<String, Recording> files) {}

    /** A version was matched, at its first place. */
    default void versionMatched(String versionId, Matched matched) {}

    /** A version cannot be used. */
    default void versionFailed(String versionId, String problem) {}

    /** Some versions are measured; the others follow. */
    default void measured(Results results) {}
  }

  private final ResultStore store;
  private final Width width;
  private final ThreadFactory threads;
  private final ReadRecordings recordings;
  private final Map<WorkKey, List<Matched>> matches = new LinkedHashMap<>();
  private WorkKey preparedKey;
  private PreparedSource prepared;

  /**
   * @param reader reads recordings
   * @param store keeps results
   */
  public Conductor(MediaReader reader, ResultStore store) {
    this(reader, store, Width.ofMachine(), Thread::new);
  }

  /**
   * The same with everything told.
   *
   * @param width how many versions side by side
   * @param threads makes the threads that work on them
   */
  public Conductor(MediaReader reader, ResultStore store, Width width, ThreadFactory threads) {
    this.recordings = new ReadRecordings(reader, store.fingerprints());
    this.store = store;
    this.width = width;
    this.threads = threads;
  }

  /**
   * Works on a comparison.
   *
   * @throws MediaException if the source or the reference cannot be used
   */
  public Results run(Comparison comparison) throws MediaException {
    return run(comparison, Listener.SILENT, Stop.NEVER);
  }

  /**
   * Works on a comparison.
   *
   * @param listener told how it goes on
   * @param stop asked now and then
   * @throws MediaException if the source or the reference cannot be used; the versions are read all
   *     the same, and told of
   */
  public Results run(Comparison comparison, Listener listener, Stop stop) throws MediaException {
    recordings.keepOnly(comparison.files().stream().map(MediaRef::file).toList());
    try {
      return Stop.over(stop, () -> runOver(comparison, listener, stop));
    } finally {
      store.fingerprints().keep();
    }
  }

  private Results runOver(Comparison comparison, Listener listener, Stop stop)
      throws MediaException {
    new Recall(comparison, store).results().ifPresent(listener::recalled);
    ReadComparison read = new ReadComparison(this::read, comparison, listener, stop);
    try {
      read.source();
      prepare(comparison, read);
      listener.sourceReady(read.sourceRecording(), read.reference(), prepared);
    } catch (MatchException e) {
      read.versions();
      throw new MediaException(
          comparison.source().file(), "it cannot be compared", capitalised(e.getMessage()), e);
    } catch (MediaException e) {
      read.versions();
      throw e;
    }
    read.versions();
    read.truth();
    return new VersionRun(read.whole(), prepared, preparedKey, store, listener, matches)
        .go(width, threads, stop);
  }

  /** Reads the files of the versions of a comparison that has no source yet. */
  public void readVersions(Comparison comparison, Listener listener, Stop stop) {
    ReadComparison read = new ReadComparison(this::read, comparison, listener, stop);
    Stop.over(
        stop,
        () -> {
          read.versions();
          return read;
        });
  }

  /** Works out the source's side, if the last run did not leave it. */
  private void prepare(Comparison comparison, ReadComparison read) throws MatchException {
    WorkKey key = WorkKey.ofSource(comparison, read::checksum);
    if (key.equals(preparedKey) && prepared != null) {
      prepared = prepared.with(comparison);
      return;
    }
    Optional<ResultStore.SourceEntry> known = store.source(key);
    if (known.isEmpty()) {
      read.progress().at("looking for pauses", -1);
    }
    prepared = null;
    // Only what belongs to this source and excerpt is worth keeping in memory.
    matches.clear();
    prepared =
        PreparedSource.of(
            comparison,
            read.sourceRecording(),
            read.reference(),
            known.map(ResultStore.SourceEntry::places).orElse(List.of()));
    preparedKey = key;
    if (known.isEmpty()) {
      store.put(
          key,
          new ResultStore.SourceEntry(
              read.sourceRecording().facts(), prepared.warnings(), prepared.known()));
    }
  }

  /** Forgets recordings, matched versions and results that are held in memory. */
  public void forget() {
    recordings.forget();
    matches.clear();
    prepared = null;
    preparedKey = null;
    store.forget();
  }

  @Override
  public void close() {
    store.fingerprints().keep();
    recordings.forget();
    matches.clear();
  }

  private static String capitalised(String sentence) {
    return Character.toUpperCase(sentence.charAt(0)) + sentence.substring(1);
  }

  /** A recording as the conductor has it: read before, or read now. */
  public Recording read(MediaRef ref, Progress progress) throws MediaException {
    return recordings.read(ref, progress);
  }
}
