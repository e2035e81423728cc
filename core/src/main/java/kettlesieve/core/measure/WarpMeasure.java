package kettlesieve.core.measure;

/** A reading of a version that runs on a time of its own. */
public non-sealed interface WarpMeasure extends Measure {
  /**
   * Takes the reading.
   *
   * @throws NotMeasurableException with the reason in plain words
   */
  Reading measure(Warp warp) throws NotMeasurableException;
}
