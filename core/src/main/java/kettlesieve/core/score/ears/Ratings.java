package kettlesieve.core.score.ears;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.stream.DoubleStream;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.score.RankTests;
import kettlesieve.core.signal.Statistics;

/**
 * What ratings say of several versions, over rounds and listeners: medians with quartiles, the
 * signed-rank test of Wilcoxon between versions with Holm's correction (Scand. J. Stat. 6, 1979),
 * agreement as Kendall's W. Listeners are set aside by the rule of ITU-R BS.1534-3, 4.1.2: who
 * rates the hidden reference under 90 in more than 15 % of the rounds; their answers stay to be
 * seen.
 */
public final class Ratings {
  /** The hidden reference is to be rated at least so. */
  public static final double REFERENCE_FROM = 90;

  private static final double MOST_MISSED = 0.15;

  private final List<Map<String, Double>> sets;

  /**
   * @param sets a rating of some items each, 0 to 100, by item
   */
  public Ratings(List<Map<String, Double>> sets) {
    this.sets = List.copyOf(sets);
  }

  /** What a round says of each item; a repeated token counts by its mean. */
  public static Map<String, Double> of(Round round) {
    Map<String, List<Double>> all = new LinkedHashMap<>();
    for (Round.Trial t : round.trials()) {
      if (t.position() != null) {
        all.computeIfAbsent(t.items().get(0), i -> new ArrayList<>()).add(t.position());
      }
    }
    Map<String, Double> means = new LinkedHashMap<>();
    all.forEach(
        (item, values) ->
            means.put(item, values.stream().mapToDouble(Double::doubleValue).average().orElse(0)));
    return means;
  }

  /** How far the token that came twice landed from where it was; empty if it is open. */
  public static OptionalDouble repeatedApart(Round round) {
    Map<String, Double> seen = new LinkedHashMap<>();
    for (Round.Trial t : round.trials()) {
      Double before = t.position() == null ? null : seen.put(t.items().get(0), t.position());
      if (before != null) {
        return OptionalDouble.of(Math.abs(before - t.position()));
      }
    }
    return OptionalDouble.empty();
  }

  /** Whether rounds of one listener are set aside: too often the hidden reference was not found. */
  public static boolean setAside(List<Map<String, Double>> ofOneListener) {
    long with = ofOneListener.stream().filter(s -> s.containsKey(Round.REFERENCE)).count();
    long missed =
        ofOneListener.stream()
            .filter(s -> s.getOrDefault(Round.REFERENCE, 100.0) < REFERENCE_FROM)
            .count();
    return missed > MOST_MISSED * with;
  }

  /** The ratings of one item. */
  public double[] of(String item) {
    return sets.stream().filter(s -> s.containsKey(item)).mapToDouble(s -> s.get(item)).toArray();
  }

  /** The median of an item's ratings. */
  public double median(String item) {
    return Statistics.median(of(item));
  }

  /** Lower and upper quartile of an item's ratings. */
  public double[] quartiles(String item) {
    return new double[] {Statistics.quantile(of(item), 0.25), Statistics.quantile(of(item), 0.75)};
  }

  /**
   * Two items that were rated together.
   *
   * @param first one
   * @param second the other
   * @param p two-sided
   * @param corrected p after Holm's correction over all pairs
   */
  public record Pairing(String first, String second, double p, double corrected) {}

  /** All pairs of items, over the sets that hold both. */
  public List<Pairing> pairings(List<String> items) {
    List<String[]> pairs = new ArrayList<>();
    List<Double> ps = new ArrayList<>();
    for (int i = 0; i < items.size(); i++) {
      for (int j = i + 1; j < items.size(); j++) {
        String a = items.get(i);
        String b = items.get(j);
        List<Map<String, Double>> both =
            sets.stream().filter(s -> s.containsKey(a) && s.containsKey(b)).toList();
        pairs.add(new String[] {a, b});
        ps.add(
            RankTests.wilcoxon(
                both.stream().mapToDouble(s -> s.get(a)).toArray(),
                both.stream().mapToDouble(s -> s.get(b)).toArray()));
      }
    }
    double[] corrected = RankTests.holm(ps.stream().mapToDouble(Double::doubleValue).toArray());
    List<Pairing> all = new ArrayList<>();
    for (int i = 0; i < corrected.length; i++) {
      all.add(new Pairing(pairs.get(i)[0], pairs.get(i)[1], ps.get(i), corrected[i]));
    }
    return all;
  }

  /**
   * Kendall's coefficient of concordance W over the sets that hold all of some items, corrected for
   * ties: 1 if all put them in the same order, near 0 if there is no agreement; NaN for fewer than
   * two sets or items.
   */
  public double agreement(List<String> items) {
    List<double[]> rows =
        sets.stream()
            .filter(s -> s.keySet().containsAll(items))
            .map(s -> items.stream().mapToDouble(s::get).toArray())
            .toList();
    return concordance(rows);
  }

  static double concordance(List<double[]> rows) {
    int m = rows.size();
    if (m < 2 || rows.get(0).length < 2) {
      return Double.NaN;
    }
    int n = rows.get(0).length;
    double[] sums = new double[n];
    double ties = 0;
    for (double[] row : rows) {
      double[] ranks = RankTests.ranks(row);
      for (int i = 0; i < n; i++) {
        sums[i] += ranks[i];
      }
      ties += RankTests.tieTerm(row);
    }
    double mean = DoubleStream.of(sums).average().orElse(0);
    double squares = DoubleStream.of(sums).map(s -> (s - mean) * (s - mean)).sum();
    double most = (double) m * m * (n * (double) n * n - n) - m * ties;
    return most > 0 ? 12 * squares / most : Double.NaN;
  }
}
