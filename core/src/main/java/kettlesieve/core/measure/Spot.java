package kettlesieve.core.measure;

/**
 * A place worth hearing.
 *
 * @param from seconds in the source's time
 * @param to seconds
 * @param low Hz
 * @param high Hz
 * @param value the reading there, in the measure's unit
 */
public record Spot(double from, double to, double low, double high, double value) {
  /** The moment by which it is told wherever it is named: its begin, seconds. */
  public double at() {
    return Math.max(0, from);
  }
}
