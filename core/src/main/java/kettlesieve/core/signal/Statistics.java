package kettlesieve.core.signal;

import java.util.Arrays;
import java.util.stream.IntStream;

/** Order statistics of small and middle-sized sets of numbers. */
public final class Statistics {
  private Statistics() {}

  /** The median; the mean of the middle two for an even count. NaN for none. */
  public static double median(double... values) {
    return quantile(values, 0.5);
  }

  /**
   * A quantile with straight-line interpolation between order statistics (the usual definition,
   * type 7 of Hyndman &amp; Fan 1996). NaN for no values.
   *
   * @param share from 0 to 1
   */
  public static double quantile(double[] values, double share) {
    if (values.length == 0) {
      return Double.NaN;
    }
    double[] sorted = values.clone();
    Arrays.sort(sorted);
    return quantileOfSorted(sorted, share);
  }

  /** As {@link #quantile}, of values already in order. */
  public static double quantileOfSorted(double[] sorted, double share) {
    double position = share * (sorted.length - 1);
    int low = (int) Math.floor(position);
    int high = Math.min(sorted.length - 1, low + 1);
    return sorted[low] + (position - low) * (sorted[high] - sorted[low]);
  }

  /** 1.4826 times the median absolute deviation: the standard deviation of normal data. */
  public static double robustDeviation(double[] values) {
    double middle = median(values);
    double[] distances = new double[values.length];
    for (int i = 0; i < values.length; i++) {
      distances[i] = Math.abs(values[i] - middle);
    }
    return 1.4826 * median(distances);
  }

  /**
   * The value at which half of the total weight is reached.
   *
   * @param weights not negative, one a value
   */
  public static double weightedMedian(double[] values, double[] weights) {
    int[] order = order(values);
    double total = 0;
    for (double w : weights) {
      total += w;
    }
    double sum = 0;
    for (int i : order) {
      sum += weights[i];
      if (sum >= total / 2) {
        return values[i];
      }
    }
    return Double.NaN;
  }

  /** Indices of the values from the smallest to the largest; equal values keep their order. */
  public static int[] order(double[] values) {
    return IntStream.range(0, values.length)
        .boxed()
        .sorted((a, b) -> Double.compare(values[a], values[b]))
        .mapToInt(Integer::intValue)
        .toArray();
  }
}
