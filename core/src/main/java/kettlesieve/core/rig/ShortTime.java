package kettlesieve.core.rig;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * Short-time transform and overlap-add of one channel with a root-Hann window at a hop of a quarter
 * (Allen &amp; Rabiner 1977): changing nothing gives the input back.
 */
final class ShortTime {
  private final int length;
  private final int hop;
  private final float[] window;

  ShortTime(int length) {
    this.length = length;
    this.hop = length / 4;
    this.window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      window[i] = (float) Math.sqrt(window[i]);
    }
  }

  /** A length of about 43 ms: 2048 at 44.1 and 48 kHz. */
  static int usualLength(int sampleRate) {
    return Fft.powerOfTwo((long) Math.ceil(0.030 * sampleRate));
  }

  int bins() {
    return length / 2 + 1;
  }

  int frames(Audio in) {
    return (int) ((in.frames() + length) / hop + 1);
  }

  /** The packed transform of a frame; frame 0 ends at the recording's first samples. */
  void analyse(Audio in, int channel, int frame, float[] into) {
    in.read(channel, start(frame), into, 0, length);
    for (int i = 0; i < length; i++) {
      into[i] *= window[i];
    }
    Fft.forward(into);
  }

  /** Adds a frame back to a channel. */
  void add(float[] spectrum, int frame, float[] out) {
    Fft.inverse(spectrum);
    long start = start(frame);
    for (int i = 0; i < length; i++) {
      long at = start + i;
      if (at >= 0 && at < out.length) {
        // Four windows squared overlap to two.
        out[(int) at] += spectrum[i] * window[i] * 0.5f;
      }
    }
  }

  private long start(int frame) {
    return (long) frame * hop - length + hop;
  }

  static float power(float[] packed, int bin) {
    int half = packed.length / 2;
    if (bin == 0) {
      return packed[0] * packed[0];
    }
    if (bin == half) {
      return packed[1] * packed[1];
    }
    return packed[2 * bin] * packed[2 * bin] + packed[2 * bin + 1] * packed[2 * bin + 1];
  }

  /** Multiplies the bins of a packed transform. */
  static void times(float[] packed, float[] gain, float[] into) {
    int half = packed.length / 2;
    into[0] = packed[0] * gain[0];
    into[1] = packed[1] * gain[half];
    for (int k = 1; k < half; k++) {
      into[2 * k] = packed[2 * k] * gain[k];
      into[2 * k + 1] = packed[2 * k + 1] * gain[k];
    }
  }
}
