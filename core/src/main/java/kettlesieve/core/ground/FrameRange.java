package kettlesieve.core.ground;

import kettlesieve.core.signal.Framing;

/**
 * The frames of an excerpt that a version covers whole.
 *
 * @param first first such frame
 * @param end frame after the last
 */
public record FrameRange(int first, int end) {
  private static final double MARGIN_SECONDS = 1e-6;

  /**
   * @param startSeconds where the excerpt begins in the source
   * @param from first second of the source that the version covers
   * @param to last second of the source that it covers
   */
  public static FrameRange covered(Framing framing, double startSeconds, double from, double to) {
    int first = 0;
    int end = framing.count();
    while (first < end && startSeconds + framing.startSeconds(first) < from - MARGIN_SECONDS) {
      first++;
    }
    while (end > first && startSeconds + framing.endSeconds(end - 1) > to + MARGIN_SECONDS) {
      end--;
    }
    return new FrameRange(first, end);
  }
}
