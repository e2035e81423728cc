package kettlesieve.app.shared;

import kettlesieve.app.model.Numbers;

/** Round values for an axis. */
public final class Ticks {
  private Ticks() {}

  /** About so many values of the form 1, 2 or 5 times a power of ten between two ends. */
  public static double[] between(double low, double high, int about) {
    double step = step(low, high, about);
    int first = (int) Math.ceil(low / step);
    int last = (int) Math.floor(high / step);
    double[] ticks = new double[Math.max(0, last - first + 1)];
    for (int i = 0; i < ticks.length; i++) {
      ticks[i] = (first + i) * step;
    }
    return ticks;
  }

  private static double step(double low, double high, int about) {
    double raw = (high - low) / about;
    double power = Math.pow(10, Math.floor(Math.log10(raw)));
    for (double factor : new double[] {1, 2, 5}) {
      if (factor * power >= raw) {
        return factor * power;
      }
    }
    return 10 * power;
  }

  /** A tick's figure, with the decimals its axis needs. */
  public static String text(double value, double[] range) {
    double span = range[1] - range[0];
    return Numbers.fixed(value, span < 1 ? 2 : span < 6 ? 1 : 0);
  }
}
