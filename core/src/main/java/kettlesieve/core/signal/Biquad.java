package kettlesieve.core.signal;

/**
 * A second-order recursive filter, transposed direct form II, with its coefficients normalised so
 * that a0 = 1.
 */
public record Biquad(double b0, double b1, double b2, double a1, double a2) {

  /** Runs the filter over a block in place, carrying {@code state} (two values) on. */
  public void run(double[] block, int length, double[] state) {
    double s1 = state[0];
    double s2 = state[1];
    for (int i = 0; i < length; i++) {
      double x = block[i];
      double y = b0 * x + s1;
      s1 = b1 * x - a1 * y + s2;
      s2 = b2 * x - a2 * y;
      block[i] = y;
    }
    state[0] = s1;
    state[1] = s2;
  }
}
