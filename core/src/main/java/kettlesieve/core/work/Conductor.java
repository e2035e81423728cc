package kettlesieve.core.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ThreadFactory;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.AlikeVersions;
import kettlesieve.core.match.Fairness;
import kettlesieve.core.match.Found;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;
import kettlesieve.core.measure.cells.StemCells;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.VersionFacts;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Progress;
import kettlesieve.core.signal.Stop;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads, matches, measures and ranks a comparison: the one place where that is done, for the window
 * and for the command line. All versions are matched before any is measured, because what the
 * others hold may decide whose a cell is. What was worked out before, for the same bytes, the same
 * parameters and the same code, is taken from the {@link ResultStore}.
 *
 * <p>A version that cannot be used is listed as failed, and the others go on. Versions are worked
 * on side by side; results do not depend on how many at once. One run at a time.
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
    default void sourceReady(Recording source, Recording reference, Examination examination) {}

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
  private WorkKey examinedKey;
  private Examination examined;

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
    return new Run(comparison, listener, stop).go();
  }

  /** Reads the files of the versions of a comparison that has no source yet. */
  public void readVersions(Comparison comparison, Listener listener, Stop stop) {
    new Run(comparison, listener, stop).readVersions();
  }

  /** Forgets recordings, matched versions and results that are held in memory. */
  public void forget() {
    recordings.forget();
    matches.clear();
    examined = null;
    examinedKey = null;
    store.forget();
  }

  @Override
  public void close() {
    store.fingerprints().keep();
    recordings.forget();
    matches.clear();
  }

  /** A recording as the conductor has it: read before, or read now. */
  public Recording read(MediaRef ref, Progress progress) throws MediaException {
    return recordings.read(ref, progress);
  }

  /** One run, with what it gathers on its way. */
  private final class Run {
    private final Comparison comparison;
    private final Work work;
    private final Listener listener;
    private final Stop stop;
    private final Progress progress;
    private final Map<String, Map<String, Recording>> files = new LinkedHashMap<>();
    private final Map<Path, String> sums = new HashMap<>();
    private final Map<String, Failure> failed = new LinkedHashMap<>();
    private final List<Notice> notices = new ArrayList<>();
    private List<Fairness.Item> alike = List.of();
    private Recording source;
    private final Map<String, Audio> truth = new LinkedHashMap<>();

    Run(Comparison comparison, Listener listener, Stop stop) {
      this.comparison = comparison;
      this.work = Work.of(comparison);
      this.listener = listener;
      this.stop = stop;
      this.progress =
          (what, share) -> {
            stop.check();
            listener.progress(what, share);
          };
    }

    Results go() throws MediaException {
      recordings.keepOnly(comparison.files().stream().map(MediaRef::file).toList());
      recall();
      try {
        source = read(comparison.source());
        // An hour takes a while to analyse; it can be seen and heard at once.
        listener.sourceRead(source);
        Recording reference = comparison.reference() == null ? null : read(comparison.reference());
        examine(reference);
        listener.sourceReady(source, reference, examined);
      } catch (MatchException e) {
        readVersions();
        throw new MediaException(
            comparison.source().file(), "it cannot be compared", capitalised(e.getMessage()), e);
      } catch (MediaException e) {
        readVersions();
        throw e;
      }
      notices.clear();
      noteChange(comparison.source(), source.facts().sha256(), "the source");
      noteDoubt(source, "the source");
      readVersions();
      readTruth();
      ExecutorService pool =
          Executors.newFixedThreadPool(
              width.versions(
                  (long) examined.first().source().framing().count() * source.audio().channels()),
              threads);
      try {
        return measure(pool, match(pool));
      } finally {
        pool.shutdownNow();
        store.fingerprints().keep();
      }
    }

    /** What is known of all versions without reading anything; nothing if something is missing. */
    private void recall() {
      Function<MediaRef, String> checksum =
          ref -> store.fingerprints().of(ref.file()).orElseThrow();
      try {
        WorkKey key = WorkKey.ofSource(comparison, checksum);
        Optional<ResultStore.SourceEntry> known = store.source(key);
        if (known.isEmpty() || comparison.versions().isEmpty()) {
          return;
        }
        noteChange(comparison.source(), checksum.apply(comparison.source()), "the source");
        List<Measured> all = new ArrayList<>();
        Map<String, List<String>> sums = new LinkedHashMap<>();
        for (Version v : comparison.versions()) {
          Optional<Measured> m = store.version(WorkKey.ofVersion(key, comparison, v, checksum));
          if (m.isEmpty()) {
            return;
          }
          all.add(m.get().as(v, comparison.costOf(v)));
          List<String> own = new ArrayList<>();
          for (MediaRef ref : Examination.files(v).values()) {
            own.add(checksum.apply(ref));
            noteChange(ref, checksum.apply(ref), v.label());
          }
          sums.put(v.id(), own);
        }
        SheetMaker maker = new SheetMaker(comparison, known.get().facts(), known.get().notices());
        listener.recalled(
            new Results(work, maker.sheet(all, List.of(), List.copyOf(notices), sums, List.of())));
      } catch (NoSuchElementException e) {
        // A file was never read as it is now: everything goes its usual way.
        return;
      }
    }

    private void examine(Recording reference) throws MatchException {
      WorkKey key = sourceKey();
      if (key.equals(examinedKey) && examined != null) {
        examined = examined.with(comparison);
        return;
      }
      Optional<ResultStore.SourceEntry> known = store.source(key);
      if (known.isEmpty()) {
        progress.at("looking for pauses", -1);
      }
      examined = null;
      // Only what belongs to this source and excerpt is worth keeping in memory.
      matches.clear();
      examined =
          Examination.of(
              comparison,
              source,
              reference,
              known.map(ResultStore.SourceEntry::places).orElse(List.of()));
      examinedKey = key;
      if (known.isEmpty()) {
        store.put(
            key,
            new ResultStore.SourceEntry(source.facts(), examined.warnings(), examined.known()));
      }
    }

    private WorkKey sourceKey() {
      return WorkKey.ofSource(comparison, this::checksum);
    }

    void readVersions() {
      for (Version v : comparison.versions()) {
        try {
          Map<String, Recording> own = new LinkedHashMap<>();
          for (var file : Examination.files(v).entrySet()) {
            own.put(file.getKey(), read(file.getValue()));
          }
          files.put(v.id(), own);
          listener.versionRead(v.id(), own);
          own.values().forEach(r -> noteDoubt(r, v.label()));
          Examination.files(v)
              .forEach((role, ref) -> noteChange(ref, own.get(role).facts().sha256(), v.label()));
        } catch (MediaException e) {
          fail(v, e.file(), e.problem());
        } catch (CancellationException e) {
          throw e;
        } catch (RuntimeException | OutOfMemoryError e) {
          fail(v, broken(v, e));
        }
      }
    }

    /** True stems on the mix's rate; one that cannot be read is told of, and the others serve. */
    private void readTruth() {
      for (var stem : comparison.trueStems().entrySet()) {
        try {
          Audio read = read(stem.getValue()).audio();
          truth.put(stem.getKey(), LinearTimeAudio.resample(read, source.audio().sampleRate()));
        } catch (MediaException e) {
          notices.add(new Notice("true stem " + stem.getKey(), e.problem()));
        }
      }
    }

    /** One version that breaks something does not stop the others. */
    private String broken(Version v, Throwable e) {
      LOG.error("{} broke down", v.label(), e);
      return e instanceof OutOfMemoryError
          ? "there is not enough memory for it; choose a shorter excerpt"
          : "the program made an error of its own on it; its log says more";
    }

    private void fail(Version v, String problem) {
      fail(v, v.files().get(0).file().toString(), problem);
    }

    private void fail(Version v, String file, String problem) {
      failed.put(v.id(), new Failure(v.id(), v.label(), file, problem));
      listener.versionFailed(v.id(), problem);
    }

    private void noteChange(MediaRef ref, String sha256, String what) {
      if (ref.sha256() != null && !ref.sha256().equals(sha256)) {
        Notice changed = new Notice(what, "the file has changed since it was brought in");
        if (!notices.contains(changed)) {
          notices.add(changed);
        }
      }
    }

    private Map<Version, List<Matched>> match(ExecutorService pool) {
      Map<Version, Future<List<Matched>>> going = new LinkedHashMap<>();
      for (Version v : comparison.versions()) {
        if (files.containsKey(v.id())) {
          List<Matched> known = matches.get(key(v));
          Callable<List<Matched>> task =
              () -> {
                progress.at("matching " + v.label(), -1);
                List<Matched> matched = known != null ? known : matched(v);
                listener.versionMatched(v.id(), matched.get(0));
                return matched;
              };
          going.put(v, pool.submit(task));
        }
      }
      Map<Version, List<Matched>> matched = new LinkedHashMap<>();
      going.forEach(
          (v, future) -> {
            try {
              matched.put(v, get(future));
              matches.put(key(v), matched.get(v));
            } catch (MatchException e) {
              fail(v, e.getMessage());
            } catch (CancellationException e) {
              throw e;
            } catch (RuntimeException | OutOfMemoryError e) {
              fail(v, broken(v, e));
            }
          });
      alike = alike(matched);
      return matched;
    }

    /** Looks for a version where it was found before, however it was set by hand since. */
    private List<Matched> matched(Version v) throws MatchException {
      WorkKey key = WorkKey.ofPlacement(examinedKey, v, this::checksum);
      List<Found> before = store.found(key);
      List<Matched> matched = examined.match(v, files.get(v.id()), before, stop);
      if (before.isEmpty()) {
        store.put(key, matched.stream().map(Matched::found).toList());
      }
      return matched;
    }

    private String checksum(MediaRef ref) {
      return sums.get(ref.file());
    }

    /** What this run read stays known to its threads, whatever the next one forgets. */
    private Recording read(MediaRef ref) throws MediaException {
      Recording read = Conductor.this.read(ref, progress);
      sums.put(ref.file(), read.facts().sha256());
      return read;
    }

    /** What may be wrong with a file that could be read. */
    private void noteDoubt(Recording recording, String what) {
      if (recording.facts().doubt() != null) {
        notices.add(new Notice(what, recording.facts().doubt()));
      }
    }

    private List<Fairness.Item> alike(Map<Version, List<Matched>> matched) {
      Map<String, Matched> byLabel = new LinkedHashMap<>();
      Map<String, List<String>> sums = new HashMap<>();
      matched.forEach(
          (v, places) -> {
            byLabel.put(v.label(), places.get(0));
            sums.put(
                v.label(),
                files.get(v.id()).values().stream().map(r -> r.facts().sha256()).toList());
          });
      return AlikeVersions.among(byLabel, sums);
    }

    private WorkKey key(Version v) {
      return WorkKey.ofVersion(examinedKey, comparison, v, this::checksum);
    }

    private Results measure(ExecutorService pool, Map<Version, List<Matched>> matched) {
      Map<Version, Future<Measured>> going = new LinkedHashMap<>();
      Map<String, List<Matched>> byId = new LinkedHashMap<>();
      matched.forEach((v, m) -> byId.put(v.id(), m));
      Map<String, List<Matched>> chained =
          comparison.job() == Job.STEMS ? examined.chained(byId) : byId;
      Map<String, List<StemCells>> cells = cells(matched.keySet(), chained);
      for (Version v : matched.keySet()) {
        // What was gathered of a version goes when it is measured.
        List<StemCells> own = cells.remove(v.id());
        going.put(v, pool.submit(() -> measured(v, chained.get(v.id()), own)));
      }
      List<Measured> done = new ArrayList<>();
      going.forEach(
          (v, future) -> {
            try {
              done.add(get(future));
            } catch (CancellationException e) {
              throw e;
            } catch (MatchException | RuntimeException | OutOfMemoryError e) {
              fail(v, broken(v, e));
            }
            if (done.size() < going.size()) {
              listener.measured(results(done));
            }
          });
      progress.at("scoring", 1);
      Results results = results(done);
      if (comparison.job() == Job.STEMS) {
        results = new Results(work, examined.withNulls(results.sheet(), chained, stop));
      }
      listener.measured(results);
      return results;
    }

    /** In stems, whose the cells of the mix are; nothing where all is known already. */
    private Map<String, List<StemCells>> cells(
        Set<Version> versions, Map<String, List<Matched>> matched) {
      boolean known = versions.stream().allMatch(v -> store.version(key(v)).isPresent());
      if (comparison.job() != Job.STEMS || known) {
        return new LinkedHashMap<>();
      }
      progress.at("finding out what belongs to whom", -1);
      return examined.cells(matched, truth, stop);
    }

    private Measured measured(Version v, List<Matched> matched, List<StemCells> cells) {
      WorkKey key = key(v);
      Optional<Measured> known = store.version(key);
      if (known.isPresent()) {
        return known.get().as(v, comparison.costOf(v));
      }
      progress.at("measuring " + v.label(), -1);
      VersionFacts facts = examined.facts(v, files.get(v.id()), matched.get(0));
      Measured measured =
          new Measured(
              facts,
              cells == null
                  ? examined.measure(matched, stop)
                  : examined.measureStems(matched, cells, stop));
      store.put(key, measured);
      return measured;
    }

    private Results results(List<Measured> done) {
      Map<String, List<String>> sums = new LinkedHashMap<>();
      files.forEach(
          (id, own) -> sums.put(id, own.values().stream().map(r -> r.facts().sha256()).toList()));
      SheetMaker maker = new SheetMaker(comparison, source.facts(), examined.warnings());
      return new Results(
          work, maker.sheet(done, List.copyOf(failed.values()), List.copyOf(notices), sums, alike));
    }
  }

  private static <T> T get(Future<T> future) throws MatchException {
    try {
      return future.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new CancellationException();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof MatchException match) {
        throw match;
      }
      if (e.getCause() instanceof RuntimeException own) {
        throw own;
      }
      if (e.getCause() instanceof Error error) {
        throw error;
      }
      throw new IllegalStateException(e.getCause());
    }
  }

  private static String capitalised(String sentence) {
    return Character.toUpperCase(sentence.charAt(0)) + sentence.substring(1);
  }
}
