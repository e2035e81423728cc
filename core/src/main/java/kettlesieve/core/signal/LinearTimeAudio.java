package kettlesieve.core.signal;

import java.math.BigInteger;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.Inside;

/**
 * Another recording on a straight time map: sample n of the view lies at position {@code start +
 * n·step} of the original. One view serves delay (fractional start), drift (step near 1) and
 * sample-rate conversion (step = old rate over new).
 *
 * <p>Band-limited interpolation after J. O. Smith, "Digital Audio Resampling" (the method of Smith
 * &amp; Gossett, ICASSP 1984): a sinc of 32 zero crossings a side under a Kaiser window (β = 10,
 * about 100 dB), read from a table of 1,024 phases with linear interpolation. When the step is over
 * 1 the sinc is widened, so that nothing folds back, unless by so little (a drift) that nothing can
 * be heard of it. A whole-number start with step 1 copies the samples unchanged; rates in a small
 * ratio have all their kernels worked out beforehand.
 */
public final class LinearTimeAudio implements Audio {
  private static final int CROSSINGS = 32;
  private static final int PHASES = 1024;
  private static final double BETA = 10;
  private static final float[] KERNEL = kernel();

  /**
   * Steps this near to 1 are read without a low-pass: the edge of the band moves by 0.2 % at most.
   */
  private static final double NEAR_ONE = 0.002;

  private static final long MOST_PHASES = 1024;

  private final Audio of;
  private final int sampleRate;
  private final long frames;
  private final double start;
  private final double step;
  private final Phases phases;
  private volatile Rows rows;

  private LinearTimeAudio(
      Audio of, int sampleRate, long frames, double start, double step, Phases phases) {
    this.phases = phases;
    this.of = of;
    this.sampleRate = sampleRate;
    this.frames = frames;
    this.start = start;
    this.step = step;
  }

  /**
   * The view with sample n at position {@code start + n·step} of {@code of}.
   *
   * @param sampleRate the rate the view declares, Hz
   * @param frames its length
   * @param start position of its first sample in frames of {@code of}
   * @param step frames of {@code of} for each of its own, over 0
   */
  public static Audio map(Audio of, int sampleRate, long frames, double start, double step) {
    if (!(step > 0) || !Double.isFinite(start)) {
      throw new IllegalArgumentException("a finite start and a step over 0 are needed");
    }
    return new LinearTimeAudio(of, sampleRate, frames, start, step, null);
  }

  /** The recording at another sample rate, or itself if it has that rate already. */
  public static Audio resample(Audio of, int sampleRate) {
    if (of.sampleRate() == sampleRate) {
      return of;
    }
    double step = (double) of.sampleRate() / sampleRate;
    long frames = (long) Math.ceil(of.frames() / step);
    int common = BigInteger.valueOf(of.sampleRate()).gcd(BigInteger.valueOf(sampleRate)).intValue();
    long up = sampleRate / common;
    return up <= MOST_PHASES
        ? new LinearTimeAudio(
            of, sampleRate, frames, 0, step, new Phases(up, of.sampleRate() / common))
        : map(of, sampleRate, frames, 0, step);
  }

  @Override
  public int sampleRate() {
    return sampleRate;
  }

  @Override
  public int channels() {
    return of.channels();
  }

  @Override
  public long frames() {
    return frames;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    Inside inside = Inside.of(from, length, frames);
    inside.clearAround(into, offset, length);
    if (inside.length() == 0) {
      return;
    }
    int to = offset + inside.skipped();
    long n = from + inside.skipped();
    if (step == 1 && start == Math.rint(start)) {
      of.read(channel, n + (long) start, into, to, inside.length());
      return;
    }
    if (phases != null) {
      phases.read(of, channel, n, into, to, inside.length());
      return;
    }
    if (step == 1) {
      shift(channel, n, into, to, inside.length());
      return;
    }
    interpolated(rows(), channel, n, into, to, inside.length());
  }

  private Rows rows() {
    Rows known = rows;
    if (known == null) {
      known = step < 1 + NEAR_ONE ? Rows.UNSCALED : new Rows(1 / step);
      rows = known;
    }
    return known;
  }

  /** Step 1: the fraction is the same for every sample, so its kernel is worked out once. */
  private void shift(int channel, long n, float[] into, int to, int length) {
    long first = (long) Math.floor(start + n) - CROSSINGS + 1;
    float[] in = of.samples(channel, first, length + 2 * CROSSINGS - 1);
    float[] taps = new float[2 * CROSSINGS];
    Rows.fill(taps, start - Math.floor(start), 1);
    new Strided(in, 1).filter(0, taps, into, to, 1, length);
  }

