package kettlesieve.calibrate.truth;

import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/** Complex spectra of one channel, frame by frame: even places real, odd imaginary. */
final class ShortTime {
  private ShortTime() {}

  static float[][] of(float[] x, int length, int hop) {
    float[] window = Windows.hann(length);
    int count = Math.max(0, (x.length - length) / hop + 1);
    float[][] frames = new float[count][];
    for (int t = 0; t < count; t++) {
      float[] frame = java.util.Arrays.copyOfRange(x, t * hop, t * hop + length);
      for (int i = 0; i < length; i++) {
        frame[i] *= window[i];
      }
      Fft.forward(frame);
      // The first two hold the bins at 0 Hz and at half the rate: neither is judged.
      frame[0] = 0;
      frame[1] = 0;
      frames[t] = frame;
    }
    return frames;
  }
}
