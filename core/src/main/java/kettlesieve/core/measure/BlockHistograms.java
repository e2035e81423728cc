package kettlesieve.core.measure;

/**
 * Values gathered by bootstrap block, for statistics of rank under the bootstrap. Quantiles are
 * interpolated within a bin, as {@link kettlesieve.core.signal.Histogram} does. First everything is
 * gathered, then it is asked for.
 */
public final class BlockHistograms {
  private final double low;
  private final double step;

  /** Weights by bin and block; once something was asked for, of all bins up to this one. */
  private final double[][] weights;

  /** Of one block: values come block by block, and so few numbers stay near the processor. */
  private final double[] own;

  private int gathered = -1;
  private boolean summed;

  /**
   * @param low the lowest value that is told apart; the first bin is centred on it
   * @param high the highest
   * @param step width of a bin
   */
  public BlockHistograms(Timeline timeline, double low, double high, double step) {
    this.low = low - step / 2;
    this.step = step;
    this.weights = new double[(int) Math.round((high - low) / step) + 1][timeline.blocks()];
    this.own = new double[weights.length];
  }

  /**
   * Adds a value of a block with a weight; values outside fall into the end bins.
   *
   * @throws IllegalStateException if something was asked for already
   */
  public void add(int block, double value, double weight) {
    if (summed) {
      throw new IllegalStateException("nothing can be added once a quantile was asked for");
    }
    if (block != gathered) {
      put();
      gathered = block;
    }
    int bin = (int) Math.floor((value - low) / step);
    own[Math.max(0, Math.min(own.length - 1, bin))] += weight;
  }

  /** Puts what was gathered of a block where it belongs. */
  private void put() {
    for (int bin = 0; gathered >= 0 && bin < own.length; bin++) {
      weights[bin][gathered] += own[bin];
      own[bin] = 0;
    }
  }

  /** Sums by bin make every draw of the bootstrap a matter of a few looks. */
  private synchronized void sum() {
    if (!summed) {
      put();
    }
    for (int bin = 1; !summed && bin < weights.length; bin++) {
      for (int block = 0; block < weights[bin].length; block++) {
        weights[bin][block] += weights[bin - 1][block];
      }
    }
    summed = true;
  }

  private double upTo(int bin, int[] blockWeights) {
    double[] own = weights[bin];
    double sum = 0;
    for (int i = 0; i < own.length; i++) {
      sum += blockWeights[i] * own[i];
    }
    return sum;
  }

  /** A quantile with each block counted as often as told; NaN if there are no values. */
  public double quantile(int[] blockWeights, double share) {
    sum();
    double all = upTo(weights.length - 1, blockWeights);
    if (!(all > 0)) {
      return Double.NaN;
    }
    double wanted = share * all;
    int bin = weights.length - 1;
    double upTo = all;
    int above = -1;
    double below = 0;
    while (bin - above > 1) {
      int middle = (bin + above) / 2;
      double sum = upTo(middle, blockWeights);
      if (sum >= wanted) {
        bin = middle;
        upTo = sum;
      } else {
        above = middle;
        below = sum;
      }
    }
    return low + step * (bin + (wanted - below) / (upTo - below));
  }

  /** The median with each block counted as often as told; NaN if there are no values. */
  public double median(int[] blockWeights) {
    return quantile(blockWeights, 0.5);
  }
}
