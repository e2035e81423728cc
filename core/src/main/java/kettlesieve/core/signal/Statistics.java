package kettlesieve.core.signal;

import java.util.Arrays;
import java.util.stream.IntStream;

/** Order statistics of small and middle-sized sets of numbers. */
public final class Statistics {
  private static final int WORTH_SELECTING = 200;

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
    return quantiles(values.clone(), share)[0];
  }

  /**
   * Several quantiles at once, as {@link #quantile}.
   *
   * @param values at least one; their order is lost
   * @param shares from 0 to 1
   */
  public static double[] quantiles(double[] values, double... shares) {
    double[] found = new double[shares.length];
    boolean sort = values.length < WORTH_SELECTING || Arrays.stream(values).anyMatch(Double::isNaN);
    if (sort) {
      Arrays.sort(values);
    }
    for (int i = 0; i < shares.length; i++) {
      if (!sort) {
        bringToPlace(values, (int) Math.floor(shares[i] * (values.length - 1)));
      }
      found[i] = quantileOfSorted(values, shares[i]);
    }
    return found;
  }

  /** A rank and the one after it. */
  private static void bringToPlace(double[] values, int rank) {
    select(values, rank);
    if (rank + 1 < values.length) {
      // What comes next is the least of those behind.
      int next = rank + 1;
      for (int i = rank + 2; i < values.length; i++) {
        next = values[i] < values[next] ? i : next;
      }
      double least = values[next];
      values[next] = values[rank + 1];
      values[rank + 1] = least;
    }
  }

  /** Brings the value of a rank to its place, smaller ones before it (Hoare 1961). */
  private static void select(double[] a, int rank) {
    int left = 0;
    int right = a.length - 1;
    while (left < right) {
      double pivot = a[(left + right) >>> 1];
      int i = left;
      int j = right;
      while (i <= j) {
        while (a[i] < pivot) {
          i++;
        }
        while (a[j] > pivot) {
          j--;
        }
        if (i <= j) {
          double swapped = a[i];
          a[i++] = a[j];
          a[j--] = swapped;
        }
      }
      if (rank <= j) {
        right = j;
      } else if (rank >= i) {
        left = i;
      } else {
        return;
      }
    }
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
