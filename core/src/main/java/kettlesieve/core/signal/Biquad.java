package kettlesieve.core.signal;

/**
 * Coefficients of a second-order recursive filter, normalised so that a0 = 1.
 *
 * <p>Low and high pass by the bilinear transform of the analogue prototype 1/(s² + s/Q + 1), as in
 * R. Bristow-Johnson's "Cookbook formulae for audio EQ biquad filter coefficients".
 */
public record Biquad(double b0, double b1, double b2, double a1, double a2) {

  /** A low pass of 12 dB an octave. */
  public static Biquad lowPass(double hz, double quality, int sampleRate) {
    double w = 2 * Math.PI * hz / sampleRate;
    double alpha = Math.sin(w) / (2 * quality);
    double cos = Math.cos(w);
    double a0 = 1 + alpha;
    return new Biquad(
        (1 - cos) / 2 / a0, (1 - cos) / a0, (1 - cos) / 2 / a0, -2 * cos / a0, (1 - alpha) / a0);
  }

  /** A high pass of 12 dB an octave. */
  public static Biquad highPass(double hz, double quality, int sampleRate) {
    double w = 2 * Math.PI * hz / sampleRate;
    double alpha = Math.sin(w) / (2 * quality);
    double cos = Math.cos(w);
    double a0 = 1 + alpha;
    return new Biquad(
        (1 + cos) / 2 / a0, -(1 + cos) / a0, (1 + cos) / 2 / a0, -2 * cos / a0, (1 - alpha) / a0);
  }

  /** Filters samples in place, from rest. */
  public void filter(double[] x) {
    double z1 = 0;
    double z2 = 0;
    for (int i = 0; i < x.length; i++) {
      double in = x[i];
      double out = b0 * in + z1;
      z1 = b1 * in - a1 * out + z2;
      z2 = b2 * in - a2 * out;
      x[i] = out;
    }
  }
}
