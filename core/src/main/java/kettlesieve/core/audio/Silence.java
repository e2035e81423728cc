package kettlesieve.core.audio;

/**
 * Whether there is nothing to hear. Nothing lacks nothing of what it is asked about: figures of
 * silence would be the best there are, so none is taken.
 */
public final class Silence {
  /** −120 dBFS: no recording is as quiet as that. */
  private static final float LEAST = 1e-6f;

  private static final int BLOCK = 1 << 14;

  private Silence() {}

  /** Whether a recording is silent from its beginning to its end; read up to the first sound. */
  public static boolean throughout(Audio audio) {
    float[] block = new float[BLOCK];
    for (int c = 0; c < audio.channels(); c++) {
      for (long at = 0; at < audio.frames(); at += BLOCK) {
        int count = (int) Math.min(BLOCK, audio.frames() - at);
        audio.read(c, at, block, 0, count);
        for (int i = 0; i < count; i++) {
          if (Math.abs(block[i]) > LEAST) {
            return false;
          }
        }
      }
    }
    return true;
  }
}
