package kettlesieve.core.measure;

import kettlesieve.core.comparison.Job;

/**
 * One reading that can be taken. Implementations have a public constructor without arguments, keep
 * no state, and are found through {@link java.util.ServiceLoader}, so that others can add theirs in
 * a jar. What a measure is taken of tells its kind; one that can be taken of several kinds of
 * subject implements several.
 */
public sealed interface Measure permits PairMeasure, SetMeasure, StretchMeasure {
  /** What this measure is. */
  Declaration declaration();

  /** The unit that its scale is in, in words; that of its value for most. */
  default String scoredUnit() {
    return declaration().unit();
  }

  /**
   * By how much, in the unit that is scored, a reading of another stretch of the same recording
   * differs though the blocks of this one do not show it: half of a 95 % interval, told by halves
   * of recordings on the calibration bench (docs/calibration). 0 where the blocks show all, and
   * where it was not told.
   */
  default double variation(Job job) {
    return 0;
  }
}
