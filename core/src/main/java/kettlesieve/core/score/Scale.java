package kettlesieve.core.score;

/**
 * How a reading becomes a score: straight between two values in the measure's own unit.
 *
 * @param full the value at which a careful listener would pass it: 100
 * @param zero the value at which the result is unusable: 0
 * @param weight its weight within the axis
 * @param needed whether the axis stands on it: without this reading it has no score
 */
public record Scale(double full, double zero, double weight, boolean needed) {
  /** A scale that its axis can do without. */
  public Scale(double full, double zero, double weight) {
    this(full, zero, weight, false);
  }

  public Scale {
    if (full == zero || !(weight > 0)) {
      throw new IllegalArgumentException("a scale needs two different values and a weight over 0");
    }
  }

  /** The score of a value, 0 to 100. */
  public double score(double value) {
    return Math.max(0, Math.min(100, 100 * (value - zero) / (full - zero)));
  }
}
