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
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.atomic.AtomicLong;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.Matched;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.Examination;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.signal.Audio;
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

    void sourceRead(Recording source);

    void sourceReady(Recording source, Recording reference, Examination examination);

    /** The clean recording at the source's place and level; null if there is none to hear. */
    void referenceReady(Prepared reference);

    void trueStemsReady(Map<String, Recording> stems);

    void sourceFailed(String message);

    void recordingReady(String versionId, Map<String, Recording> files);

    void versionReady(String versionId, Prepared prepared);

    void versionFailed(String versionId, String message);

    void scored(ScoreSheet sheet);

    void news(String text);

    void finished();
  }

  private record MatchKey(Object examination, List<String> sha256, Object override) {}

  private record Done(Prepared prepared, Measured measured) {}

  private record FileKey(Path file, long modified, long bytes) {}

  private final MediaReader reader;
  private final Listener listener;
  private final AtomicLong generation = new AtomicLong();
  private final ExecutorService conductor = daemon(1, "pipeline");
  private final ExecutorService workers =
      daemon(Math.max(2, Runtime.getRuntime().availableProcessors()), "measuring");
  private final Map<FileKey, Recording> recordings = new HashMap<>();
  private final Map<MatchKey, Done> done = new HashMap<>();
  private Object examinationKey;
  private Examination examination;
  private Recording reference;
  private Prepared preparedReference;
  private Object preparedReferenceKey;

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
          } catch (CancellationException | RejectedExecutionException e) {
            // Something newer was asked for, or the program is closing.
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
    Map<String, Map<String, Recording>> versions = new LinkedHashMap<>();
    List<Failure> failed = new ArrayList<>();
    if (comparison.source() == null) {
      readVersions(comparison, progress, versions, failed);
      return;
    }
    Recording source;
    try {
      source = read(comparison.source(), progress);
      // An hour takes a while to analyse; it can be seen and heard at once.
      listener.sourceRead(source);
      prepareExamination(comparison, source, progress);
    } catch (MediaException e) {
      listener.sourceFailed(e.getMessage());
      readVersions(comparison, progress, versions, failed);
      return;
    } catch (MatchException e) {
      listener.sourceFailed(comparison.source().file().getFileName() + ": " + e.getMessage());
      readVersions(comparison, progress, versions, failed);
      return;
    }
    listener.sourceReady(source, reference, examination);
    listener.referenceReady(preparedReference(comparison));
    readTrueStems(comparison, progress);
    readVersions(comparison, progress, versions, failed);
    score(comparison, source, versions, failed, progress);
  }

  private Prepared preparedReference(Comparison comparison) {
    if (reference == null || MatchSettings.of(comparison).ownTime()) {
      return null;
    }
    if (preparedReference == null || !examinationKey.equals(preparedReferenceKey)) {
      preparedReferenceKey = examinationKey;
      try {
        Matched matched = examination.first().match(reference.audio(), MatchOverride.NONE);
        preparedReference = Prepared.of(matched, examination.first().source().whole());
      } catch (MatchException e) {
        preparedReference = null;
        listener.news("The clean recording: " + e.getMessage());
      }
    }
    return preparedReference;
  }

  /** A true stem that cannot be read is named, and the others serve. */
  private void readTrueStems(Comparison comparison, Progress progress) {
    Map<String, Recording> stems = new LinkedHashMap<>();
    for (var stem : comparison.trueStems().entrySet()) {
      try {
        stems.put(stem.getKey(), read(stem.getValue(), progress));
      } catch (MediaException e) {
        listener.news("True stem " + stem.getKey() + ": " + e.getMessage());
      }
    }
    listener.trueStemsReady(stems);
  }

  private void readVersions(
      Comparison comparison,
      Progress progress,
      Map<String, Map<String, Recording>> versions,
      List<Failure> failed) {
    for (Version v : comparison.versions()) {
      try {
        Map<String, Recording> files = new LinkedHashMap<>();
        for (var file : Examination.files(v).entrySet()) {
          files.put(file.getKey(), read(file.getValue(), progress));
        }
        versions.put(v.id(), files);
        listener.recordingReady(v.id(), files);
      } catch (MediaException e) {
        failed.add(new Failure(v.id(), v.label(), e.file(), e.problem()));
        listener.versionFailed(v.id(), e.problem());
      }
    }
  }

  private void score(
      Comparison comparison,
      Recording source,
      Map<String, Map<String, Recording>> versions,
      List<Failure> failed,
      Progress progress) {
    Map<String, Future<Measured>> work = new LinkedHashMap<>();
    for (Version v : comparison.versions()) {
      Map<String, Recording> files = versions.get(v.id());
      if (files != null) {
        work.put(v.id(), workers.submit(() -> measured(comparison, v, files, progress)));
      }
    }
    List<Measured> measured = new ArrayList<>();
    List<String> warnings = new ArrayList<>();
    Map<String, List<Recording>> lists = new LinkedHashMap<>();
    versions.forEach((id, files) -> lists.put(id, List.copyOf(files.values())));
    for (Version v : comparison.versions()) {
      Future<Measured> future = work.get(v.id());
      if (future == null) {
        continue;
      }
      try {
        measured.add(future.get());
        Map<String, Recording> files = versions.get(v.id());
        if (Examination.files(v).entrySet().stream()
            .anyMatch(f -> changed(f.getValue(), files.get(f.getKey())))) {
          warnings.add(v.label() + ": the file has changed since it was brought in");
        }
        // What is measured is shown at once; the others follow.
        listener.scored(examination.sheet(measured, failed, warnings, lists));
      } catch (java.util.concurrent.ExecutionException e) {
        if (e.getCause() instanceof MatchException match) {
          String file = v.files().get(0).path();
          failed.add(new Failure(v.id(), v.label(), file, match.getMessage()));
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
    listener.scored(examination.sheet(measured, failed, warnings, lists));
  }

  private Measured measured(
      Comparison comparison, Version version, Map<String, Recording> files, Progress progress)
      throws MatchException {
    List<String> sums = new ArrayList<>();
    files.forEach((role, file) -> sums.add(role + ":" + file.facts().sha256()));
    MatchKey key = new MatchKey(examinationKey, sums, version.match());
    Done ready;
    synchronized (this) {
      ready = done.get(key);
    }
    if (ready == null) {
      progress.at("matching " + version.label(), -1);
      List<Matched> matched = examination.match(version, files);
      Audio source = examination.first().source().whole();
      Prepared prepared = Prepared.of(matched.get(0), source);
      listener.versionReady(version.id(), prepared);
      progress.at("measuring " + version.label(), -1);
      List<Measures.Taken> taken = examination.measure(matched);
      progress.at("measuring " + version.label(), -1);
      ready = new Done(prepared, examination.measured(version, files, matched.get(0), taken));
      synchronized (this) {
        done.put(key, ready);
      }
    } else {
      listener.versionReady(version.id(), ready.prepared());
    }
    return ready.measured().as(version, comparison.costOf(version));
  }

  private static boolean changed(MediaRef ref, Recording recording) {
    return ref.sha256() != null && !ref.sha256().equals(recording.facts().sha256());
  }

  private void prepareExamination(Comparison comparison, Recording source, Progress progress)
      throws MediaException, MatchException {
    reference = comparison.reference() == null ? null : read(comparison.reference(), progress);
    Object key =
        java.util.Arrays.asList(
            source.facts().sha256(),
            reference == null ? null : reference.facts().sha256(),
            comparison.places(),
            comparison.pauses(),
            MatchSettings.of(comparison));
    if (key.equals(examinationKey) && examination != null) {
      examination = examination.with(comparison);
      return;
    }
    progress.at("looking for pauses", -1);
    examination = null;
    examinationKey = key;
    examination = Examination.of(comparison, source, reference);
    synchronized (this) {
      // Only what belongs to this source and excerpt is worth keeping in memory.
      done.keySet().removeIf(k -> !k.examination().equals(key));
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
    done.clear();
    preparedReference = null;
    examination = null;
    examinationKey = null;
  }

  @Override
  public void close() {
    generation.incrementAndGet();
    conductor.shutdownNow();
    workers.shutdownNow();
    forget();
  }
}
