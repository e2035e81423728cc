package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.score.RankTests;

/**
 * Whether tools differ over recordings (Demšar, J. Mach. Learn. Res. 7, 2006): Friedman's test over
 * all, and for each pair the signed-rank test of Wilcoxon with Holm's correction over all pairs.
 *
 * @param names those that the test over all holds
 * @param recordings on which all of these were measured
 * @param chiSquare Friedman's statistic; NaN for fewer than three tools or two recordings
 * @param p its probability if all were alike
 * @param pairs every two of all entries that were measured on a recording together
 */
public record RoundupTests(
    List<String> names, int recordings, double chiSquare, double p, List<Pair> pairs) {
  /** Where a difference counts as one. */
  public static final double SIGNIFICANT = 0.05;

  private static final int FEWEST_TOOLS = 3;

  public RoundupTests {
    names = List.copyOf(names);
    pairs = List.copyOf(pairs);
  }

  /**
   * Two tools on the recordings that both were measured on.
   *
   * @param a one
   * @param b the other
   * @param better recordings on which a is better
   * @param worse on which b is
   * @param equal on which neither is
   * @param p two-sided, of Wilcoxon's test
   * @param corrected the same after Holm's correction
   */
  public record Pair(
      String a, String b, int better, int worse, int equal, double p, double corrected) {
    /** On how many both were measured. */
    public int both() {
      return better + worse + equal;
    }

    /** Whether the two differ. */
    public boolean differ() {
      return corrected < SIGNIFICANT;
    }
  }

  /**
   * Tests entries.
   *
   * @param entries with their cells
   * @param direction 1 where more is better, −1 where less is
   * @param nothing a difference up to this means nothing
   * @return empty for fewer than two entries
   */
  static Optional<RoundupTests> of(List<Roundup.Row> entries, int direction, double nothing) {
    if (entries.size() < 2) {
      return Optional.empty();
    }
    List<Pair> pairs = new ArrayList<>();
    for (int i = 0; i < entries.size(); i++) {
      for (int j = i + 1; j < entries.size(); j++) {
        pair(entries.get(i), entries.get(j), direction, nothing).ifPresent(pairs::add);
      }
    }
    double[] corrected = RankTests.holm(pairs.stream().mapToDouble(Pair::p).toArray());
    List<Pair> all = new ArrayList<>();
    for (int i = 0; i < corrected.length; i++) {
      Pair p = pairs.get(i);
      all.add(new Pair(p.a, p.b, p.better, p.worse, p.equal, p.p, corrected[i]));
    }
    List<Roundup.Row> often = often(entries);
    List<Integer> whole = whole(often);
    double chiSquare = Double.NaN;
    double p = Double.NaN;
    if (often.size() >= FEWEST_TOOLS && whole.size() >= 2) {
      double[][] scores = new double[whole.size()][often.size()];
      for (int r = 0; r < scores.length; r++) {
        for (int e = 0; e < often.size(); e++) {
          scores[r][e] = direction * often.get(e).cells().get(whole.get(r)).value();
        }
      }
      RankTests tests = RankTests.of(often.stream().map(Roundup.Row::name).toList(), scores);
      chiSquare = tests.chiSquare();
      p = tests.p();
    }
    return Optional.of(
        new RoundupTests(
            often.stream().map(Roundup.Row::name).toList(), whole.size(), chiSquare, p, all));
  }

  /** Those that at least half of the recordings have: one tried once must not empty the table. */
  static List<Roundup.Row> often(List<Roundup.Row> entries) {
    int most = entries.stream().mapToInt(Roundup.Row::measured).max().orElse(0);
    return entries.stream().filter(e -> e.measured() > 0 && 2 * e.measured() >= most).toList();
  }

  /** The recordings on which all were measured. */
  static List<Integer> whole(List<Roundup.Row> entries) {
    return entries.isEmpty()
        ? List.of()
        : entries.get(0).cells().keySet().stream()
            .filter(c -> entries.stream().allMatch(e -> e.cells().containsKey(c)))
            .toList();
  }

  private static Optional<Pair> pair(
      Roundup.Row one, Roundup.Row other, int direction, double nothing) {
    List<Integer> both = one.cells().keySet().stream().filter(other.cells()::containsKey).toList();
    if (both.isEmpty()) {
      return Optional.empty();
    }
    int better = 0;
    int worse = 0;
    double[] x = new double[both.size()];
    double[] y = new double[x.length];
    for (int i = 0; i < x.length; i++) {
      x[i] = direction * one.cells().get(both.get(i)).value();
      y[i] = direction * other.cells().get(both.get(i)).value();
      better += x[i] - y[i] > nothing ? 1 : 0;
      worse += y[i] - x[i] > nothing ? 1 : 0;
    }
    int equal = x.length - better - worse;
    double p = RankTests.wilcoxon(x, y);
    return Optional.of(new Pair(one.name(), other.name(), better, worse, equal, p, p));
  }
}
