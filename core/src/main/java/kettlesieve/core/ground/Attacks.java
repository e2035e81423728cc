package kettlesieve.core.ground;

import kettlesieve.core.audio.Audio;

/** Finds a place where an alignment is easily seen. */
public final class Attacks {
  private static final double STEP_SECONDS = 0.002;

  private Attacks() {}

  /**
   * The strongest attack: where the power of the next 6 ms most exceeds that of the 20 ms before,
   * weighted by how loud it is.
   *
   * @param from first second to look at
   * @param to last second to look at
   * @return its time in seconds
   */
  public static double strongest(Audio audio, double from, double to) {
    Audio mono = audio.downmix();
    int step = Math.max(1, (int) (STEP_SECONDS * mono.sampleRate()));
    long first = Math.round(from * mono.sampleRate());
    int count = (int) Math.max(1, (to - from) * mono.sampleRate() / step);
    double[] power = new double[count];
    for (int i = 0; i < count; i++) {
      for (float x : mono.samples(0, first + (long) i * step, step)) {
        power[i] += x * x;
      }
    }
    int best = 0;
    double score = -1;
    for (int i = 10; i + 3 < count; i++) {
      double before = 1e-9;
      for (int j = i - 10; j < i; j++) {
        before += power[j] / 10;
      }
      double after = (power[i] + power[i + 1] + power[i + 2]) / 3;
      double s = Math.log(after / before + 1) * Math.sqrt(after);
      if (s > score) {
        score = s;
        best = i;
      }
    }
    return from + best * (double) step / mono.sampleRate();
  }
}
