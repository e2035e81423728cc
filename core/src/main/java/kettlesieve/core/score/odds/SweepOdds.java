package kettlesieve.core.score.odds;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.measure.Estimate;

/**
 * Which amount of one tool is truly best. Amounts of one tool sound alike and share their errors:
 * the score of a sweep misses the truth by a smooth curve (a tilt and a bend over the amounts in
 * their order), drawn beside the bootstrap; each draw's best amount is counted.
 *
 * @param amounts rising
 * @param curve overall score expected at each: a parabola over the amounts' order, through all
 *     versions, each weighted by 1/(s² + τ²)
 * @param chances that each is truly the best, 0 to 1; they sum to 1
 * @param from index of the first amount of the plateau: the fewest neighbouring amounts that hold
 *     {@link #PLATEAU} of the chance
 * @param to index of its last amount
 */
public record SweepOdds(
    List<Double> amounts, List<Double> curve, List<Double> chances, int from, int to) {
  /**
   * So much of the chance lies on the plateau. In trials it held an amount that was not clearly
   * worse than the best in all of 35 sweeps, the best itself in 28: see docs/calibration/odds.md.
   */
  public static final double PLATEAU = 0.9;

  /** With fewer amounts there is no curve. */
  public static final int FEWEST = 4;

  private static final int ERRORS = 4;
  private static final long SEED = 0x5EE9;

  /**
   * How far the scores of a sweep miss the truth, as multiples of τ.
   *
   * @param tilt standard deviation of the error's tilt: points at one end, −points at the other
   * @param bend standard deviation of its bend: points at both ends, −points in the middle
   */
  public record Smooth(double tilt, double bend) {}

  public SweepOdds {
    amounts = List.copyOf(amounts);
    curve = List.copyOf(curve);
    chances = List.copyOf(chances);
  }

  /**
   * Of a sweep.
   *
   * @param amounts rising
   * @param scores overall, one an amount, with draws of one bootstrap
   * @param validity how far scores of this job miss the truth
   * @param doubt whether the program warns of the source
   * @param smooth how far sweeps do
   */
  public static SweepOdds of(
      List<Double> amounts,
      List<Estimate> scores,
      Validity validity,
      boolean doubt,
      Smooth smooth) {
    double tau = validity.spread(doubt);
    double[] chances =
        chances(scores, validity.scatter(), tau * smooth.tilt(), tau * smooth.bend());
    int[] plateau = plateau(chances);
    List<Double> each = new ArrayList<>();
    for (double c : chances) {
      each.add(c);
    }
    return new SweepOdds(amounts, curve(scores, tau), each, plateau[0], plateau[1]);
  }

  /** Place of an amount in the order, −1 to 1. */
  private static double place(int i, int n) {
    return n < 2 ? 0 : 2.0 * i / (n - 1) - 1;
  }

  private static double[] chances(List<Estimate> scores, double scatter, double tilt, double bend) {
    int n = scores.size();
    double[] chances = new double[n];
    SplittableRandom random = new SplittableRandom(SEED);
    int draws = scores.get(0).draws().length;
    int turns = Math.max(1, draws) * ERRORS;
    for (int turn = 0; turn < turns; turn++) {
      double a = tilt * random.nextGaussian();
      double b = bend * random.nextGaussian();
      double top = Double.NEGATIVE_INFINITY;
      List<Integer> best = new ArrayList<>();
      for (int i = 0; i < n; i++) {
        Estimate e = scores.get(i);
        double own = draws == 0 ? e.value() : e.draws()[turn % draws];
        double u = place(i, n);
        double off = Double.isFinite(own) ? own - e.value() : 0;
        double x = e.value() + scatter * off + a * u + b * (2 * u * u - 1);
        if (x > top) {
          best.clear();
          top = x;
        }
        if (x == top) {
          best.add(i);
        }
      }
      for (int i : best) {
        chances[i] += 1.0 / best.size() / turns;
      }
    }
    return chances;
  }

  private static int[] plateau(double[] chances) {
    int[] shortest = {0, chances.length - 1};
    double most = 0;
    for (int from = 0; from < chances.length; from++) {
      double sum = 0;
      for (int to = from; to < chances.length; to++) {
        sum += chances[to];
        int width = to - from;
        int known = shortest[1] - shortest[0];
        if (sum >= PLATEAU && (width < known || width == known && sum > most)) {
          shortest = new int[] {from, to};
          most = sum;
        }
      }
    }
    return shortest;
  }

  /** Weighted least squares of a parabola over the amounts' order. */
  private static List<Double> curve(List<Estimate> scores, double tau) {
    int n = scores.size();
    double[][] normal = new double[3][4];
    for (int i = 0; i < n; i++) {
      double u = place(i, n);
      double s = Odds.deviation(scores.get(i));
      double weight = 1 / (s * s + tau * tau);
      double[] row = {1, u, u * u, scores.get(i).value()};
      for (int r = 0; r < 3; r++) {
        for (int c = 0; c < 4; c++) {
          normal[r][c] += weight * row[r] * row[c];
        }
      }
    }
    for (int p = 0; p < 3; p++) {
      for (int r = 0; r < 3; r++) {
        if (r != p && normal[p][p] != 0) {
          double factor = normal[r][p] / normal[p][p];
          for (int c = p; c < 4; c++) {
            normal[r][c] -= factor * normal[p][c];
          }
        }
      }
    }
    List<Double> curve = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      double u = place(i, n);
      double sum = 0;
      for (int p = 0; p < 3; p++) {
        sum += normal[p][p] == 0 ? 0 : normal[p][3] / normal[p][p] * Math.pow(u, p);
      }
      curve.add(Math.max(0, Math.min(100, sum)));
    }
    return Collections.unmodifiableList(curve);
  }

  /** The amount with the highest chance. */
  public int best() {
    int best = 0;
    for (int i = 1; i < chances.size(); i++) {
      best = chances.get(i) > chances.get(best) ? i : best;
    }
    return best;
  }
}
