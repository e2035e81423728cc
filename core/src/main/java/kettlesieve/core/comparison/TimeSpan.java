package kettlesieve.core.comparison;

/**
 * A stretch of the source's time.
 *
 * @param from seconds from the source's start
 * @param to seconds, after {@code from}
 */
public record TimeSpan(double from, double to) {
  public TimeSpan {
    if (!(from >= 0) || !(to > from) || Double.isInfinite(to)) {
      throw new IllegalArgumentException("a span begins at 0 or later and ends after its start");
    }
  }

  /** Its length. */
  public double seconds() {
    return to - from;
  }

  /** Whether a time lies inside. */
  public boolean holds(double seconds) {
    return seconds >= from && seconds < to;
  }
}
