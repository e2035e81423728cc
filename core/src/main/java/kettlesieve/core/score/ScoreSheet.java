package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.match.Fairness;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.signal.Statistics;

/**
 * All versions of a comparison with readings, scores and ranks.
 *
 * @param job what was done to the source
 * @param profile the delivery profile of the scores
 * @param scoring the scales they were made with
 * @param sourceFile the source's file
 * @param source facts of the source's file
 * @param entries in the comparison's order
 * @param failed versions that could not be used
 * @param warnings what the person should know
 * @param fairness what was unfair between the versions, and what was done
 */
public record ScoreSheet(
    Job job,
    Profile profile,
    Scoring scoring,
    Path sourceFile,
    MediaFacts source,
    List<Entry> entries,
    List<Failure> failed,
    List<String> warnings,
    List<Fairness.Item> fairness) {
  private static final double MEANINGLESS = 0.1;

  public ScoreSheet {
    entries = List.copyOf(entries);
    failed = List.copyOf(failed);
    warnings = List.copyOf(warnings);
    fairness = List.copyOf(fairness);
  }

  /** The same sheet with what was unfair between the versions. */
  public ScoreSheet withFairness(List<Fairness.Item> value) {
    return new ScoreSheet(
        job, profile, scoring, sourceFile, source, entries, failed, warnings, value);
  }

  /** All that was unfair: of each version, then between them. */
  public List<Fairness.Item> allFairness() {
    List<Fairness.Item> all = new ArrayList<>();
    entries.forEach(e -> all.addAll(e.measured().fairness()));
    all.addAll(fairness);
    return all;
  }

  /** Scores and ranks measured versions. */
  public static ScoreSheet of(
      Job job,
      Profile profile,
      Scoring scoring,
      Path sourceFile,
      MediaFacts source,
      List<Measured> versions,
      List<Failure> failed,
      List<String> warnings) {
    List<Card> cards =
        versions.stream().map(v -> Card.of(v.readings(), scoring, profile, job)).toList();
    List<Entry> entries = new ArrayList<>();
    for (int i = 0; i < versions.size(); i++) {
      List<String> tied = new ArrayList<>();
      int better = 0;
      for (int j = 0; j < versions.size(); j++) {
        if (i == j || cards.get(i).overall().isEmpty() || cards.get(j).overall().isEmpty()) {
          continue;
        }
        int order = compare(cards.get(j).overall().get(), cards.get(i).overall().get());
        if (order == 0) {
          tied.add(versions.get(j).label());
        } else if (order > 0) {
          better++;
        }
      }
      int rank = cards.get(i).overall().isEmpty() ? 0 : better + 1;
      entries.add(new Entry(versions.get(i), cards.get(i), rank, List.copyOf(tied)));
    }
    List<String> all = new ArrayList<>(warnings);
    for (Measured version : versions) {
      version.match().warnings().forEach(w -> all.add(version.label() + ": " + w));
    }
    return new ScoreSheet(
        job, profile, scoring, sourceFile, source, entries, failed, all, List.of());
  }

  /** The same readings under another profile. */
  public ScoreSheet under(Profile other) {
    List<Measured> versions = entries.stream().map(Entry::measured).toList();
    List<String> own = warnings.stream().filter(w -> !ofVersion(w, versions)).toList();
    return of(job, other, scoring, sourceFile, source, versions, failed, own)
        .withFairness(fairness);
  }

  /** The same readings under a comparison's profile and profiles of its own. */
  public ScoreSheet under(Comparison comparison) {
    Scoring own = Scoring.of(comparison);
    return new ScoreSheet(
            job, profile, own, sourceFile, source, entries, failed, warnings, fairness)
        .under(own.profileOrDefault(comparison.profile()));
  }

  /** The excerpts that were measured together, in order; empty if there is but one. */
  public List<String> places() {
    return entries.isEmpty()
        ? List.of()
        : entries.get(0).measured().places().stream().map(Measured.Place::name).toList();
  }

  /**
   * The sheet of one of the excerpts that were measured together, with its own scores and ranks.
   */
  public ScoreSheet at(String place) {
    List<Measured> there = new ArrayList<>();
    for (Entry entry : entries) {
      entry.measured().places().stream()
          .filter(p -> p.name().equals(place))
          .findFirst()
          .ifPresent(p -> there.add(entry.measured().at(p)));
    }
    List<Measured> versions = entries.stream().map(Entry::measured).toList();
    List<String> own = warnings.stream().filter(w -> !ofVersion(w, versions)).toList();
    return of(job, profile, scoring, sourceFile, source, there, failed, own).withFairness(fairness);
  }

  private static boolean ofVersion(String warning, List<Measured> versions) {
    return versions.stream()
        .anyMatch(
            v -> v.match().warnings().stream().anyMatch(w -> warning.equals(v.label() + ": " + w)));
  }

  /**
   * 1 if a is better than b beyond the uncertainty, −1 if worse, 0 if they are tied: the 95 %
   * interval of the paired difference (same blocks in each draw) comes within a tenth of a point of
   * zero. Smaller differences than that have no meaning on this scale, however sure they are.
   */
  public static int compare(Estimate a, Estimate b) {
    double[] differences = new double[a.draws().length];
    for (int d = 0; d < differences.length; d++) {
      differences[d] = a.draws()[d] - b.draws()[d];
    }
    Arrays.sort(differences);
    if (Statistics.quantileOfSorted(differences, 0.025) > MEANINGLESS) {
      return 1;
    }
    return Statistics.quantileOfSorted(differences, 0.975) < -MEANINGLESS ? -1 : 0;
  }

  /** The entries from the best to the worst; those without a score come last. */
  public List<Entry> ranked() {
    return entries.stream()
        .sorted(
            java.util.Comparator.comparingDouble(
                (Entry e) -> -e.card().overall().map(Estimate::value).orElse(-1.0)))
        .toList();
  }
}
