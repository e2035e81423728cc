package kettlesieve.core.audio;

import java.util.Arrays;

/**
 * The part of a request for samples that lies inside a recording; around it reads as zero.
 *
 * @param skipped samples of the request before it
 * @param length its samples
 */
public record Inside(int skipped, int length) {
  /** That of a request for {@code length} samples of a recording of {@code frames}. */
  public static Inside of(long from, int length, long frames) {
    long first = Math.max(0, from);
    long last = Math.min(frames, from + length);
    return last <= first
        ? new Inside(0, 0)
        : new Inside((int) (first - from), (int) (last - first));
  }

  /** Zeros before and after it, where a request reaches over the ends; what is inside stays. */
  public void clearAround(float[] into, int offset, int requested) {
    Arrays.fill(into, offset, offset + skipped, 0f);
    Arrays.fill(into, offset + skipped + length, offset + requested, 0f);
  }
}
