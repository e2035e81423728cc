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

  /** The smallest power of two that is not below {@code n}. */
  public static int powerOfTwo(long n) {
    return Math.toIntExact(n <= 1 ? 1 : Long.highestOneBit(n - 1) << 1);
  }
}
