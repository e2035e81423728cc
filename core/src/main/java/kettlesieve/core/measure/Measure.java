package kettlesieve.core.measure;

/**
 * One reading that can be taken of a matched version. Implementations have a public constructor
 * without arguments, keep no state, and are found through {@link java.util.ServiceLoader}, so that
 * others can add theirs in a jar.
 */
public interface Measure {
  /** What this measure is. */
  Declaration declaration();

  /**
   * Takes the reading.
   *
   * @throws NotMeasurableException with the reason in plain words
   */
  Reading measure(Pair pair) throws NotMeasurableException;
}
