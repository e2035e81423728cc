package kettlesieve.core.signal;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jtransforms.fft.DoubleFFT_1D;
import org.jtransforms.fft.FloatFFT_1D;
import org.visnow.jlargearrays.ConcurrencyUtils;

/**
 * Real Fourier transforms on JTransforms, in its packed layout: for an even length n, {@code a[2k]}
 * and {@code a[2k+1]} are the real and imaginary parts of bin k, and {@code a[1]} is the real bin
 * n/2.
 */
public final class Fft {
  private static final Map<Integer, FloatFFT_1D> FLOATS = new ConcurrentHashMap<>();

  /** Those of lengths that are powers of two, by the power: asked for millions of times. */
  private static final AtomicReferenceArray<FloatFFT_1D> POWERS = new AtomicReferenceArray<>(32);

  private static final Map<Integer, DoubleFFT_1D> DOUBLES = new ConcurrentHashMap<>();

  static {
    // One transform, one thread: results must not depend on how many threads there are, and the
    // work is spread over versions and channels instead.
    ConcurrencyUtils.setNumberOfThreads(1);
  }

  private Fft() {}

  /** Forward transform in place. The length must be even. */
  public static void forward(float[] a) {
    floats(a.length).realForward(a);
  }

  /** Inverse transform in place, scaled so that forward and inverse give the input back. */
  public static void inverse(float[] a) {
    floats(a.length).realInverse(a, true);
  }

  private static FloatFFT_1D floats(int length) {
    if (Integer.bitCount(length) != 1) {
      return FLOATS.computeIfAbsent(length, FloatFFT_1D::new);
    }
    int power = Integer.numberOfTrailingZeros(length);
    FloatFFT_1D known = POWERS.get(power);
    if (known == null) {
      known = new FloatFFT_1D(length);
      POWERS.set(power, known);
    }
    return known;
  }

  /** Forward transform in place. The length must be even. */
  public static void forward(double[] a) {
    DOUBLES.computeIfAbsent(a.length, DoubleFFT_1D::new).realForward(a);
  }

  /** Inverse transform in place, scaled so that forward and inverse give the input back. */
  public static void inverse(double[] a) {
    DOUBLES.computeIfAbsent(a.length, DoubleFFT_1D::new).realInverse(a, true);
  }

  /** Adds conj(a)·b to a sum of transforms. */
  public static void addCross(double[] a, double[] b, double[] sum) {
    sum[0] += a[0] * b[0];
    sum[1] += a[1] * b[1];
    for (int k = 2; k < a.length; k += 2) {
      sum[k] += a[k] * b[k] + a[k + 1] * b[k + 1];
      sum[k + 1] += a[k] * b[k + 1] - a[k + 1] * b[k];
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
      sum[k] += a[k] * b[k] - a[k + 1] * b[k + 1];
      sum[k + 1] += a[k] * b[k + 1] + a[k + 1] * b[k];
    }
  }

  /** The smallest power of two that is not below {@code n}. */
  public static int powerOfTwo(long n) {
    return Math.toIntExact(n <= 1 ? 1 : Long.highestOneBit(n - 1) << 1);
  }
}
