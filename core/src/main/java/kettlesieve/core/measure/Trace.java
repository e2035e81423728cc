package kettlesieve.core.measure;

/**
 * A value over time: about ten points a second, or one per event.
 *
 * @param seconds times in the source's time, rising
 * @param values one a time; NaN where there is nothing to measure
 */
public record Trace(double[] seconds, double[] values) {
  /** No trace. */
  public static final Trace NONE = new Trace(new double[0], new double[0]);
}
