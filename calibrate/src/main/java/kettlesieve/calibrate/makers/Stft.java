package kettlesieve.calibrate.makers;

import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/** Frames of a recording by a Hann window with a hop of a quarter, and back. */
final class Stft {
  private final int length;
  private final int hop;

  /**
   * @param length a power of two
   */
  Stft(int length) {
    this.length = length;
    this.hop = length / 4;
  }

  int length() {
    return length;
  }

  /** Packed transforms, see {@link Fft}. */
  float[][] frames(float[] x) {
    float[] window = Windows.hann(length);
    float[][] frames = new float[x.length / hop + 4][length];
    for (int t = 0; t < frames.length; t++) {
      for (int i = 0; i < length; i++) {
        int at = t * hop + i - length / 2;
        frames[t][i] = at >= 0 && at < x.length ? x[at] * window[i] : 0;
      }
      Fft.forward(frames[t]);
    }
    return frames;
  }

  /** Overlapped and added; spoils the frames. */
  float[] joined(float[][] frames, int samples) {
    float[] window = Windows.hann(length);
    float[] out = new float[samples];
    float[] weight = new float[samples];
    for (int t = 0; t < frames.length; t++) {
      Fft.inverse(frames[t]);
      for (int i = 0; i < length; i++) {
        int at = t * hop + i - length / 2;
        if (at >= 0 && at < samples) {
          out[at] += frames[t][i] * window[i];
          weight[at] += window[i] * window[i];
        }
      }
    }
    for (int i = 0; i < samples; i++) {
      out[i] /= Math.max(1e-3f, weight[i]);
    }
    return out;
  }
}
