package kettlesieve.core.measure;

/**
 * One reading that can be taken. Implementations have a public constructor without arguments, keep
 * no state, and are found through {@link java.util.ServiceLoader}, so that others can add theirs in
 * a jar. What a measure is taken of tells its kind; one that can be taken of several kinds of
 * subject implements several.
 */
public sealed interface Measure permits PairMeasure, SetMeasure, WarpMeasure {
  /** What this measure is. */
  Declaration declaration();
}
