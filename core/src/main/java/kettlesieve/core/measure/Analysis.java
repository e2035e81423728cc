package kettlesieve.core.measure;

/**
 * What several measures need of a pair. Families keep theirs as constants; {@link Pair#shared}
 * works each out once, when the first measure asks for it.
 *
 * @param <T> what it gives
 */
@FunctionalInterface
public interface Analysis<T> {
  /**
   * Works it out.
   *
   * @throws NotMeasurableException with the reason in plain words
   */
  T of(Pair pair) throws NotMeasurableException;

  /**
   * The same of the source alone, worked out once for all versions.
   *
   * @param <T> what it gives
   */
  @FunctionalInterface
  interface OfSource<T> {
    /**
     * Works it out.
     *
     * @throws NotMeasurableException with the reason in plain words
     */
    T of(SourceAnalysis source) throws NotMeasurableException;
  }
}
