package kettlesieve.core.listen;

/** Which part of the stereo picture is heard; all but {@link #BOTH} sound in the middle. */
public enum Side {
  /** Both channels as they are. */
  BOTH("Stereo", 1, 0, 0, 1),
  /** The left channel on both sides. */
  LEFT("Left", 1, 0, 1, 0),
  /** The right channel on both sides. */
  RIGHT("Right", 0, 1, 0, 1),
  /** Half the sum of both. */
  MID("Mid", 0.5f, 0.5f, 0.5f, 0.5f),
  /** Half the difference of both. */
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
