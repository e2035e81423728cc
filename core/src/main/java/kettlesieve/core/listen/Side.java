package kettlesieve.core.listen;

/** Which part of the stereo picture is heard; all but {@link #BOTH} sound in the middle. */
public enum Side {
  BOTH("Stereo", 1, 0, 0, 1),
  LEFT("Left", 1, 0, 1, 0),
  RIGHT("Right", 0, 1, 0, 1),
  MID("Mid", 0.5f, 0.5f, 0.5f, 0.5f),
  SIDE("Side", 0.5f, -0.5f, 0.5f, -0.5f);

  private final String title;
  private final float[] matrix;

  Side(String title, float... matrix) {
    this.title = title;
    this.matrix = matrix;
  }

  /** The word for people. */
  public String title() {
    return title;
  }

  /** Left from left, left from right, right from left, right from right. */
  float weight(int index) {
    return matrix[index];
  }
}
