package kettlesieve.core.signal;

/**
 * Another recording on a straight time map: sample n of the view lies at position {@code start +
 * n·step} of the original. One view serves delay (fractional start), drift (step near 1) and
 * sample-rate conversion (step = old rate over new).
 *
 * <p>Band-limited interpolation after J. O. Smith, "Digital Audio Resampling" (the method of Smith
 * &amp; Gossett, ICASSP 1984): a sinc of 32 zero crossings a side under a Kaiser window (β = 10,
 * about 100 dB), read from a table of 1,024 phases with linear interpolation. When the step is over
 * 1 the sinc is widened, so that nothing folds back. A whole-number start with step 1 copies the
 * samples unchanged.
 */
public final class LinearTimeAudio implements Audio {
  private static final int CROSSINGS = 32;
  private static final int PHASES = 1024;
  private static final double BETA = 10;
  private static final float[] KERNEL = kernel();

  private final Audio of;
  private final int sampleRate;
  private final long frames;
  private final double start;
  private final double step;

  private LinearTimeAudio(Audio of, int sampleRate, long frames, double start, double step) {
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
    return new LinearTimeAudio(of, sampleRate, frames, start, step);
  }

  /** The recording at another sample rate, or itself if it has that rate already. */
  public static Audio resample(Audio of, int sampleRate) {
    if (of.sampleRate() == sampleRate) {
      return of;
    }
    double step = (double) of.sampleRate() / sampleRate;
    return map(of, sampleRate, (long) Math.ceil(of.frames() / step), 0, step);
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
    MemoryAudio.Span inside = MemoryAudio.Span.clip(from, length, frames);
    java.util.Arrays.fill(into, offset, offset + length, 0f);
    if (inside.length() == 0) {
      return;
    }
    int to = offset + inside.skipped();
    long n = from + inside.skipped();
    if (step == 1 && start == Math.rint(start)) {
      of.read(channel, n + (long) start, into, to, inside.length());
      return;
    }
    double scale = Math.min(1, 1 / step);
    int reach = (int) Math.ceil(CROSSINGS / scale);
    long first = (long) Math.floor(start + n * step) - reach;
    long last = (long) Math.floor(start + (n + inside.length() - 1) * step) + reach + 1;
    float[] in = of.samples(channel, first, (int) (last - first + 1));
    if (step == 1) {
      shift(in, into, to, inside.length(), reach);
      return;
    }
    for (int i = 0; i < inside.length(); i++) {
      double position = start + (n + i) * step;
      long whole = (long) Math.floor(position);
      double fraction = position - whole;
      int centre = (int) (whole - first);
      double sum = 0;
      for (int k = -reach + 1; k <= reach; k++) {
        sum += in[centre + k] * at(Math.abs(k - fraction) * scale);
      }
      into[to + i] = (float) (sum * scale);
    }
  }

  /** Step 1: the fraction is the same for every sample, so its kernel is worked out once. */
  private void shift(float[] in, float[] into, int to, int length, int reach) {
    double fraction = start - Math.floor(start);
    float[] taps = new float[2 * reach];
    for (int k = -reach + 1; k <= reach; k++) {
      taps[k + reach - 1] = (float) at(Math.abs(k - fraction));
    }
    // Taps outside, samples inside: that way round the compiler makes vector code of it.
    for (int k = 0; k < taps.length; k++) {
      float tap = taps[k];
      for (int i = 0; i < length; i++) {
        into[to + i] += in[i + k + 1] * tap;
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
