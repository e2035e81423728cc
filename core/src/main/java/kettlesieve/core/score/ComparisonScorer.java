package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
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
import kettlesieve.core.match.MatchedVersion;
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
    Assessment assessment;
    try {
      assessment =
          Assessment.of(
              source.audio(),
              comparison.reference() == null
                  ? null
                  : reader.read(comparison.reference().file(), progress).audio(),
              comparison.excerpt(),
              comparison.pauses());
    } catch (MatchException e) {
      throw new MediaException(sourceFile, "it cannot be compared", capitalised(e.getMessage()), e);
    }
    warnings.addAll(assessment.warnings());
    List<Measured> measured = new ArrayList<>();
    List<Failure> failed = new ArrayList<>();
    ExecutorService pool =
        Executors.newFixedThreadPool(Math.max(1, Runtime.getRuntime().availableProcessors()));
    try {
      List<Future<Outcome>> outcomes = new ArrayList<>();
      for (Version version : comparison.versions()) {
        Callable<Outcome> task = () -> outcome(comparison, version, assessment);
        outcomes.add(pool.submit(task));
      }
      for (Future<Outcome> future : outcomes) {
        Outcome outcome = get(future);
        if (outcome.failure() != null) {
          failed.add(outcome.failure());
        } else {
          measured.add(outcome.measured());
          warnings.addAll(outcome.warnings());
        }
      }
    } finally {
      pool.shutdownNow();
    }
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        comparison.job(),
        scoring.profileOrDefault(comparison.profile()),
        scoring,
        sourceFile,
        source.facts(),
        measured,
        failed,
        warnings);
  }

  private record Outcome(Measured measured, List<String> warnings, Failure failure) {}

  private Outcome outcome(Comparison comparison, Version version, Assessment assessment) {
    Path file = version.media().file();
    try {
      Recording recording = reader.read(file, progress);
      List<String> warnings = new ArrayList<>();
      noteChange(version.media(), recording, version.label(), warnings);
      progress.at("matching " + version.label(), -1);
      MatchedVersion matched = assessment.match(recording.audio(), version.match());
      progress.at("measuring " + version.label(), -1);
      Measures.Taken taken = assessment.measure(comparison.job(), matched);
      return new Outcome(
          new Measured(
              version.id(),
              version.label(),
              file,
              recording.facts(),
              matched.match(),
              taken.readings(),
              taken.notMeasured()),
          warnings,
          null);
    } catch (MediaException e) {
      return new Outcome(
          null, List.of(), new Failure(version.id(), version.label(), e.file(), e.problem()));
    } catch (MatchException e) {
      return new Outcome(
          null,
          List.of(),
          new Failure(version.id(), version.label(), file.toString(), e.getMessage()));
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
