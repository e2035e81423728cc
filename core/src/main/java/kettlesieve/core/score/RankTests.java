package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.measure.Part;
import org.hipparchus.distribution.continuous.ChiSquaredDistribution;
import org.hipparchus.stat.ranking.NaturalRanking;
import org.hipparchus.stat.ranking.TiesStrategy;

/**
 * Whether versions differ over several excerpts or comparisons, whatever the scores' distribution:
 * the test of Friedman (J. Am. Stat. Assoc. 32, 1937) over all, and the signed-rank test of
 * Wilcoxon (Biometrics Bulletin 1, 1945) for each pair.
 *
 * @param labels of the versions
 * @param occasions number of excerpts or comparisons
 * @param chiSquare Friedman's statistic
 * @param p probability of as large a statistic if all versions were alike
 * @param meanRanks of the versions, 1 for the best
 * @param pairs every pair of versions
 */
public record RankTests(
    List<String> labels,
    int occasions,
    double chiSquare,
    double p,
    double[] meanRanks,
    List<Pairing> pairs) {

  /**
   * Two versions.
   *
   * @param first index of one
   * @param second index of the other
   * @param statistic the smaller sum of ranks
   * @param p two-sided; exact up to 50 occasions without ties, up to 13 with
   */
  public record Pairing(int first, int second, double statistic, double p) {}

  /**
   * Tests the versions that every one of some sheets has, by label.
   *
   * @param sheets the rows of each excerpt or comparison
   * @return empty for fewer than three versions or three sheets
   */
  public static Optional<RankTests> over(List<List<Entry>> sheets) {
    if (sheets.size() < 3) {
      return Optional.empty();
    }
    List<String> labels = new ArrayList<>();
    for (Entry e : sheets.get(0)) {
      String label = e.version().label();
      if (sheets.stream().allMatch(s -> overall(s, label).isPresent())) {
        labels.add(label);
      }
    }
    if (labels.size() < 3) {
      return Optional.empty();
    }
    double[][] scores = new double[sheets.size()][labels.size()];
    for (int i = 0; i < scores.length; i++) {
      for (int j = 0; j < scores[i].length; j++) {
        scores[i][j] = overall(sheets.get(i), labels.get(j)).orElseThrow();
      }
    }
    return Optional.of(of(labels, scores));
  }

  private static Optional<Double> overall(List<Entry> rows, String label) {
    return rows.stream()
        .filter(e -> e.version().label().equals(label))
        .findFirst()
        .flatMap(e -> e.card().overall())
        .map(o -> o.value());
  }

  /** Tests the versions over the excerpts of a sheet. */
  public static Optional<RankTests> overExcerpts(ScoreSheet sheet) {
    return over(sheet.excerpts().stream().map(e -> sheet.entries(Part.ofExcerpt(e))).toList());
  }

  /**
   * Tests a table of scores.
   *
   * @param scores a row an occasion, a column a version; larger is better
   * @throws IllegalArgumentException for fewer than three versions or two occasions
   */
  public static RankTests of(List<String> labels, double[][] scores) {
    int n = scores.length;
    int k = labels.size();
    if (k < 3 || n < 2) {
      throw new IllegalArgumentException("three versions and two occasions are needed");
    }
    double[] sums = new double[k];
    double ties = 0;
    for (double[] row : scores) {
      double[] negative = java.util.Arrays.stream(row).map(x -> -x).toArray();
      double[] ranks = new NaturalRanking(TiesStrategy.AVERAGE).rank(negative);
      for (int j = 0; j < k; j++) {
        sums[j] += ranks[j];
      }
      ties += tieTerm(row);
    }
    double squares = 0;
    double[] means = new double[k];
    for (int j = 0; j < k; j++) {
      squares += sums[j] * sums[j];
      means[j] = sums[j] / n;
    }
    double correction = 1 - ties / ((double) n * k * (k * (double) k - 1));
    double raw = 12.0 / (n * (double) k * (k + 1)) * squares - 3.0 * n * (k + 1);
    double statistic = correction > 0 ? raw / correction : 0;
    double p = 1 - new ChiSquaredDistribution(k - 1).cumulativeProbability(statistic);
    List<Pairing> pairs = new ArrayList<>();
    for (int a = 0; a < k; a++) {
      for (int b = a + 1; b < k; b++) {
        pairs.add(pairing(scores, a, b));
      }
    }
    return new RankTests(List.copyOf(labels), n, statistic, p, means, List.copyOf(pairs));
  }

  /** Ranks of values, 1 for the smallest, equal ones sharing theirs. */
  public static double[] ranks(double[] values) {
    return new NaturalRanking(TiesStrategy.AVERAGE).rank(values);
  }

  /** Sum of t³ − t over the groups of equal values. */
  public static double tieTerm(double[] row) {
    double[] sorted = row.clone();
    java.util.Arrays.sort(sorted);
    double sum = 0;
    for (int i = 0; i < sorted.length; ) {
      int end = i;
      while (end < sorted.length && sorted[end] == sorted[i]) {
        end++;
      }
      double t = end - i;
      sum += t * t * t - t;
      i = end;
    }
    return sum;
  }

  /** The two-sided p of Wilcoxon's signed-rank test between values that belong together. */
  public static double wilcoxon(double[] x, double[] y) {
    return pairing(0, 1, x, y).p();
  }

  private static Pairing pairing(double[][] scores, int a, int b) {
    return pairing(
        a,
        b,
        java.util.Arrays.stream(scores).mapToDouble(row -> row[a]).toArray(),
        java.util.Arrays.stream(scores).mapToDouble(row -> row[b]).toArray());
  }

  private static Pairing pairing(int a, int b, double[] first, double[] second) {
    SignedRanks ranks = SignedRanks.of(first, second);
    return new Pairing(a, b, ranks.statistic(), ranks.p());
  }

  /** Holm's step-down correction (Scand. J. Stat. 6, 1979) of the p of several tests. */
  public static double[] holm(double[] p) {
    return SignedRanks.holm(p);
  }
}
