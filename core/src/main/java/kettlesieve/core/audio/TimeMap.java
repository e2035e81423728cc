package kettlesieve.core.audio;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where moments of one recording lie in another: straight lines between knots, and on with the
 * first and the last slope outside them. Strictly rising, so that it can be turned round.
 *
 * <p>Times are seconds. Playing, pictures and measures of stretched versions all use the same map.
 */
public final class TimeMap {
  /** Every moment lies where it is. */
  public static final TimeMap IDENTITY = new TimeMap(new double[] {0, 1}, new double[] {0, 1});

  private static final double LEAST_SLOPE = 1e-3;

  private final double[] from;
  private final double[] to;

  private TimeMap(double[] from, double[] to) {
    this.from = from;
    this.to = to;
  }

  /** A straight line: {@code to = offset + slope·from}. */
  public static TimeMap line(double offset, double slope) {
    if (!(slope > 0) || !Double.isFinite(offset)) {
      throw new IllegalArgumentException("a time map rises");
    }
    return offset == 0 && slope == 1
        ? IDENTITY
        : new TimeMap(new double[] {0, 1}, new double[] {offset, offset + slope});
  }

  /**
   * Straight lines between knots. Knots that do not rise in both are left out.
   *
   * @param from seconds, at least two
   * @param to seconds, as many
   */
  public static TimeMap through(double[] from, double[] to) {
    double[] x = new double[from.length];
    double[] y = new double[from.length];
    int n = 0;
    for (int i = 0; i < from.length; i++) {
      boolean rises =
          n == 0 || from[i] > x[n - 1] && to[i] - y[n - 1] > LEAST_SLOPE * (from[i] - x[n - 1]);
      if (rises) {
        x[n] = from[i];
        y[n++] = to[i];
      }
    }
    if (n < 2) {
      throw new IllegalArgumentException("a time map needs two knots that rise");
    }
    TimeMap map = new TimeMap(Arrays.copyOf(x, n), Arrays.copyOf(y, n));
    return map.equals(IDENTITY) ? IDENTITY : map;
  }

  /** The same map with the second recording's moments later by some seconds. */
  public TimeMap later(double seconds) {
    if (seconds == 0) {
      return this;
    }
    double[] moved = new double[to.length];
    for (int i = 0; i < to.length; i++) {
      moved[i] = to[i] + seconds;
    }
    return new TimeMap(from, moved);
  }

  /**
   * A knot of the map.
   *
   * @param from seconds of the first recording
   * @param to seconds of the second
   */
  public record Knot(double from, double to) {}

  /** The knots, in order of time; a straight line has two. */
  public List<Knot> knots() {
    List<Knot> knots = new ArrayList<>();
    for (int i = 0; i < from.length; i++) {
      knots.add(new Knot(from[i], to[i]));
    }
    return knots;
  }

  /** Whether every moment lies where it is. */
  public boolean identity() {
    return this == IDENTITY;
  }

  /** Where a moment of the first recording lies in the second. */
  public double at(double seconds) {
    return identity() ? seconds : between(from, to, seconds);
  }

  /** Where a moment of the second recording lies in the first. */
  public double inverse(double seconds) {
    return identity() ? seconds : between(to, from, seconds);
  }

  /** How fast the second runs at a moment of the first: 1.25 is a quarter longer. */
  public double slope(double seconds) {
    int i = segment(from, seconds);
    return (to[i + 1] - to[i]) / (from[i + 1] - from[i]);
  }

  private static double between(double[] x, double[] y, double at) {
    int i = segment(x, at);
    return y[i] + (at - x[i]) * (y[i + 1] - y[i]) / (x[i + 1] - x[i]);
  }

  private static int segment(double[] x, double at) {
    int found = Arrays.binarySearch(x, at);
    int i = found >= 0 ? found : -found - 2;
    return Math.max(0, Math.min(x.length - 2, i));
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof TimeMap map
        && Arrays.equals(from, map.from)
        && Arrays.equals(to, map.to);
  }

  @Override
  public int hashCode() {
    return 31 * Arrays.hashCode(from) + Arrays.hashCode(to);
  }
}
