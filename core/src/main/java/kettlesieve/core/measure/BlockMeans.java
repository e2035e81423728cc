package kettlesieve.core.measure;

/** Values gathered by bootstrap block, for their mean under the bootstrap. */
public final class BlockMeans {
  private final Pair pair;
  private final double[] sums;
  private final double[] counts;

  /** Nothing gathered yet. */
  public BlockMeans(Pair pair) {
    this.pair = pair;
    this.sums = new double[pair.timeline().blocks()];
    this.counts = new double[sums.length];
  }

  /** Adds a value of a frame. */
  public void add(int frame, double value) {
    add(frame, value, 1);
  }

  /** Adds a value of a frame that counts so much. */
  public void add(int frame, double value, double weight) {
    addSum(pair.timeline().block(frame), weight * value, weight);
  }

  /** Adds what was summed of a block: values times weights, and weights. */
  public void addSum(int block, double sum, double weight) {
    sums[block] += sum;
    counts[block] += weight;
  }

  /** Whether nothing was added. */
  public boolean none() {
    return java.util.Arrays.stream(counts).sum() == 0;
  }

  /** The mean and its distribution. */
  public Estimate estimate() {
    return pair.bootstrap()
        .estimate(
            w -> {
              double sum = 0;
              double n = 0;
              for (int b = 0; b < sums.length; b++) {
                sum += w[b] * sums[b];
                n += w[b] * counts[b];
              }
              return n > 0 ? sum / n : Double.NaN;
            });
  }
}
