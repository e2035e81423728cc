package kettlesieve.core.score.odds;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.measure.Estimate;

/**
 * How sure it is that a version is better than others. The chance to be the best is the share of
 * draws in which it comes first: the draws of the bootstrap, which all versions share, and to each
 * version an error of variance τ²/2 of its own. What is alike in every draw (a copy) has the same
 * error, so that copies split one chance and leave the others theirs.
 *
 * @param best the chance to be truly the best of all that are ranked, 0 to 1; they sum to 1
 * @param near the chance to lie within {@link #NEAR} points of the best, 0 to 1
 * @param better the chance to be truly better than another, by its id
 */
public record Odds(double best, double near, Map<String, Double> better) {
  /** As good as the best, points. */
  public static final double NEAR = 3;

  /** Errors drawn to each draw of the bootstrap. */
  private static final int ERRORS = 4;

  public Odds {
    better = Collections.unmodifiableMap(new LinkedHashMap<>(better));
  }

  /**
   * Of versions that are ranked together.
   *
   * @param scores overall scores by id, with draws of one bootstrap
   * @param validity how far such scores miss the truth
   * @param doubt whether the program warns of the source
   * @return by id, in the same order
   */
  public static Map<String, Odds> of(
      Map<String, Estimate> scores, Validity validity, boolean doubt) {
    List<String> ids = new ArrayList<>(scores.keySet());
    List<Estimate> all = new ArrayList<>(scores.values());
    double[][] chances = chances(all, validity, doubt);
    Map<String, Odds> odds = new LinkedHashMap<>();
    for (int i = 0; i < ids.size(); i++) {
      Map<String, Double> better = new LinkedHashMap<>();
      for (int j = 0; j < ids.size(); j++) {
        if (i != j) {
          better.put(ids.get(j), better(all.get(i), all.get(j), validity, doubt));
        }
      }
      odds.put(ids.get(i), new Odds(chances[0][i], chances[1][i], better));
    }
    return odds;
  }

  /** The chance that the first of two is truly better. */
  public static double better(Estimate a, Estimate b, Validity validity, boolean doubt) {
    return validity.better(a.value() - b.value(), deviation(a.minus(b)), doubt);
  }

  /** Standard deviation of the draws that are numbers; 0 for fewer than two. */
  public static double deviation(Estimate e) {
    double sum = 0;
    double squares = 0;
    int n = 0;
    for (double x : e.draws()) {
      if (Double.isFinite(x)) {
        double off = x - e.value();
        sum += off;
        squares += off * off;
        n++;
      }
    }
    return n < 2 ? 0 : Math.sqrt(Math.max(0, squares - sum * sum / n) / (n - 1));
  }

  /** Chances to be the best, and to be near it. */
  private static double[][] chances(List<Estimate> scores, Validity validity, boolean doubt) {
    int n = scores.size();
    double[][] chances = new double[2][n];
    if (n == 0) {
      return chances;
    }
    double error = validity.spread(doubt) / Math.sqrt(2);
    SplittableRandom[] errors = new SplittableRandom[n];
    for (int i = 0; i < n; i++) {
      errors[i] = new SplittableRandom(scores.get(i).signature());
    }
    int draws = scores.get(0).draws().length;
    double[] drawn = new double[n];
    int turns = Math.max(1, draws) * ERRORS;
    for (int turn = 0; turn < turns; turn++) {
      double top = Double.NEGATIVE_INFINITY;
      for (int i = 0; i < n; i++) {
        Estimate e = scores.get(i);
        double own = draws == 0 ? e.value() : e.draws()[turn % draws];
        double off = Double.isFinite(own) ? own - e.value() : 0;
        drawn[i] = e.value() + validity.scatter() * off + error * errors[i].nextGaussian();
        top = Math.max(top, drawn[i]);
      }
      int first = 0;
      for (double x : drawn) {
        first += x == top ? 1 : 0;
      }
      for (int i = 0; i < n; i++) {
        chances[0][i] += drawn[i] == top ? 1.0 / first / turns : 0;
        chances[1][i] += drawn[i] >= top - NEAR ? 1.0 / turns : 0;
      }
    }
    double kept = 1 - validity.failure();
    double[] shares = shares(scores);
    for (int i = 0; i < n; i++) {
      // Where scores fail altogether, each is as good a guess as any other.
      chances[0][i] = kept * chances[0][i] + validity.failure() * shares[i];
      chances[1][i] = kept * chances[1][i] + validity.failure() * shares[i];
    }
    return chances;
  }

  /** Equal shares of all that differ; copies of one split its share. */
  private static double[] shares(List<Estimate> scores) {
    Map<Long, Integer> alike = new LinkedHashMap<>();
    scores.forEach(e -> alike.merge(e.signature(), 1, Integer::sum));
    return scores.stream()
        .mapToDouble(e -> 1.0 / alike.size() / alike.get(e.signature()))
        .toArray();
  }
}
