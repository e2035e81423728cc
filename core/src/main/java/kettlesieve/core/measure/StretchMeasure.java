package kettlesieve.core.measure;

/** A reading of a version that runs on a time of its own. */
public non-sealed interface StretchMeasure extends Measure {
  /**
   * Takes the reading.
   *
   * @throws NotMeasurableException with the reason in plain words
   */
  Reading measure(StretchedPair warp) throws NotMeasurableException;
}
