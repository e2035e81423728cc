package kettlesieve.core.signal;

import kettlesieve.core.audio.Audio;

/** Counts samples that stand at full scale. */
public final class FullScale {
  private static final float LIMIT = 0.9999f;

  private FullScale() {}

  /**
   * Number of samples, over all channels, within 0.001 dB of full scale or above, in runs of two or
   * more: what a converter or an export cuts off looks like this.
   */
  public static long samples(Audio audio) {
    long count = 0;
    float[] block = new float[1 << 14];
    for (int c = 0; c < audio.channels(); c++) {
      int run = 0;
      for (long at = 0; at < audio.frames(); at += block.length) {
        audio.read(c, at, block, 0, block.length);
        for (float x : block) {
          run = Math.abs(x) >= LIMIT ? run + 1 : 0;
          count += run == 2 ? 2 : run > 2 ? 1 : 0;
        }
      }
    }
    return count;
  }
}
