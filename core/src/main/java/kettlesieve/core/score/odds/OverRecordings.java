package kettlesieve.core.score.odds;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;

/**
 * Which tool is truly the best over several recordings. A part of the scores' error is a tool's own
 * and stays however many recordings there are ({@link Validity#lasting}); the rest, and the
 * recordings' own scatter, shrinks with their number.
 *
 * @param best the chance to be the best, 0 to 1
 * @param better the chance to be better than another, by name
 */
public record OverRecordings(double best, Map<String, Double> better) {
  private static final int DRAWS = 8000;
  private static final long SEED = 0x0DD5;

  public OverRecordings {
    better = Collections.unmodifiableMap(new LinkedHashMap<>(better));
  }

  /**
   * Mean scores over the recordings that all were tried on.
   *
   * @param name of the tool
   * @param mean of its scores
   * @param deviations paired deviation to another, root mean square over the recordings, by name
   */
  public record Tried(String name, double mean, Map<String, Double> deviations) {}

  /**
   * The odds of each, in the same order.
   *
   * @param recordings how many all were tried on
   * @param doubt whether the program warns of most of the sources
   */
  public static Map<String, OverRecordings> of(
      List<Tried> tools, int recordings, Validity validity, boolean doubt) {
    double[] best = best(tools, recordings, validity, doubt);
    Map<String, OverRecordings> all = new LinkedHashMap<>();
    for (int i = 0; i < tools.size(); i++) {
      Tried one = tools.get(i);
      Map<String, Double> better = new LinkedHashMap<>();
      for (Tried other : tools) {
        if (other != one) {
          better.put(
              other.name(),
              validity.betterOver(
                  one.mean() - other.mean(),
                  one.deviations().getOrDefault(other.name(), 0.0),
                  recordings,
                  doubt));
        }
      }
      all.put(one.name(), new OverRecordings(best[i], better));
    }
    return all;
  }

  private static double[] best(
      List<Tried> tools, int recordings, Validity validity, boolean doubt) {
    int n = tools.size();
    double[] best = new double[n];
    double[] spread = new double[n];
    List<SplittableRandom> errors = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      double own = rms(tools.get(i).deviations()) * validity.scatter();
      // Half of a difference's variance is the one's, half the other's.
      spread[i] = Math.sqrt((own * own / recordings + validity.spreadOver(recordings, doubt)) / 2);
      errors.add(new SplittableRandom(SEED + 31L * tools.get(i).name().hashCode()));
    }
    for (int d = 0; d < DRAWS; d++) {
      int first = 0;
      double top = Double.NEGATIVE_INFINITY;
      for (int i = 0; i < n; i++) {
        double x = tools.get(i).mean() + spread[i] * errors.get(i).nextGaussian();
        if (x > top) {
          top = x;
          first = i;
        }
      }
      best[first] += (1 - validity.failure()) / DRAWS;
    }
    for (int i = 0; i < n; i++) {
      best[i] += validity.failure() / n;
    }
    return best;
  }

  private static double rms(Map<String, Double> deviations) {
    return Math.sqrt(deviations.values().stream().mapToDouble(d -> d * d).average().orElse(0));
  }
}
