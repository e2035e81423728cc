package kettlesieve.core.measure;

/** Whether a figure is what was measured, or only an edge of what can be. */
public enum Limit {
  /** It is what was measured. */
  NONE,
  /** The truth may lie anywhere at or below it: the floor of the method. */
  AT_OR_BELOW
}