  /** Two rows of the kernel, and between them a straight line. */
  private void interpolated(Rows rows, int channel, long n, float[] into, int to, int length) {
    int reach = rows.reach;
    long first = (long) Math.floor(start + n * step) - reach;
    long last = (long) Math.floor(start + (n + length - 1) * step) + reach;
    float[] in = of.samples(channel, first, (int) (last - first + 1));
    for (int i = 0; i < length; i++) {
      double position = start + (n + i) * step;
      long whole = (long) Math.floor(position);
      double phase = (position - whole) * PHASES;
      int row = (int) phase;
      int at = (int) (whole - first) - reach + 1;
      float before = dot(in, at, rows.ofPhases[row]);
      float after = dot(in, at, rows.ofPhases[row + 1]);
      into[to + i] = before + (float) (phase - row) * (after - before);
    }
  }

  /**
   * Weighted sum of samples; the number of weights is a multiple of four. Four sums side by side,
   * so that none has to wait for the one before.
   */
  private static float dot(float[] in, int at, float[] taps) {
    float a = 0;
    float b = 0;
    float c = 0;
    float d = 0;
    for (int k = 0; k < taps.length; k += 4) {
      a += in[at + k] * taps[k];
      b += in[at + k + 1] * taps[k + 1];
      c += in[at + k + 2] * taps[k + 2];
      d += in[at + k + 3] * taps[k + 3];
    }
    return (a + b) + (c + d);
  }

  /** The kernel at each phase of its table, widened where the rate falls. */
  private static final class Rows {
    static final Rows UNSCALED = new Rows(1);

    final int reach;
    final float[][] ofPhases;

    Rows(double scale) {
      // Even, so that the number of taps is a multiple of four.
      this.reach = 2 * (int) Math.ceil(CROSSINGS / scale / 2);
      this.ofPhases = new float[PHASES + 1][2 * reach];
      for (int p = 0; p <= PHASES; p++) {
        fill(ofPhases[p], (double) p / PHASES, scale);
      }
    }

    /** The taps for a position so far behind a sample, from the first to the last that matters. */
    static void fill(float[] taps, double fraction, double scale) {
      int before = taps.length / 2 - 1;
      for (int k = 0; k < taps.length; k++) {
        taps[k] = (float) (scale * LinearTimeAudio.at(Math.abs(k - before - fraction) * scale));
      }
    }
  }

  /** All kernels of a ratio of whole numbers: sample n lies at n·down/up. */
  private static final class Phases {
    private final long up;
    private final long down;
    private final int reach;
    private final float[][] taps;

    Phases(long up, long down) {
      this.up = up;
      this.down = down;
      double scale = Math.min(1, (double) up / down);
      this.reach = (int) Math.ceil(CROSSINGS / scale);
      this.taps = new float[(int) up][2 * reach];
      for (int p = 0; p < up; p++) {
        Rows.fill(taps[p], (double) p / up, scale);
      }
    }

    void read(Audio of, int channel, long n, float[] into, int to, int length) {
      long first = n * down / up - reach + 1;
      long last = (n + length - 1) * down / up - reach + taps[0].length;
      float[] in = of.samples(channel, first, (int) (last - first + 1));
      Strided strided = new Strided(in, (int) down);
      // Every up-th output has the same kernel.
      for (int i = 0; i < Math.min(up, length); i++) {
        long position = (n + i) * down;
        int at = (int) (position / up - reach + 1 - first);
        int count = (int) ((length - i + up - 1) / up);
        strided.filter(at, taps[(int) (position % up)], into, to + i, (int) up, count);
      }
    }
  }

  private static double at(double x) {
    double position = x * PHASES;
    int index = (int) position;
    if (index >= CROSSINGS * PHASES) {
      return 0;
    }
    double fraction = position - index;
    return KERNEL[index] + fraction * (KERNEL[index + 1] - KERNEL[index]);
  }

  private static float[] kernel() {
    float[] kernel = new float[CROSSINGS * PHASES + 2];
    for (int i = 0; i <= CROSSINGS * PHASES; i++) {
      double x = (double) i / PHASES;
      double sinc = i == 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      double r = x / CROSSINGS;
      kernel[i] =
          (float) (sinc * Windows.bessel0(BETA * Math.sqrt(1 - r * r)) / Windows.bessel0(BETA));
    }
    return kernel;
  }
}
