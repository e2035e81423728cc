package kettlesieve.calibrate.makers;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Windows;

/** Subtracts six times the learned noise power, down to nothing: deliberately too much. */
final class OverSubtraction {
  private static final double FACTOR = 6;
  private static final double FLOOR = 1e-3;

  private OverSubtraction() {}

  static Audio process(Audio in, Audio sample) {
    int length = Framing.of(in).length() / 2;
    int hop = length / 2;
    float[] window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      window[i] = (float) Math.sqrt(window[i]);
    }
    double[] noise = new double[length / 2 + 1];
    float[] learned = sample.wholeChannel(0);
    int count = 0;
    for (int at = 0; at + length <= learned.length; at += hop) {
      float[] frame = transform(learned, at, window);
      for (int k = 0; k < noise.length; k++) {
        noise[k] += power(frame, k);
      }
      count++;
    }
    for (int k = 0; k < noise.length; k++) {
      noise[k] /= Math.max(1, count);
    }
    int size = Math.toIntExact(in.frames());
    float[] x = in.samples(0, -hop, size + 3 * hop);
    float[] out = new float[x.length];
    for (int at = 0; at + length <= x.length; at += hop) {
      float[] frame = transform(x, at, window);
      frame[0] *= gain(power(frame, 0), noise[0]);
      frame[1] *= gain(power(frame, length / 2), noise[length / 2]);
      for (int k = 1; k < length / 2; k++) {
        float g = gain(power(frame, k), noise[k]);
        frame[2 * k] *= g;
        frame[2 * k + 1] *= g;
      }
      Fft.inverse(frame);
      for (int i = 0; i < length; i++) {
        out[at + i] += frame[i] * window[i];
      }
    }
    return Audio.of(in.sampleRate(), Arrays.copyOfRange(out, hop, hop + size));
  }

  private static float gain(double power, double noise) {
    return (float) Math.sqrt(Math.max(FLOOR * FLOOR, 1 - FACTOR * noise / Math.max(power, 1e-30)));
  }

  private static float[] transform(float[] x, int at, float[] window) {
    float[] frame = Arrays.copyOfRange(x, at, at + window.length);
    for (int i = 0; i < frame.length; i++) {
      frame[i] *= window[i];
    }
    Fft.forward(frame);
    return frame;
  }

  private static double power(float[] frame, int bin) {
    if (bin == 0) {
      return (double) frame[0] * frame[0];
    }
    if (bin == frame.length / 2) {
      return (double) frame[1] * frame[1];
    }
    double re = frame[2 * bin];
    double im = frame[2 * bin + 1];
    return re * re + im * im;
  }
}
