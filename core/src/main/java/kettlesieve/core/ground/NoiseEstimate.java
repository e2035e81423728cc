package kettlesieve.core.ground;

/**
 * Power of what covers the wanted sound, along one pass from the first frame to the last: for one
 * reader at a time, since some of it is carried on from frame to frame.
 */
public interface NoiseEstimate {
  /**
   * Goes on to a frame, not before the one it stands at.
   *
   * @return power by bin, over 0; good until the next call, not to be changed
   */
  float[] moveTo(int frame);
}
