package kettlesieve.core.signal;

import static org.bytedeco.ffmpeg.global.avutil.AV_TX_DOUBLE_RDFT;
import static org.bytedeco.ffmpeg.global.avutil.AV_TX_FLOAT_RDFT;
import static org.bytedeco.ffmpeg.global.avutil.av_free;
import static org.bytedeco.ffmpeg.global.avutil.av_malloc;
import static org.bytedeco.ffmpeg.global.avutil.av_tx_init;
import static org.bytedeco.ffmpeg.global.avutil.av_tx_uninit;

import java.lang.ref.Cleaner;
import java.nio.DoubleBuffer;
import java.nio.FloatBuffer;
import org.bytedeco.ffmpeg.avutil.AVTXContext;
import org.bytedeco.ffmpeg.avutil.av_tx_fn;
import org.bytedeco.javacpp.BytePointer;
import org.bytedeco.javacpp.DoublePointer;
import org.bytedeco.javacpp.FloatPointer;
import org.bytedeco.javacpp.Pointer;

/**
 * Real Fourier transforms of one length by FFmpeg's libavutil, in the packed layout of {@link Fft}.
 * FFmpeg is at hand for the sound anyway, and where only Java's first compiler works, as over short
 * recordings, it takes a third of the time of a transform in Java. Its contexts have working memory
 * of their own: one thread at a time. What lies outside Java's heap goes when the object does.
 */
final class NativeTransform {
  private static final Cleaner CLEANER = Cleaner.create();

  /** Room for a function's address, and for what the binding keeps beside it. */
  private static final int FUNCTION_BYTES = 64;

  private final int length;
  private final boolean floats;
  private final Pointer time;
  private final Pointer bins;
  private final FloatBuffer floatTime;
  private final FloatBuffer floatBins;
  private final DoubleBuffer doubleTime;
  private final DoubleBuffer doubleBins;

  /** Each prepared when it is first asked for: most lengths are needed one way only. */
  private Direction forward;

  private Direction inverse;

  /** One way: libavutil's context and its function. */
  private record Direction(AVTXContext context, av_tx_fn function, Pointer place) {
    static Direction of(int type, int inverse, int length, Pointer scale) {
      Pointer place = new BytePointer(FUNCTION_BYTES).zero();
      // The binding lets nobody but itself make a place for a function: this lends it one.
      Direction made = new Direction(new AVTXContext(), new av_tx_fn(place), place);
      int code = av_tx_init(made.context, made.function, type, inverse, length, scale, 0);
      if (code < 0) {
        throw new IllegalStateException("no transform of " + length + " samples: " + code);
      }
      return made;
    }

    /** Transforms; the stride is the distance of values that follow each other, in bytes. */
    void call(Pointer to, Pointer from, long stride) {
      function.call(context, to, from, stride);
    }
  }

  private NativeTransform(int length, boolean floats) {
    this.length = length;
    this.floats = floats;
    int bytes = floats ? Float.BYTES : Double.BYTES;
    time = memory(length, bytes);
    bins = memory(length + 2, bytes);
    floatTime = floats ? new FloatPointer(time).capacity(length).asBuffer() : null;
    floatBins = floats ? new FloatPointer(bins).capacity(length + 2).asBuffer() : null;
    doubleTime = floats ? null : new DoublePointer(time).capacity(length).asBuffer();
    doubleBins = floats ? null : new DoublePointer(bins).capacity(length + 2).asBuffer();
    // What frees must not know the transform itself, or it would stay.
    Pointer ownTime = time;
    Pointer ownBins = bins;
    CLEANER.register(
        this,
        () -> {
          av_free(ownTime);
          av_free(ownBins);
        });
  }

  private Direction forward() {
    if (forward == null) {
      forward = direction(0, 1);
    }
    return forward;
  }

  private Direction inverse() {
    if (inverse == null) {
      inverse = direction(1, 1.0 / length);
    }
    return inverse;
  }

  private Direction direction(int inverse, double scale) {
    int type = floats ? AV_TX_FLOAT_RDFT : AV_TX_DOUBLE_RDFT;
    Pointer by = floats ? new FloatPointer((float) scale) : new DoublePointer(scale);
    Direction made = Direction.of(type, inverse, length, by);
    AVTXContext context = made.context;
    CLEANER.register(this, () -> av_tx_uninit(context));
    return made;
  }

  /** In single precision. The length must be a power of two. */
  static NativeTransform ofFloats(int length) {
    return new NativeTransform(length, true);
  }

  /** In double precision. The length must be a power of two. */
  static NativeTransform ofDoubles(int length) {
    return new NativeTransform(length, false);
  }

  private static Pointer memory(int count, int bytes) {
    // Aligned for the widest instructions there are.
    Pointer memory = av_malloc((long) count * bytes);
    if (memory == null || memory.isNull()) {
      throw new OutOfMemoryError("no memory is left for a transform");
    }
    return memory;
  }

  /** Forward, in place. */
  void forward(float[] a) {
    floatTime.put(0, a, 0, length);
    forward().call(bins, time, Float.BYTES);
    floatBins.get(0, a, 0, length);
    a[1] = floatBins.get(length);
  }

  /** Inverse, in place. */
  void inverse(float[] a) {
    floatBins.put(0, a, 0, length);
    floatBins.put(1, 0);
    floatBins.put(length, a[1]);
    floatBins.put(length + 1, 0);
    inverse().call(time, bins, 2 * Float.BYTES);
    floatTime.get(0, a, 0, length);
  }

  /** Forward, in place. */
  void forward(double[] a) {
    doubleTime.put(0, a, 0, length);
    forward().call(bins, time, Double.BYTES);
    doubleBins.get(0, a, 0, length);
    a[1] = doubleBins.get(length);
  }

  /** Inverse, in place. */
  void inverse(double[] a) {
    doubleBins.put(0, a, 0, length);
    doubleBins.put(1, 0);
    doubleBins.put(length, a[1]);
    doubleBins.put(length + 1, 0);
    inverse().call(time, bins, 2 * Double.BYTES);
    doubleTime.get(0, a, 0, length);
  }
}
