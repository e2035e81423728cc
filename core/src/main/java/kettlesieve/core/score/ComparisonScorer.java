package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.signal.Progress;

/**
 * Scores a whole comparison from its files: reads, matches, measures and ranks. Versions are worked
 * on side by side; the result does not depend on how many at once.
 */
public final class ComparisonScorer {
  private final MediaReader reader;
  private final Progress progress;

  public ComparisonScorer(MediaReader reader, Progress progress) {
    this.reader = reader;
    this.progress = progress;
  }

  /**
   * Scores the comparison under its profile. A version that cannot be used is listed as failed.
   *
   * @throws MediaException if the source or the reference cannot be used
   */
  public ScoreSheet score(Comparison comparison) throws MediaException {
    Path sourceFile = comparison.source().file();
    Recording source = reader.read(sourceFile, progress);
    List<String> warnings = new ArrayList<>();
    noteChange(comparison.source(), source, "the source", warnings);
    Examination examination;
    try {
      Recording reference =
          comparison.reference() == null
              ? null
              : reader.read(comparison.reference().file(), progress);
      examination = Examination.of(comparison, source, reference);
    } catch (MatchException e) {
      throw new MediaException(sourceFile, "it cannot be compared", capitalised(e.getMessage()), e);
    }
    Map<String, List<Recording>> files = new HashMap<>();
    List<Measured> measured = new ArrayList<>();
    List<Failure> failed = new ArrayList<>();
    ExecutorService pool =
        Executors.newFixedThreadPool(Math.max(1, Runtime.getRuntime().availableProcessors()));
    try {
      List<Future<Outcome>> outcomes = new ArrayList<>();
      for (Version version : comparison.versions()) {
        Callable<Outcome> task = () -> outcome(version, examination);
        outcomes.add(pool.submit(task));
      }
      for (Future<Outcome> future : outcomes) {
        Outcome outcome = get(future);
        if (outcome.failure() != null) {
          failed.add(outcome.failure());
        } else {
          measured.add(outcome.measured());
          files.put(outcome.measured().id(), outcome.files());
          warnings.addAll(outcome.warnings());
        }
      }
    } finally {
      pool.shutdownNow();
    }
    return examination.sheet(measured, failed, warnings, files);
  }

  private record Outcome(
      Measured measured, List<Recording> files, List<String> warnings, Failure failure) {
    static Outcome failed(Version version, String file, String reason) {
      return new Outcome(
          null, null, List.of(), new Failure(version.id(), version.label(), file, reason));
    }
  }

  private Outcome outcome(Version version, Examination examination) {
    Map<String, Recording> files = new LinkedHashMap<>();
    List<String> warnings = new ArrayList<>();
    try {
      for (var file : Examination.files(version).entrySet()) {
        Recording recording = reader.read(file.getValue().file(), progress);
        noteChange(file.getValue(), recording, version.label(), warnings);
        files.put(file.getKey(), recording);
      }
      progress.at("matching " + version.label(), -1);
      List<Matched> matched = examination.match(version, files);
      progress.at("measuring " + version.label(), -1);
      List<Measures.Taken> taken = examination.measure(matched);
      return new Outcome(
          examination.measured(version, files, matched.get(0), taken),
          List.copyOf(files.values()),
          warnings,
          null);
    } catch (MediaException e) {
      return Outcome.failed(version, e.file(), e.problem());
    } catch (MatchException e) {
      return Outcome.failed(version, version.files().get(0).file().toString(), e.getMessage());
    }
  }

  private static void noteChange(
      MediaRef ref, Recording recording, String what, List<String> warnings) {
    if (ref.sha256() != null && !ref.sha256().equals(recording.facts().sha256())) {
      warnings.add(what + ": the file has changed since it was brought in");
    }
  }

  private static Outcome get(Future<Outcome> future) {
    try {
      return future.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new CancellationException();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof CancellationException cancelled) {
        throw cancelled;
      }
      throw new IllegalStateException(e.getCause());
    }
  }

  private static String capitalised(String sentence) {
    return Character.toUpperCase(sentence.charAt(0)) + sentence.substring(1);
  }
}
