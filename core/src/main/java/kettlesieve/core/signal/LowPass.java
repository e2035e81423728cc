package kettlesieve.core.signal;

/**
 * A low pass of linear phase without delay, by the windowed sinc of Kaiser (in Kuo &amp; Kaiser,
 * System Analysis by Digital Computer, 1966): −6 dB at its edge, flat to within 0.1 dB below and 60
 * dB down above, a few per cent of the edge away.
 */
public final class LowPass {
  private static final double BETA = 5.65;

  /** Half of the width of the transition, over the edge. */
  private static final double HALF_WIDTH = 0.035;

  /** 60 dB: N = 3.62 sampling rates over the width of the transition. */
  private static final double LENGTH = 3.62;

  private LowPass() {}

  /**
   * A recording through a low pass, in memory.
   *
   * @param hz the edge, under half the sample rate; at or over it nothing is changed
   */
  public static Audio of(Audio audio, double hz) {
    int rate = audio.sampleRate();
    if (hz * (1 + HALF_WIDTH) >= rate / 2.0) {
      return audio;
    }
    int half = (int) Math.ceil(LENGTH * rate / (2 * HALF_WIDTH * hz) / 2);
    double[] response = new double[2 * half + 1];
    for (int i = -half; i <= half; i++) {
      double x = 2 * hz / rate * i;
      double sinc = i == 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      double r = (double) i / (half + 1);
      response[i + half] =
          2
              * hz
              / rate
              * sinc
              * Windows.bessel0(BETA * Math.sqrt(1 - r * r))
              / Windows.bessel0(BETA);
    }
    int frames = Math.toIntExact(audio.frames());
    float[][] out = new float[audio.channels()][];
    for (int c = 0; c < out.length; c++) {
      // As far as the response reaches, silence follows, so that its delay can be taken off.
      float[] longer = audio.samples(c, 0, frames + half);
      float[] filtered = Convolution.of(longer, response);
      out[c] = java.util.Arrays.copyOfRange(filtered, half, half + frames);
    }
    return Audio.of(rate, out);
  }
}
