package kettlesieve.core.signal;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import kettlesieve.core.task.Stop;
import org.jtransforms.fft.DoubleFFT_1D;
import org.jtransforms.fft.FloatFFT_1D;
import org.visnow.jlargearrays.ConcurrencyUtils;

/**
 * Real Fourier transforms in the packed layout of JTransforms: for an even length n, {@code a[2k]}
 * and {@code a[2k+1]} are the real and imaginary parts of bin k, and {@code a[1]} is the real bin
 * n/2. By libavutil where lengths are powers of two and short enough to keep a transform for each
 * thread, by JTransforms otherwise.
 */
public final class Fft {
  private static final int LEAST_POWER = 5;
  private static final int LARGEST_POWER = 16;

  private static final Map<Integer, FloatFFT_1D> FLOATS = new ConcurrentHashMap<>();
  private static final Map<Integer, DoubleFFT_1D> DOUBLES = new ConcurrentHashMap<>();

  /** Of a thread, by the power: asked for millions of times. */
  private static final ThreadLocal<Own> OWN = ThreadLocal.withInitial(Own::new);

  private static final class Own {
    final NativeTransform[] floats = new NativeTransform[LARGEST_POWER + 1];
    final NativeTransform[] doubles = new NativeTransform[LARGEST_POWER + 1];
  }

  static {
    // One transform, one thread: results must not depend on how many threads there are, and the
    // work is spread over versions and channels instead.
    ConcurrencyUtils.setNumberOfThreads(1);
  }

  private Fft() {}

  /** Forward transform in place. The length must be even. */
  public static void forward(float[] a) {
    Stop.checkHere();
    if (own(a.length)) {
      floats(a.length).forward(a);
    } else {
      FLOATS.computeIfAbsent(a.length, FloatFFT_1D::new).realForward(a);
    }
  }

  /** Inverse transform in place, scaled so that forward and inverse give the input back. */
  public static void inverse(float[] a) {
    Stop.checkHere();
    if (own(a.length)) {
      floats(a.length).inverse(a);
    } else {
      FLOATS.computeIfAbsent(a.length, FloatFFT_1D::new).realInverse(a, true);
    }
  }

  /** Forward transform in place. The length must be even. */
  public static void forward(double[] a) {
    Stop.checkHere();
    if (own(a.length)) {
      doubles(a.length).forward(a);
    } else {
      DOUBLES.computeIfAbsent(a.length, DoubleFFT_1D::new).realForward(a);
    }
  }

  /** Inverse transform in place, scaled so that forward and inverse give the input back. */
  public static void inverse(double[] a) {
    Stop.checkHere();
    if (own(a.length)) {
      doubles(a.length).inverse(a);
    } else {
      DOUBLES.computeIfAbsent(a.length, DoubleFFT_1D::new).realInverse(a, true);
    }
  }

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

  private static boolean own(int length) {
    return Integer.bitCount(length) == 1
        && length >= 1 << LEAST_POWER
        && length <= 1 << LARGEST_POWER;
  }

  private static NativeTransform floats(int length) {
    NativeTransform[] known = OWN.get().floats;
    int power = Integer.numberOfTrailingZeros(length);
    if (known[power] == null) {
      known[power] = NativeTransform.ofFloats(length);
    }
    return known[power];
  }

  private static NativeTransform doubles(int length) {
    NativeTransform[] known = OWN.get().doubles;
    int power = Integer.numberOfTrailingZeros(length);
    if (known[power] == null) {
      known[power] = NativeTransform.ofDoubles(length);
    }
    return known[power];
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

  /** The smallest power of two that is not below {@code n}. */
  public static int powerOfTwo(long n) {
    return Math.toIntExact(n <= 1 ? 1 : Long.highestOneBit(n - 1) << 1);
  }
}
