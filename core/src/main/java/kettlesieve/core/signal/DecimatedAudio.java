package kettlesieve.core.signal;

import kettlesieve.core.audio.Audio;

/**
 * One channel of a recording at a whole fraction of its rate: a windowed sinc (Hamming, 24 zero
 * crossings a side, cut off at nine tenths of the new Nyquist limit), then every n-th sample. Far
 * cheaper than {@link LinearTimeAudio} where the new rate may be any that is low enough.
 *
 * <p>Long requests go by overlap-save (Stockham 1966): blocks of {@link #TRANSFORM} samples through
 * double-precision transforms, a fifth of the work of a sum for each output. Blocks stand on a
 * fixed grid, so that what a sample is does not depend on how many are asked for at once; only a
 * request shorter than a quarter of a block is summed directly, and differs by rounding.
 */
public final class DecimatedAudio implements Audio {
  private static final int CROSSINGS = 24;
  private static final double CUT_OFF = 0.9;

  private static final int TRANSFORM = 1 << 15;

  private final Audio of;
  private final int factor;
  private final float[] taps;

  /** Outputs of a block. */
  private final int step;

  private final double[] response;

  private DecimatedAudio(Audio of, int factor) {
    this.of = of;
    this.factor = factor;
    int half = CROSSINGS * factor;
    this.taps = new float[2 * half + 1];
    double sum = 0;
    double[] raw = new double[taps.length];
    for (int k = -half; k <= half; k++) {
      double x = Math.PI * CUT_OFF * k / factor;
      double window = 0.54 + 0.46 * Math.cos(Math.PI * k / half);
      raw[k + half] = (k == 0 ? 1 : Math.sin(x) / x) * window;
      sum += raw[k + half];
    }
    for (int i = 0; i < taps.length; i++) {
      taps[i] = (float) (raw[i] / sum);
    }
    this.step = (TRANSFORM - taps.length + 1) / factor;
    this.response = new double[TRANSFORM];
    for (int i = 0; i < taps.length; i++) {
      // Turned round: a filter here is a sum over samples to come.
      response[(TRANSFORM - i) % TRANSFORM] = taps[i];
    }
    Fft.forward(response);
  }

  /** The recording at the lowest whole fraction of its rate that is not below {@code leastRate}. */
  public static Audio toAtLeast(Audio of, int leastRate) {
    int factor = of.sampleRate() / leastRate;
    while (factor > 1 && of.sampleRate() % factor != 0) {
      factor--;
    }
    return factor > 1 ? new DecimatedAudio(of, factor) : of;
  }

  @Override
  public int sampleRate() {
    return of.sampleRate() / factor;
  }

  @Override
  public int channels() {
    return of.channels();
  }

  @Override
  public long frames() {
    return (of.frames() + factor - 1) / factor;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    if (length < step / 4) {
      int half = CROSSINGS * factor;
      float[] x = of.samples(channel, from * factor - half, (length - 1) * factor + taps.length);
      new Strided(x, factor).filter(0, taps, into, offset, 1, length);
      return;
    }
    for (long block = Math.floorDiv(from, step); block * step < from + length; block++) {
      double[] filtered = filtered(channel, block * step);
      long first = Math.max(from, block * step);
      long end = Math.min(from + length, (block + 1) * step);
      for (long n = first; n < end; n++) {
        into[offset + (int) (n - from)] = (float) filtered[(int) (n - block * step) * factor];
      }
    }
  }

  /** The samples from that of an output on, through the filter. */
  private double[] filtered(int channel, long output) {
    int half = CROSSINGS * factor;
    float[] x = of.samples(channel, output * factor - half, TRANSFORM);
    double[] a = new double[TRANSFORM];
    for (int i = 0; i < a.length; i++) {
      a[i] = x[i];
    }
    Fft.forward(a);
    SpectrumProducts.multiply(a, response);
    Fft.inverse(a);
    return a;
  }
}
