package kettlesieve.core.signal;

/** Sums of products of samples. */
public final class DotProduct {
  private DotProduct() {}

  /** Over the first samples of two arrays. */
  public static double of(double[] a, double[] b, int count) {
    return of(a, b, 0, count);
  }

  /**
   * Over the first samples of one array and those of another from a place on. Four sums run side by
   * side: one would wait for itself at every sample.
   */
  public static double of(double[] a, double[] b, int from, int count) {
    double first = 0;
    double second = 0;
    double third = 0;
    double fourth = 0;
    int i = 0;
    for (; i + 3 < count; i += 4) {
      first += a[i] * b[from + i];
      second += a[i + 1] * b[from + i + 1];
      third += a[i + 2] * b[from + i + 2];
      fourth += a[i + 3] * b[from + i + 3];
    }
    for (; i < count; i++) {
      first += a[i] * b[from + i];
    }
    return first + second + third + fourth;
  }
}
