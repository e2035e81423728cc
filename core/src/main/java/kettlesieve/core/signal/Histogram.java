package kettlesieve.core.signal;

/**
 * Weighted counts of values on an even grid; values outside fall into the end bins. Quantiles are
 * interpolated within a bin, so they are exact to a small part of its width where data are dense.
 */
public final class Histogram {
  private final double low;
  private final double width;
  private final double[] counts;
  private int first = Integer.MAX_VALUE;
  private int last = -1;

  /** An empty histogram of {@code bins} bins of the given width, the first beginning at low. */
  public Histogram(double low, double width, int bins) {
    this.low = low;
    this.width = width;
    this.counts = new double[bins];
  }

  /** Adds a value with a weight not below 0. */
  public void add(double value, double weight) {
    int bin = (int) Math.floor((value - low) / width);
    int index = Math.max(0, Math.min(counts.length - 1, bin));
    counts[index] += weight;
    first = Math.min(first, index);
    last = Math.max(last, index);
  }

  /** Adds another histogram on the same grid, its counts multiplied by a factor. */
  public void add(Histogram other, double factor) {
    for (int i = other.first; i <= other.last; i++) {
      counts[i] += factor * other.counts[i];
    }
    first = Math.min(first, other.first);
    last = Math.max(last, other.last);
  }

  /** Sum of all weights. */
  public double total() {
    double total = 0;
    for (int i = first; i <= last; i++) {
      total += counts[i];
    }
    return total;
  }

  /** The value below which half of the weight lies; NaN if there is none. */
  public double median() {
    return quantile(0.5);
  }

  /** The median of what lies above a value; NaN if nothing does. */
  public double medianAbove(double value) {
    double under = 0;
    int from = (int) Math.ceil((value - low) / width);
    for (int i = first; i < Math.min(from, last + 1); i++) {
      under += counts[i];
    }
    double total = total();
    return total > under ? quantile((under + total) / 2 / total) : Double.NaN;
  }

  /**
   * The value below which a share of the weight lies; NaN if there is none.
   *
   * @param share over 0, up to 1
   */
  public double quantile(double share) {
    double wanted = share * total();
    double sum = 0;
    for (int i = first; i <= last; i++) {
      if (counts[i] > 0 && sum + counts[i] >= wanted) {
        return low + width * (i + (wanted - sum) / counts[i]);
      }
      sum += counts[i];
    }
    return Double.NaN;
  }
}
