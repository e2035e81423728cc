package kettlesieve.core.measure;

/** A reading of a version on the time line of its source; also of a stem against the mix. */
public non-sealed interface PairMeasure extends Measure {
  /**
   * Takes the reading.
   *
   * @throws NotMeasurableException with the reason in plain words
   */
  Reading measure(Pair pair) throws NotMeasurableException;
}
