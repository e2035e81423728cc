package kettlesieve.core.score.ears;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.WorstFirst;

/**
 * The weights of a delivery profile that an ear's own preferences ask for: of all weights that are
 * not negative, those under which a preference by logistic odds of the difference in overall score
 * is likeliest to have come out as it did.
 *
 * @param weights of the three questions by their id; their sum is 3, as of even ones
 * @param decided pairs that one side was preferred in
 * @param reproduced how many of them these weights order as the ear did
 * @param byEven how many of them even weights order so
 */
public record EarWeights(Map<String, Double> weights, int decided, int reproduced, int byEven) {
  /** With fewer pairs than these the weights say little. */
  public static final int ENOUGH = 10;

  private static final List<Axis> AXES = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);
  private static final int STEPS = 20;
  private static final double[] SLOPES = {0.02, 0.04, 0.08, 0.15, 0.3, 0.6, 1.2};

  /** Nothing a pair says is wholly sure: a slip of the hand is no proof. */
  private static final double SLIP = 0.02;

  /**
   * A decided pair.
   *
   * @param better id of the preferred version
   * @param worse id of the other
   */
  public record Pair(String better, String worse) {}

  /**
   * The decided pairs of versions in rounds about the whole: pairs as they are, ratings in twos.
   */
  public static List<Pair> pairs(List<Round> rounds) {
    List<Pair> pairs = new ArrayList<>();
    for (Round round : rounds) {
      if (round.question() != Round.Question.OVERALL) {
        continue;
      }
      if (round.kind() == Round.Kind.PAIRS) {
        for (Round.Trial t : round.trials()) {
          int chosen = t.items().indexOf(t.answer());
          if (chosen >= 0) {
            pairs.add(new Pair(t.items().get(chosen), t.items().get(1 - chosen)));
          }
        }
      } else if (round.kind() == Round.Kind.RATING) {
        Map<String, Double> rated = Ratings.of(round);
        rated.forEach(
            (a, x) ->
                rated.forEach(
                    (b, y) -> {
                      if (x > y) {
                        pairs.add(new Pair(a, b));
                      }
                    }));
      }
    }
    return pairs;
  }

  /** Finds the weights; empty if no pair is about two versions that have all three scores. */
  public static Optional<EarWeights> of(List<Pair> all, ScoreSheet sheet) {
    Map<String, double[]> shortfalls = new LinkedHashMap<>();
    for (Entry e : sheet.entries(Part.ALL)) {
      if (AXES.stream().allMatch(e.card().axes()::containsKey)) {
        shortfalls.put(
            e.version().id(),
            AXES.stream().mapToDouble(a -> shortfall(sheet.profile(), e, a)).toArray());
      }
    }
    List<Pair> pairs =
        all.stream()
            .filter(p -> shortfalls.containsKey(p.better()) && shortfalls.containsKey(p.worse()))
            .toList();
    if (pairs.isEmpty()) {
      return Optional.empty();
    }
    double[] best = {1.0 / 3, 1.0 / 3, 1.0 / 3};
    double most = likelihood(pairs, shortfalls, best);
    for (int i = 0; i <= STEPS; i++) {
      for (int j = 0; i + j <= STEPS; j++) {
        double[] weights = {
          (double) i / STEPS, (double) j / STEPS, (double) (STEPS - i - j) / STEPS
        };
        double found = likelihood(pairs, shortfalls, weights);
        if (found > most + 1e-9) {
          most = found;
          best = weights;
        }
      }
    }
    Map<String, Double> weights = new TreeMap<>();
    for (int a = 0; a < best.length; a++) {
      weights.put(AXES.get(a).id(), Math.round(300 * best[a]) / 100.0);
    }
    double[] even = {1, 1, 1};
    return Optional.of(
        new EarWeights(
            weights,
            pairs.size(),
            reproduced(pairs, shortfalls, best),
            reproduced(pairs, shortfalls, even)));
  }

  private static double shortfall(Profile profile, Entry e, Axis axis) {
    return profile.shortfall(axis.id(), e.card().axes().get(axis).value());
  }

  private static double difference(Pair p, Map<String, double[]> shortfalls, double[] weights) {
    return overall(shortfalls.get(p.better()), weights)
        - overall(shortfalls.get(p.worse()), weights);
  }

  private static double overall(double[] shortfalls, double[] weights) {
    WorstFirst all = new WorstFirst();
    for (int a = 0; a < weights.length; a++) {
      all.add(shortfalls[a], weights[a]);
    }
    return all.score();
  }

  /** Of the best of a few slopes: how sharply an ear tells a point apart is its own affair. */
  private static double likelihood(
      List<Pair> pairs, Map<String, double[]> shortfalls, double[] weights) {
    double best = Double.NEGATIVE_INFINITY;
    for (double slope : SLOPES) {
      double sum = 0;
      for (Pair p : pairs) {
        double odds = 1 / (1 + Math.exp(-slope * difference(p, shortfalls, weights)));
        sum += Math.log(SLIP / 2 + (1 - SLIP) * odds);
      }
      best = Math.max(best, sum);
    }
    return best;
  }

  private static int reproduced(
      List<Pair> pairs, Map<String, double[]> shortfalls, double[] weights) {
    return (int) pairs.stream().filter(p -> difference(p, shortfalls, weights) > 0).count();
  }

  /** Whether there were trials enough to tell. */
  public boolean enough() {
    return decided >= ENOUGH;
  }
}
