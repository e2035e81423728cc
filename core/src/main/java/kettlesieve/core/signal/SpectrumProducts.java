package kettlesieve.core.signal;

/**
 * Products of transforms in the packed layout of {@link Fft}, one bin after the other: filtering is
 * a product, correlation a product with the conjugate.
 *
 * <p><b>Two lines at once.</b> Sums over many lines are bound by memory, not by arithmetic: per bin
 * one product of one line reads four numbers and writes two. Where two lines are taken together,
 * what they have in common (the factor, or the sum) is fetched once, which saves a third of the
 * traffic. A pair gives the same sums as its two lines one after the other, to rounding.
 */
public final class SpectrumProducts {
  private SpectrumProducts() {}

  /** Multiplies one transform by another of the same length, in place. */
  public static void multiply(double[] a, double[] by) {
    a[0] *= by[0];
    a[1] *= by[1];
    for (int k = 2; k < a.length; k += 2) {
      double re = a[k] * by[k] - a[k + 1] * by[k + 1];
      a[k + 1] = a[k] * by[k + 1] + a[k + 1] * by[k];
      a[k] = re;
    }
  }

  /** Adds conj(a)·b to a sum of transforms, for every b from a place on and its sum. */
  public static void addCrosses(double[] a, double[][] b, double[][] sums, int from) {
    int j = from;
    for (; j + 1 < b.length; j += 2) {
      addCross(a, b[j], sums[j], b[j + 1], sums[j + 1]);
    }
    if (j < b.length) {
      addCross(a, b[j], sums[j]);
    }
  }

  private static void addCross(double[] a, double[] b, double[] sum) {
    sum[0] += a[0] * b[0];
    sum[1] += a[1] * b[1];
    for (int k = 2; k < a.length; k += 2) {
      double re = a[k];
      double im = a[k + 1];
      double bRe = b[k];
      double bIm = b[k + 1];
      sum[k] += re * bRe + im * bIm;
      sum[k + 1] += re * bIm - im * bRe;
    }
  }

  /** Two at once: what both are multiplied by is fetched once. */
  private static void addCross(
      double[] a, double[] b, double[] sumOfB, double[] c, double[] sumOfC) {
    sumOfB[0] += a[0] * b[0];
    sumOfB[1] += a[1] * b[1];
    sumOfC[0] += a[0] * c[0];
    sumOfC[1] += a[1] * c[1];
    for (int k = 2; k < a.length; k += 2) {
      double re = a[k];
      double im = a[k + 1];
      double bRe = b[k];
      double bIm = b[k + 1];
      double cRe = c[k];
      double cIm = c[k + 1];
      sumOfB[k] += re * bRe + im * bIm;
      sumOfB[k + 1] += re * bIm - im * bRe;
      sumOfC[k] += re * cRe + im * cIm;
      sumOfC[k + 1] += re * cIm - im * cRe;
    }
  }

  /** Adds a·b to a sum of transforms. */
  public static void addProduct(double[] a, double[] b, double[] sum) {
    sum[0] += a[0] * b[0];
    sum[1] += a[1] * b[1];
    for (int k = 2; k < a.length; k += 2) {
      sum[k] += a[k] * b[k] - a[k + 1] * b[k + 1];
      sum[k + 1] += a[k] * b[k + 1] + a[k + 1] * b[k];
    }
  }

  /** Adds a·b to a sum of transforms. */
  public static void addProduct(float[] a, float[] b, float[] sum) {
    sum[0] += a[0] * b[0];
    sum[1] += a[1] * b[1];
    for (int k = 2; k < a.length; k += 2) {
      float re = a[k];
      float im = a[k + 1];
      float bRe = b[k];
      float bIm = b[k + 1];
      sum[k] += re * bRe - im * bIm;
      sum[k + 1] += re * bIm + im * bRe;
    }
  }

  /** Adds the products of each a, from a place on, with its b to a sum of transforms. */
  public static void addProducts(float[][] a, int from, float[][] b, float[] sum) {
    int j = 0;
    for (; j + 1 < b.length; j += 2) {
      addProduct(a[from + j], b[j], a[from + j + 1], b[j + 1], sum);
    }
    if (j < b.length) {
      addProduct(a[from + j], b[j], sum);
    }
  }

  /** Two at once: the sum is fetched once. */
  private static void addProduct(float[] a, float[] b, float[] c, float[] d, float[] sum) {
    sum[0] += a[0] * b[0] + c[0] * d[0];
    sum[1] += a[1] * b[1] + c[1] * d[1];
    for (int k = 2; k < a.length; k += 2) {
      float aRe = a[k];
      float aIm = a[k + 1];
      float bRe = b[k];
      float bIm = b[k + 1];
      float cRe = c[k];
      float cIm = c[k + 1];
      float dRe = d[k];
      float dIm = d[k + 1];
      sum[k] += aRe * bRe - aIm * bIm + cRe * dRe - cIm * dIm;
      sum[k + 1] += aRe * bIm + aIm * bRe + cRe * dIm + cIm * dRe;
    }
  }
}
