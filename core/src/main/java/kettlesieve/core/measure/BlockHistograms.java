package kettlesieve.core.measure;

import java.util.stream.Stream;
import kettlesieve.core.signal.Histogram;

/** Values gathered by bootstrap block, for statistics of rank under the bootstrap. */
public final class BlockHistograms {
  private final double low;
  private final double step;
  private final int bins;
  private final Histogram[] blocks;

  /**
   * @param low the lowest value that is told apart; the first bin is centred on it
   * @param high the highest
   * @param step width of a bin
   */
  public BlockHistograms(Timeline timeline, double low, double high, double step) {
    this.low = low - step / 2;
    this.step = step;
    this.bins = (int) Math.round((high - low) / step) + 1;
    this.blocks = Stream.generate(this::empty).limit(timeline.blocks()).toArray(Histogram[]::new);
  }

  private Histogram empty() {
    return new Histogram(low, step, bins);
  }

  /** Adds a value of a block with a weight. */
  public void add(int block, double value, double weight) {
    blocks[block].add(value, weight);
  }

  /** A quantile with each block counted as often as told; NaN if there are no values. */
  public double quantile(int[] blockWeights, double share) {
    Histogram sum = empty();
    for (int i = 0; i < blockWeights.length; i++) {
      if (blockWeights[i] > 0) {
        sum.add(blocks[i], blockWeights[i]);
      }
    }
    return sum.quantile(share);
  }

  /** The median with each block counted as often as told; NaN if there are no values. */
  public double median(int[] blockWeights) {
    return quantile(blockWeights, 0.5);
  }
}
