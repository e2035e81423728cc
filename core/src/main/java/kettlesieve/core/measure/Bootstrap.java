package kettlesieve.core.measure;

import java.util.Arrays;
import java.util.SplittableRandom;
import java.util.function.ToDoubleFunction;
import kettlesieve.core.task.Stop;
import org.hipparchus.distribution.continuous.TDistribution;

/**
 * Circular block bootstrap (Politis &amp; Romano 1992, after Künsch, Annals of Statistics 17,
 * 1989): 1,000 draws from a fixed seed, each of as many blocks as there are, taken with replacement
 * in runs of three that follow each other. Speech goes by phrases of some seconds: single blocks of
 * a second depend on their neighbours, and intervals from them alone are far too narrow.
 *
 * <p>A recording of half a minute holds but six such runs. So draws are spread about the value as
 * Student's t distribution is wider than the normal one for so few: with that, what two halves of a
 * recording say differs within both intervals as often as 95 % asks for
 * (docs/calibration/denoise.md).
 *
 * <p>Two bootstraps of equally many blocks make the same draws, so that versions can be compared
 * pair by pair.
 */
public final class Bootstrap {
  /** Number of resamplings. */
  public static final int DRAWS = 1000;

  private static final long SEED = 20_260_101L;
  private static final int LONGEST_RUN = 6;
  private static final double RUN_OF_ROOT = 0.9;
  private static final double FEWEST_RUNS = 2.5;

  private final int[][] weights;
  private final double spread;

  /**
   * @param blocks number of blocks, at least 1
   */
  public Bootstrap(int blocks) {
    SplittableRandom random = new SplittableRandom(SEED);
    int run = (int) Math.max(1, Math.min(LONGEST_RUN, Math.round(RUN_OF_ROOT * Math.sqrt(blocks))));
    weights = new int[DRAWS][blocks];
    for (int[] draw : weights) {
      for (int drawn = 0; drawn < blocks; drawn += run) {
        int start = random.nextInt(blocks);
        for (int i = 0; i < Math.min(run, blocks - drawn); i++) {
          draw[(start + i) % blocks]++;
        }
      }
    }
    spread = spread((double) blocks / run);
  }

  /**
   * By how much draws lie too close: for few runs, and for what drawing from a sample takes off.
   */
  private static double spread(double runs) {
    double r = Math.max(FEWEST_RUNS, runs);
    double student = new TDistribution(r - 1).inverseCumulativeProbability(0.975);
    return student / Estimate.NORMAL * Math.sqrt(r / (r - 1));
  }

  /**
   * The value and its distribution. A statistic that is never below 0 stays so.
   *
   * @param statistic of the data with each block counted as often as the array says
   */
  public Estimate estimate(ToDoubleFunction<int[]> statistic) {
    int[] all = new int[weights[0].length];
    Arrays.fill(all, 1);
    double value = statistic.applyAsDouble(all);
    double[] draws = new double[DRAWS];
    boolean negative = value < 0;
    for (int d = 0; d < DRAWS; d++) {
      Stop.checkHere();
      draws[d] = statistic.applyAsDouble(weights[d]);
      negative |= draws[d] < 0;
    }
    for (int d = 0; d < DRAWS; d++) {
      double spreadOut = value + spread * (draws[d] - value);
      draws[d] = negative || !(spreadOut < 0) ? spreadOut : 0;
    }
    return new Estimate(value, draws);
  }
}
