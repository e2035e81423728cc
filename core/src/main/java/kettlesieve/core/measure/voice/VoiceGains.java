package kettlesieve.core.measure.voice;

import kettlesieve.core.measure.pass.CellFrame;

/**
 * What an estimator that knows the noise by its mean power alone would keep of each cell: the gain
 * that makes the mean squared error of log amplitudes least, with the signal-to-noise ratio told by
 * the decision-directed rule (Ephraim &amp; Malah, IEEE Trans. ASSP 32, 1984 and 33, 1985). Frames
 * are taken in their order, one channel after the other.
 */
final class VoiceGains {
  private static final float CARRIED = 0.98f;
  private static final float LEAST_SNR = 0.0032f;
  private static final float LEAST_GAIN = 0.05f;

  private static final int FIRST_BITS = Float.floatToIntBits(1e-4f) >> 16;
  private static final int LAST_BITS = Float.floatToIntBits(64f) >> 16;

  /** Half of the exponential integral E1 as a factor, by the leading bits of its argument. */
  private static final float[] FACTORS = factors();

  private final float[] before;
  private final float[] amplitudes;
  private final float[] shares;
  private final float[] overs;
  private final float[] untouched;
  private int frame = Integer.MAX_VALUE;

  VoiceGains(int bins) {
    before = new float[bins];
    amplitudes = new float[bins];
    shares = new float[bins];
    overs = new float[bins];
    untouched = new float[bins];
  }

  private static float[] factors() {
    float[] factors = new float[LAST_BITS - FIRST_BITS + 1];
    for (int i = 0; i < factors.length; i++) {
      double x = Float.intBitsToFloat((FIRST_BITS + i) << 16 | 0x8000);
      factors[i] = (float) Math.exp(0.5 * exponentialIntegral(x));
    }
    return factors;
  }

  /** E1 by its series and its continued fraction (Abramowitz &amp; Stegun 5.1.11 and 5.1.22). */
  static double exponentialIntegral(double x) {
    if (x > 1) {
      double fraction = 0;
      for (int n = 60; n > 0; n--) {
        fraction = n / (1 + n / (x + fraction));
      }
      return Math.exp(-x) / (x + fraction);
    }
    double sum = -0.57721566490153286 - Math.log(x);
    double term = 1;
    for (int n = 1; n < 30; n++) {
      term *= -x / n;
      sum -= term / n;
    }
    return sum;
  }

  /** Goes on to a frame; one that is not the next begins anew. */
  void moveTo(CellFrame cells) {
    boolean next = cells.frame() == frame + 1;
    frame = cells.frame();
    tell(cells.source(), cells.noise(), next ? CARRIED : 0);
    for (int k = 0; k < amplitudes.length; k++) {
      int bits = Float.floatToRawIntBits(overs[k]) >> 16;
      float factor = bits > LAST_BITS ? 1 : FACTORS[Math.max(0, bits - FIRST_BITS)];
      amplitudes[k] = Math.max(LEAST_GAIN, Math.min(1, untouched[k] * factor));
    }
  }

  /** All that needs no table, in a loop of which the compiler makes vector code. */
  private void tell(float[] source, float[] noise, float carried) {
    for (int k = 0; k < overs.length; k++) {
      float over = Math.max(1e-3f, source[k] / noise[k]);
      float now = Math.max(0f, over - 1f);
      float snr = Math.max(LEAST_SNR, carried * before[k] + (1f - carried) * now);
      float share = snr / (1f + snr);
      overs[k] = share * over;
      untouched[k] = share;
      before[k] = share * share * over;
      shares[k] = Math.max(LEAST_GAIN, share);
    }
  }

  /** The gains of the cells' amplitudes by bin, not to be changed. */
  float[] amplitudes() {
    return amplitudes;
  }

  /** Expected squared errors of the estimate over the power of the noise, by bin. */
  float[] uncertainties() {
    return shares;
  }
}
