package kettlesieve.core.signal;

/**
 * Samples laid apart by their place within a stride, so that a filter whose output goes on by that
 * stride reads them one after the other: that way round the compiler makes vector code of it. What
 * an output is does not depend on how many are asked for at once.
 */
final class Strided {
  /** Outputs at a time: what is summed stays near the processor. */
  private static final int CHUNK = 512;

  private final int stride;
  private final float[][] lanes;
  private final float[] sums = new float[CHUNK];
  private final float[] piece = new float[CHUNK];

  /**
   * @param x samples
   * @param stride how far the input goes on from one output to the next, over 0
   */
  Strided(float[] x, int stride) {
    this.stride = stride;
    int length = (x.length + stride - 1) / stride;
    this.lanes = stride == 1 ? new float[][] {x} : new float[stride][length];
    for (int i = 0; stride > 1 && i < x.length; i += stride) {
      int there = Math.min(stride, x.length - i);
      int at = i / stride;
      for (int lane = 0; lane < there; lane++) {
        lanes[lane][at] = x[i + lane];
      }
    }
  }

  /**
   * Writes {@code count} outputs: number i is the sum over k of tap k and sample {@code first +
   * i·stride + k}.
   *
   * @param first sample under the first tap of the first output
   * @param into where they go, the first to {@code at}, each {@code apart} from the one before
   */
  void filter(int first, float[] taps, float[] into, int at, int apart, int count) {
    for (int done = 0; done < count; done += CHUNK) {
      int some = Math.min(CHUNK, count - done);
      java.util.Arrays.fill(sums, 0, some, 0f);
      for (int k = 0; k < taps.length; k++) {
        float[] lane = lanes[(first + k) % stride];
        // Copied, so that both run from 0: else no vector code is made of the sum.
        System.arraycopy(lane, (first + k) / stride + done, piece, 0, some);
        add(piece, taps[k], sums, some);
      }
      for (int i = 0; i < some; i++) {
        into[at + (done + i) * apart] = sums[i];
      }
    }
  }

  private static void add(float[] piece, float tap, float[] sums, int count) {
    for (int i = 0; i < count; i++) {
      sums[i] += piece[i] * tap;
    }
  }
}
