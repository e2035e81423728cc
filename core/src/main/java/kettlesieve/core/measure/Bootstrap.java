package kettlesieve.core.measure;

import java.util.Arrays;
import java.util.SplittableRandom;
import java.util.function.ToDoubleFunction;

/**
 * Block bootstrap (Künsch, Annals of Statistics 17, 1989, with blocks that do not overlap): 1,000
 * draws of whole blocks with replacement, from a fixed seed. Two bootstraps of equally many blocks
 * make the same draws, so that versions can be compared pair by pair.
 */
public final class Bootstrap {
  /** Number of resamplings. */
  public static final int DRAWS = 1000;

  private static final long SEED = 20_260_101L;

  private final int[][] weights;

  /**
   * @param blocks number of blocks, at least 1
   */
  public Bootstrap(int blocks) {
    SplittableRandom random = new SplittableRandom(SEED);
    weights = new int[DRAWS][blocks];
    for (int[] draw : weights) {
      for (int i = 0; i < blocks; i++) {
        draw[random.nextInt(blocks)]++;
      }
    }
  }

  /**
   * The value and its distribution.
   *
   * @param statistic of the data with each block counted as often as the array says
   */
  public Estimate estimate(ToDoubleFunction<int[]> statistic) {
    int[] all = new int[weights[0].length];
    Arrays.fill(all, 1);
    double value = statistic.applyAsDouble(all);
    double[] draws = new double[DRAWS];
    for (int d = 0; d < DRAWS; d++) {
      draws[d] = statistic.applyAsDouble(weights[d]);
    }
    return new Estimate(value, draws);
  }
}
