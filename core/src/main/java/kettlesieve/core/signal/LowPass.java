package kettlesieve.core.signal;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.Inside;

/**
 * A recording through a low pass of linear phase without delay, by the windowed sinc of Kaiser (in
 * Kuo &amp; Kaiser, System Analysis by Digital Computer, 1966): −6 dB at its edge, flat to within
 * 0.1 dB below and 50 dB down above, a few per cent of the edge away. Filtered as it is read.
 */
public final class LowPass implements Audio {
  private static final double BETA = 5.65;

  /** Half of the width of the transition, over the edge. */
  private static final double HALF_WIDTH = 0.035;

  /** 60 dB: N = 3.62 sampling rates over the width of the transition. */
  private static final double LENGTH = 3.62;

  private final Audio of;
  private final double[] response;

  private LowPass(Audio of, double[] response) {
    this.of = of;
    this.response = response;
  }

  /**
   * A recording through a low pass.
   *
   * @param hz the edge, under half the sample rate; at or over it nothing is changed
   */
  public static Audio of(Audio audio, double hz) {
    int rate = audio.sampleRate();
    return hz * (1 + HALF_WIDTH) >= rate / 2.0 ? audio : new LowPass(audio, response(hz, rate));
  }

  private static double[] response(double hz, int rate) {
    int half = (int) Math.ceil(LENGTH * rate / (2 * HALF_WIDTH * hz) / 2);
    double[] response = new double[2 * half + 1];
    for (int i = -half; i <= half; i++) {
      double x = 2 * hz / rate * i;
      double sinc = i == 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      double r = (double) i / (half + 1);
      double window = Windows.bessel0(BETA * Math.sqrt(1 - r * r)) / Windows.bessel0(BETA);
      response[i + half] = 2 * hz / rate * sinc * window;
    }
    return response;
  }

  @Override
  public int sampleRate() {
    return of.sampleRate();
  }

  @Override
  public int channels() {
    return of.channels();
  }

  @Override
  public long frames() {
    return of.frames();
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    Inside inside = Inside.of(from, length, frames());
    inside.clearAround(into, offset, length);
    if (inside.length() == 0) {
      return;
    }
    // Half of the response before and half behind: what it delays is read as much earlier.
    int reach = response.length - 1;
    long first = from + inside.skipped() - reach / 2;
    float[] filtered =
        Convolution.of(of.samples(channel, first, inside.length() + reach), response);
    System.arraycopy(filtered, reach, into, offset + inside.skipped(), inside.length());
  }
}
