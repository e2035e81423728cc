package kettlesieve.app.model;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicLong;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Track;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.Assessment;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Progress;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads, matches and measures in the background whenever the comparison changes. What did not
 * change is taken from memory. A newer request stops an older one; what was there stays until
 * something better is ready.
 */
final class Pipeline implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Pipeline.class);

  /** Told of results, on a background thread. */
  interface Listener {
    void progress(String what, double share);

    void sourceReady(Recording source, Recording reference, Assessment assessment);

    void sourceFailed(String message);

    void recordingReady(String versionId, Recording recording);

    void versionReady(String versionId, Prepared prepared);

    void versionFailed(String versionId, String message);

    void scored(ScoreSheet sheet);

    void finished();
  }

  private record MatchKey(Object assessment, String sha256, Object override) {}

  private record MeasureKey(MatchKey match, Object job) {}

  private record FileKey(Path file, long modified, long bytes) {}

  private final MediaReader reader;
  private final Listener listener;
  private final AtomicLong generation = new AtomicLong();
  private final ExecutorService conductor = daemon(1, "pipeline");
  private final ExecutorService workers =
      daemon(Math.max(2, Runtime.getRuntime().availableProcessors()), "measuring");
  private final Map<FileKey, Recording> recordings = new HashMap<>();
  private final Map<MatchKey, Prepared> prepared = new HashMap<>();
  private final Map<MeasureKey, Measures.Taken> readings = new HashMap<>();
  private Object assessmentKey;
  private Assessment assessment;
  private Recording reference;

  Pipeline(MediaReader reader, Listener listener) {
    this.reader = reader;
    this.listener = listener;
  }

  private static ExecutorService daemon(int threads, String name) {
    return Executors.newFixedThreadPool(
        threads,
        task -> {
          Thread thread = new Thread(task, name);
          thread.setDaemon(true);
          // The window and the player come first.
          thread.setPriority(Thread.NORM_PRIORITY - 1);
          return thread;
        });
  }

  /** Works on a comparison, and gives up what it was doing. */
  void request(Comparison comparison) {
    long mine = generation.incrementAndGet();
    conductor.submit(
        () -> {
          try {
            run(comparison, progress(mine));
          } catch (CancellationException e) {
            LOG.debug("superseded");
          } catch (RuntimeException e) {
            LOG.error("the background work broke down", e);
            listener.sourceFailed(
                "The program made an error of its own while it was measuring; its log says more.");
          } catch (OutOfMemoryError e) {
            LOG.error("not enough memory", e);
            forget();
            listener.sourceFailed(
                "There is not enough memory for this. Choose a shorter excerpt, or close other"
                    + " programs and try again.");
          } finally {
            if (generation.get() == mine) {
              listener.finished();
            }
          }
        });
  }

  /** Stops what is being done; results that are there stay. */
  void cancel() {
    generation.incrementAndGet();
    listener.finished();
  }

  private Progress progress(long mine) {
    return (what, share) -> {
      if (generation.get() != mine) {
        throw new CancellationException();
      }
      listener.progress(what, share);
    };
  }

  private void run(Comparison comparison, Progress progress) {
    Map<String, Recording> versions = new LinkedHashMap<>();
    List<Failure> failed = new ArrayList<>();
    if (comparison.source() == null) {
      readVersions(comparison, progress, versions, failed);
      return;
    }
    Recording source;
    try {
      source = read(comparison.source(), progress);
      prepareAssessment(comparison, source, progress);
    } catch (MediaException e) {
      listener.sourceFailed(e.getMessage());
      readVersions(comparison, progress, versions, failed);
      return;
    } catch (MatchException e) {
      listener.sourceFailed(comparison.source().file().getFileName() + ": " + e.getMessage());
      readVersions(comparison, progress, versions, failed);
      return;
    }
    listener.sourceReady(source, reference, assessment);
    readVersions(comparison, progress, versions, failed);
    score(comparison, source, versions, failed, progress);
  }

  private void readVersions(
      Comparison comparison,
      Progress progress,
      Map<String, Recording> versions,
      List<Failure> failed) {
    for (Version v : comparison.versions()) {
      try {
        Recording recording = read(v.media(), progress);
        versions.put(v.id(), recording);
        listener.recordingReady(v.id(), recording);
      } catch (MediaException e) {
        failed.add(new Failure(v.id(), v.label(), e.file(), e.problem()));
        listener.versionFailed(v.id(), e.problem());
      }
    }
  }

  private void score(
      Comparison comparison,
      Recording source,
      Map<String, Recording> versions,
      List<Failure> failed,
      Progress progress) {
    Map<String, Future<Measured>> work = new LinkedHashMap<>();
    for (Version v : comparison.versions()) {
      Recording recording = versions.get(v.id());
      if (recording != null) {
        work.put(v.id(), workers.submit(() -> measured(comparison, v, recording, progress)));
      }
    }
    List<Measured> measured = new ArrayList<>();
    List<String> warnings = new ArrayList<>(assessment.warnings());
    for (Version v : comparison.versions()) {
      Future<Measured> future = work.get(v.id());
      if (future == null) {
        continue;
      }
      try {
        measured.add(future.get());
        if (changed(v.media(), versions.get(v.id()))) {
          warnings.add(v.label() + ": the file has changed since it was brought in");
        }
        // What is measured is shown at once; the others follow.
        listener.scored(sheet(comparison, source, measured, failed, warnings));
      } catch (java.util.concurrent.ExecutionException e) {
        if (e.getCause() instanceof MatchException match) {
          failed.add(new Failure(v.id(), v.label(), v.media().path(), match.getMessage()));
          listener.versionFailed(v.id(), match.getMessage());
        } else if (e.getCause() instanceof OutOfMemoryError memory) {
          throw memory;
        } else if (e.getCause() instanceof CancellationException cancelled) {
          throw cancelled;
        } else {
          throw new IllegalStateException(e.getCause());
        }
      } catch (InterruptedException e) {
        throw new CancellationException();
      }
    }
    if (changed(comparison.source(), source)) {
      warnings.add("the source: the file has changed since it was brought in");
    }
    progress.at("scoring", 1);
    listener.scored(sheet(comparison, source, measured, failed, warnings));
  }

  private static ScoreSheet sheet(
      Comparison comparison,
      Recording source,
      List<Measured> measured,
      List<Failure> failed,
      List<String> warnings) {
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        comparison.job(),
        scoring.profileOrDefault(comparison.profile()),
        scoring,
        source.file(),
        source.facts(),
        measured,
        failed,
        warnings);
  }

  private Measured measured(
      Comparison comparison, Version version, Recording recording, Progress progress)
      throws MatchException {
    MatchKey key = new MatchKey(assessmentKey, recording.facts().sha256(), version.match());
    MeasureKey measureKey = new MeasureKey(key, comparison.job());
    Prepared ready;
    Measures.Taken taken;
    synchronized (this) {
      ready = prepared.get(key);
      taken = readings.get(measureKey);
    }
    if (ready == null || taken == null) {
      progress.at("matching " + version.label(), -1);
      MatchedVersion matched = assessment.match(recording.audio(), version.match());
      ready =
          new Prepared(
              matched.match(),
              matched.alignedWhole(),
              matched.wholeAudio(),
              Track.version(
                  assessment.source().whole(), matched.wholeAudio(), matched.alignedWhole()));
      listener.versionReady(version.id(), ready);
      progress.at("measuring " + version.label(), -1);
      taken = assessment.measure(comparison.job(), matched);
      progress.at("measuring " + version.label(), -1);
      synchronized (this) {
        prepared.put(key, ready);
        readings.put(measureKey, taken);
      }
    } else {
      listener.versionReady(version.id(), ready);
    }
    return new Measured(
        version.id(),
        version.label(),
        recording.file(),
        recording.facts(),
        ready.match(),
        taken.readings(),
        taken.notMeasured());
  }

  private static boolean changed(MediaRef ref, Recording recording) {
    return ref.sha256() != null && !ref.sha256().equals(recording.facts().sha256());
  }

  private void prepareAssessment(Comparison comparison, Recording source, Progress progress)
      throws MediaException, MatchException {
    reference = comparison.reference() == null ? null : read(comparison.reference(), progress);
    Object key =
        java.util.Arrays.asList(
            source.facts().sha256(),
            reference == null ? null : reference.facts().sha256(),
            comparison.excerpt(),
            comparison.pauses());
    if (key.equals(assessmentKey) && assessment != null) {
      return;
    }
    progress.at("looking for pauses", -1);
    assessment = null;
    assessmentKey = key;
    assessment =
        Assessment.of(
            source.audio(),
            reference == null ? null : reference.audio(),
            comparison.excerpt(),
            comparison.pauses());
    synchronized (this) {
      // Only what belongs to this source and excerpt is worth keeping in memory.
      prepared.keySet().removeIf(k -> !k.assessment().equals(key));
      readings.keySet().removeIf(k -> !k.match().assessment().equals(key));
    }
  }

  private Recording read(MediaRef ref, Progress progress) throws MediaException {
    Path file = ref.file();
    FileKey key = new FileKey(file, file.toFile().lastModified(), file.toFile().length());
    Recording known = Files.exists(file) ? recordings.get(key) : null;
    if (known == null) {
      known = reader.read(file, progress);
      recordings.put(key, known);
    }
    return known;
  }

  private synchronized void forget() {
    prepared.clear();
    readings.clear();
    assessment = null;
    assessmentKey = null;
  }

  @Override
  public void close() {
    generation.incrementAndGet();
    conductor.shutdownNow();
    workers.shutdownNow();
    forget();
  }
}
