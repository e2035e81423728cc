package kettlesieve.core.measure;

/** Whether a figure is what was measured, or only an edge of what can be. */
public enum Limit {
  /** It is what was measured. */
  NONE("", ""),
  /** The truth may lie anywhere at or below it: the floor of the method. */
  AT_OR_BELOW("≤ ", "at most"),
  /** The truth may lie anywhere at or above it: the top of the method's range. */
  AT_OR_ABOVE("≥ ", "at least");

  private final String sign;
  private final String words;

  Limit(String sign, String words) {
    this.sign = sign;
    this.words = words;
  }

  /** What stands before the number, with a space; empty for a value that was measured. */
  public String sign() {
    return sign;
  }

  /** What exports call it; empty for a value that was measured. */
  public String words() {
    return words;
  }
}
