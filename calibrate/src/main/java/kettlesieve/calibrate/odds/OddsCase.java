package kettlesieve.calibrate.odds;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.odds.Odds;

/**
 * Versions that stand beside each other, with what the program says of them and what is true.
 *
 * @param source what they were made of: cases of one source are not independent
 * @param half where it belongs
 * @param doubt whether the program warns of the source
 * @param versions those that have a score
 * @param pairs every two of them of which the truth prefers one
 */
public record OddsCase(
    String source, Half half, boolean doubt, List<Version> versions, List<Pair> pairs) {
  /**
   * A version.
   *
   * @param tool what made it: the same in all cases
   * @param score what the program says
   * @param choice whether a person could choose it: neither the truth itself nor the source
   * @param truth what is true of it, of which more is better
   */
  public record Version(String tool, Estimate score, boolean choice, double[] truth) {}

  /**
   * Two versions.
   *
   * @param one index of the first
   * @param other index of the second
   * @param points by which the first has the higher score
   * @param deviation paired standard deviation of that
   * @param better whether the first is better in truth
   * @param clear whether the truth is clear
   * @param said 1 where the sheet says that the first is surely better, −1 worse, 0 neither
   */
  public record Pair(
      int one,
      int other,
      double points,
      double deviation,
      boolean better,
      boolean clear,
      int said) {}

  /** Which of two is better in truth. */
  interface Truth<T> {
    /** Above 0 for the first, under 0 for the second, 0 where it cannot be told. */
    double of(T one, T other);
  }

  /**
   * A case.
   *
   * @param all the versions
   * @param version what the program says of one and what is true; the score NaN for none
   * @param clear which of two is better where it is clear
   */
  static <T> OddsCase of(
      String source,
      Half half,
      boolean doubt,
      List<T> all,
      Function<T, Version> version,
      Truth<T> clear) {
    List<T> scored = new ArrayList<>();
    List<Version> versions = new ArrayList<>();
    for (T t : all) {
      Version v = version.apply(t);
      if (Double.isFinite(v.score().value()) && v.score().draws().length > 0) {
        scored.add(t);
        versions.add(v);
      }
    }
    List<Pair> pairs = new ArrayList<>();
    for (int i = 0; i < versions.size(); i++) {
      for (int j = 0; j < i; j++) {
        int truth = majority(versions.get(i).truth(), versions.get(j).truth());
        if (truth == 0) {
          continue;
        }
        Estimate difference = versions.get(i).score().minus(versions.get(j).score());
        boolean sure = clear.of(scored.get(i), scored.get(j)) != 0;
        pairs.add(
            new Pair(
                i,
                j,
                difference.value(),
                Odds.deviation(difference),
                truth > 0,
                sure,
                ScoreSheet.compare(versions.get(i).score(), versions.get(j).score())));
      }
    }
    return new OddsCase(source, half, doubt, List.copyOf(versions), List.copyOf(pairs));
  }

  /** 1 where most figures of the first are higher, −1 where they are lower, 0 where neither. */
  static int majority(double[] one, double[] other) {
    int votes = 0;
    for (int i = 0; i < one.length; i++) {
      votes += one[i] > other[i] ? 1 : one[i] < other[i] ? -1 : 0;
    }
    return Integer.signum(votes);
  }

  /** Which of two has more of a figure, where they lie apart. */
  static <T> Truth<T> apart(ToDoubleFunction<T> figure, double least) {
    return (a, b) -> {
      double difference = figure.applyAsDouble(a) - figure.applyAsDouble(b);
      return Math.abs(difference) > least ? difference : 0;
    };
  }

  /** Of those that could be chosen, the ones that the truth prefers to most others. */
  List<Integer> trulyBest() {
    double[] wins = new double[versions.size()];
    for (Pair p : pairs) {
      if (versions.get(p.one()).choice() && versions.get(p.other()).choice()) {
        wins[p.better() ? p.one() : p.other()]++;
      }
    }
    double most = -1;
    for (int i = 0; i < wins.length; i++) {
      most = versions.get(i).choice() ? Math.max(most, wins[i]) : most;
    }
    List<Integer> best = new ArrayList<>();
    for (int i = 0; i < wins.length; i++) {
      if (versions.get(i).choice() && wins[i] == most) {
        best.add(i);
      }
    }
    return best;
  }
}
