package kettlesieve.core.score;

import java.util.Arrays;
import kettlesieve.core.signal.Statistics;
import org.hipparchus.special.Erf;

/**
 * The signed-rank test of Wilcoxon (Biometrics Bulletin 1, 1945) between values that belong
 * together. Differences of exactly zero say nothing and are left out, as he did.
 *
 * <p>Up to 50 differences the distribution is counted out, where no two are equal; up to 13 also
 * where some are. Beyond that it is taken as normal, its variance corrected for equal differences.
 *
 * @param statistic the smaller sum of ranks
 * @param p two-sided
 */
record SignedRanks(double statistic, double p) {
  private static final int COUNTED = 50;
  private static final int COUNTED_TIED = 13;

  static SignedRanks of(double[] x, double[] y) {
    double[] differences = new double[x.length];
    int n = 0;
    for (int i = 0; i < x.length; i++) {
      if (x[i] != y[i]) {
        differences[n++] = x[i] - y[i];
      }
    }
    if (n == 0) {
      return new SignedRanks(0, 1);
    }
    double[] kept = Arrays.copyOf(differences, n);
    double[] sizes = Arrays.stream(kept).map(Math::abs).toArray();
    double[] ranks = RankTests.ranks(sizes);
    double plus = 0;
    double sum = 0;
    for (int i = 0; i < n; i++) {
      sum += ranks[i];
      plus += kept[i] > 0 ? ranks[i] : 0;
    }
    boolean tied = n < x.length || Arrays.stream(sizes).distinct().count() < n;
    double smaller = Math.min(plus, sum - plus);
    double p =
        x.length <= (tied ? COUNTED_TIED : COUNTED)
            ? counted(ranks, smaller)
            : normal(sizes, smaller);
    return new SignedRanks(smaller, Math.min(1, p));
  }

  /** Share of all signs that give a sum as small, twice. Ranks are whole or half. */
  private static double counted(double[] ranks, double smaller) {
    int total = (int) Math.round(2 * Arrays.stream(ranks).sum());
    double[] share = new double[total + 1];
    share[0] = 1;
    int reached = 0;
    for (double rank : ranks) {
      int step = (int) Math.round(2 * rank);
      reached += step;
      for (int s = reached; s >= 0; s--) {
        share[s] = 0.5 * (share[s] + (s >= step ? share[s - step] : 0));
      }
    }
    double below = 0;
    for (int s = 0; s <= Math.round(2 * smaller); s++) {
      below += share[s];
    }
    return 2 * below;
  }

  private static double normal(double[] sizes, double smaller) {
    double n = sizes.length;
    double mean = n * (n + 1) / 4;
    double variance = n * (n + 1) * (2 * n + 1) / 24 - RankTests.tieTerm(sizes) / 48;
    double z = (smaller - mean) / Math.sqrt(variance);
    return Erf.erfc(-z / Math.sqrt(2));
  }

  /** Holm's step-down correction (Scand. J. Stat. 6, 1979): the smallest p times their number … */
  static double[] holm(double[] p) {
    int[] order = Statistics.order(p);
    double[] corrected = new double[p.length];
    double largest = 0;
    for (int i = 0; i < order.length; i++) {
      largest = Math.max(largest, Math.min(1, (p.length - i) * p[order[i]]));
      corrected[order[i]] = largest;
    }
    return corrected;
  }
}
