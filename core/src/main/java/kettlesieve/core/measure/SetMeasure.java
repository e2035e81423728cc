package kettlesieve.core.measure;

/** A reading of stems that belong together. */
public non-sealed interface SetMeasure extends Measure {
  /**
   * Takes the reading.
   *
   * @param role the stem that is judged; empty for the set as a whole
   * @throws NotMeasurableException with the reason in plain words
   */
  Reading measure(StemSet set, String role) throws NotMeasurableException;
}
