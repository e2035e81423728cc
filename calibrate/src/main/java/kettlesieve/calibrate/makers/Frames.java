package kettlesieve.calibrate.makers;

import java.util.Arrays;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * A recording as overlapping spectra, and back: windows of the square root of a Hann window both
 * ways, so that spectra that were left alone give the samples back.
 *
 * @param length samples a frame, a power of two
 * @param hop samples from frame to frame, half of the length or less
 */
record Frames(int length, int hop) {

  private float[] window() {
    float[] window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      window[i] = (float) Math.sqrt(window[i]);
    }
    return window;
  }

  /**
   * Spectra as {@link Fft#forward(float[])} leaves them; the first frame ends with the first
   * samples.
   */
  float[][] of(float[] x) {
    float[] window = window();
    int count = (x.length + length - 1) / hop + 1;
    float[][] frames = new float[count][];
    for (int t = 0; t < count; t++) {
      int from = t * hop - length + hop;
      float[] frame = new float[length];
      for (int i = Math.max(0, -from); i < length && from + i < x.length; i++) {
        frame[i] = x[from + i] * window[i];
      }
      Fft.forward(frame);
      frames[t] = frame;
    }
    return frames;
  }

  /** Samples again; the frames are used up. */
  float[] samples(float[][] frames, int samples) {
    float[] window = window();
    double together = 0;
    for (int i = 0; i < length; i += hop) {
      together += window[i] * window[i];
    }
    float scale = (float) (1 / together);
    float[] y = new float[samples];
    for (int t = 0; t < frames.length; t++) {
      int from = t * hop - length + hop;
      Fft.inverse(frames[t]);
      for (int i = Math.max(0, -from); i < length && from + i < samples; i++) {
        y[from + i] += scale * window[i] * frames[t][i];
      }
    }
    return y;
  }

  /** Multiplies a bin of a frame, 0 to length/2. */
  static void scale(float[] frame, int bin, float gain) {
    if (bin == 0 || bin == frame.length / 2) {
      frame[bin == 0 ? 0 : 1] *= gain;
    } else {
      frame[2 * bin] *= gain;
      frame[2 * bin + 1] *= gain;
    }
  }

  /** The power of a bin of a frame, 0 to length/2. */
  static double power(float[] frame, int bin) {
    if (bin == 0 || bin == frame.length / 2) {
      double x = frame[bin == 0 ? 0 : 1];
      return x * x;
    }
    double re = frame[2 * bin];
    double im = frame[2 * bin + 1];
    return re * re + im * im;
  }

  /** Mean powers of the bins over frames that lie wholly within a recording. */
  double[] meanPowers(float[] x) {
    float[][] frames = of(x);
    int edge = length / hop - 1;
    double[] means = new double[length / 2 + 1];
    int count = Math.max(0, frames.length - 2 * edge);
    for (float[] frame : Arrays.asList(frames).subList(edge, edge + count)) {
      for (int k = 0; k < means.length; k++) {
        means[k] += power(frame, k) / count;
      }
    }
    return means;
  }
}
