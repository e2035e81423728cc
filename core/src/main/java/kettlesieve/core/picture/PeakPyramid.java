package kettlesieve.core.picture;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Progress;

/**
 * Smallest and largest samples of one channel, or of all, over runs of 256, and again over 16 of
 * those, so that a waveform of any length is drawn quickly at any zoom.
 */
public final class PeakPyramid {
  private static final int RUN = 256;
  private static final int STEP = 16;

  private final Audio audio;
  private final int firstChannel;
  private final int endChannel;
  private final float[] low;
  private final float[] high;
  private final float[] coarseLow;
  private final float[] coarseHigh;

  private PeakPyramid(Audio audio, int firstChannel, int endChannel, float[] low, float[] high) {
    this.audio = audio;
    this.firstChannel = firstChannel;
    this.endChannel = endChannel;
    this.low = low;
    this.high = high;
    int coarse = (low.length + STEP - 1) / STEP;
    coarseLow = new float[coarse];
    coarseHigh = new float[coarse];
    for (int i = 0; i < low.length; i++) {
      coarseLow[i / STEP] = Math.min(coarseLow[i / STEP], low[i]);
      coarseHigh[i / STEP] = Math.max(coarseHigh[i / STEP], high[i]);
    }
  }

  /** Reads a channel once. */
  public static PeakPyramid of(Audio audio, int channel, Progress progress) {
    return of(audio, channel, channel + 1, progress);
  }

  /** Reads all channels once; ranges are those of all of them together. */
  public static PeakPyramid ofAll(Audio audio, Progress progress) {
    return of(audio, 0, audio.channels(), progress);
  }

  private static PeakPyramid of(Audio audio, int firstChannel, int endChannel, Progress progress) {
    int count = Math.toIntExact((audio.frames() + RUN - 1) / RUN);
    float[] low = new float[count];
    float[] high = new float[count];
    java.util.Arrays.fill(low, Float.MAX_VALUE);
    java.util.Arrays.fill(high, -Float.MAX_VALUE);
    float[] block = new float[RUN * STEP];
    for (int i = 0; i < count; i += STEP) {
      for (int c = firstChannel; c < endChannel; c++) {
        audio.read(c, (long) i * RUN, block, 0, block.length);
        for (int j = i; j < Math.min(count, i + STEP); j++) {
          int from = (j - i) * RUN;
          float l = low[j];
          float h = high[j];
          for (int k = from; k < from + RUN; k++) {
            l = Math.min(l, block[k]);
            h = Math.max(h, block[k]);
          }
          low[j] = l;
          high[j] = h;
        }
      }
      if (i % (STEP * 1024) == 0) {
        progress.at("drawing", (double) i / count);
      }
    }
    return new PeakPyramid(audio, firstChannel, endChannel, low, high);
  }

  /** Length of the channel, in frames. */
  public long frames() {
    return audio.frames();
  }

  /**
   * Smallest and largest sample from one frame to another.
   *
   * @param from first frame
   * @param to frame after the last
   * @return two values, both 0 outside the recording
   */
  public float[] range(double from, double to) {
    long first = Math.max(0, (long) Math.floor(from));
    long last = Math.min(audio.frames(), Math.max(first + 1, (long) Math.ceil(to)));
    if (first >= last) {
      return new float[2];
    }
    if (last - first < 2L * RUN) {
      float[] range = {Float.MAX_VALUE, -Float.MAX_VALUE};
      for (int c = firstChannel; c < endChannel; c++) {
        float[] samples = audio.samples(c, first, (int) (last - first));
        float[] own = range(samples, samples, 0, samples.length);
        range[0] = Math.min(range[0], own[0]);
        range[1] = Math.max(range[1], own[1]);
      }
      return range;
    }
    int a = (int) (first / RUN);
    int b = (int) Math.min(low.length, (last + RUN - 1) / RUN);
    if (b - a < 4 * STEP) {
      return range(low, high, a, b);
    }
    return range(
        coarseLow, coarseHigh, a / STEP, Math.min(coarseLow.length, (b + STEP - 1) / STEP));
  }

  private static float[] range(float[] lows, float[] highs, int from, int to) {
    float l = lows[from];
    float h = highs[from];
    for (int i = from; i < to; i++) {
      l = Math.min(l, lows[i]);
      h = Math.max(h, highs[i]);
    }
    return new float[] {l, h};
  }
}
