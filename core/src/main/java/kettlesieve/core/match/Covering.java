package kettlesieve.core.match;

/**
 * Power of what covers the wanted sound, along one pass from the first frame to the last: for one
 * reader at a time, since some of it is carried on from frame to frame.
 */
public interface Covering {
  /** Goes on to a frame; not before the one it stands at. */
  void moveTo(int frame);

  /** Power in a bin of that frame, over 0. */
  float at(int bin);
}
