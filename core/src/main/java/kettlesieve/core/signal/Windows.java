package kettlesieve.core.signal;

/** Window functions. */
public final class Windows {
  private Windows() {}

  /** The periodic Hann window of the given length, the form used for spectra. */
  public static float[] hann(int length) {
    float[] window = new float[length];
    for (int i = 0; i < length; i++) {
      window[i] = (float) (0.5 - 0.5 * Math.cos(2 * Math.PI * i / length));
    }
    return window;
  }

  /** Modified Bessel function of the first kind, order 0, by its power series. */
  static double bessel0(double x) {
    double sum = 1;
    double term = 1;
    for (int k = 1; k < 200 && term > 1e-17 * sum; k++) {
      double factor = x / (2 * k);
      term *= factor * factor;
      sum += term;
    }
    return sum;
  }
}
