package kettlesieve.core.match;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;

/** How late a version is by where sounds begin in it, for what does not correlate as a signal. */
final class OnsetDelay {
  private static final double COARSE_SECONDS = 60;

  private OnsetDelay() {}

  /** Delay of onset envelopes, in samples, within ±60 s. */
  static long of(Audio source, Audio version, long from, long to) {
    int rate = version.sampleRate();
    int hop = Math.max(1, rate / 200);
    float[] s = onsets(source, from, to, hop);
    long reach = (long) (COARSE_SECONDS * rate / hop);
    float[] v = onsets(version, from - reach * hop, to + reach * hop, hop);
    int size = Fft.powerOfTwo(v.length + s.length);
    float[] x = Arrays.copyOf(s, size);
    float[] y = Arrays.copyOf(v, size);
    Fft.forward(x);
    Fft.forward(y);
    float[] c = new float[size];
    for (int k = 1; k < size / 2; k++) {
      c[2 * k] = y[2 * k] * x[2 * k] + y[2 * k + 1] * x[2 * k + 1];
      c[2 * k + 1] = y[2 * k + 1] * x[2 * k] - y[2 * k] * x[2 * k + 1];
    }
    Fft.inverse(c);
    int best = 0;
    for (int i = 1; i <= 2 * reach && i < size; i++) {
      if (c[i] > c[best]) {
        best = i;
      }
    }
    return (best - reach) * hop;
  }

  /** Rises of the level in dB, hop by hop, without the slow part. */
  private static float[] onsets(Audio audio, long from, long to, int hop) {
    int count = (int) Math.max(1, (to - from) / hop);
    float[] rises = new float[count];
    double before = 0;
    float[] block = new float[hop];
    for (int i = 0; i < count; i++) {
      audio.read(0, from + (long) i * hop, block, 0, hop);
      double power = 0;
      for (float x : block) {
        power += x * x;
      }
      double level = 10 * Math.log10(power / hop + 1e-7);
      rises[i] = (float) Math.max(0, i == 0 ? 0 : level - before);
      before = level;
    }
    double mean = 0;
    for (float r : rises) {
      mean += r;
    }
    for (int i = 0; i < count; i++) {
      rises[i] -= (float) (mean / count);
    }
    return rises;
  }
}
