package kettlesieve.core.signal;

/** Sums of products of samples. */
public final class DotProduct {
  private DotProduct() {}

  /**
   * Over the first samples of two arrays. Eight sums run side by side: one would wait for itself at
   * every sample.
   */
  public static double of(double[] a, double[] b, int count) {
    double s0 = 0;
    double s1 = 0;
    double s2 = 0;
    double s3 = 0;
    double s4 = 0;
    double s5 = 0;
    double s6 = 0;
    double s7 = 0;
    int i = 0;
    for (; i + 7 < count; i += 8) {
      s0 += a[i] * b[i];
      s1 += a[i + 1] * b[i + 1];
      s2 += a[i + 2] * b[i + 2];
      s3 += a[i + 3] * b[i + 3];
      s4 += a[i + 4] * b[i + 4];
      s5 += a[i + 5] * b[i + 5];
      s6 += a[i + 6] * b[i + 6];
      s7 += a[i + 7] * b[i + 7];
    }
    for (; i < count; i++) {
      s0 += a[i] * b[i];
    }
    return s0 + s1 + (s2 + s3) + (s4 + s5 + (s6 + s7));
  }
}
