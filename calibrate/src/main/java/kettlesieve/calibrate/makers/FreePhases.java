package kettlesieve.calibrate.makers;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * A phase vocoder whose phases run free, with any window: its flaws grow with the window, and that
 * is common knowledge (Laroche &amp; Dolson 1999).
 */
public final class FreePhases {
  private static final int OVERLAP = 8;
  private static final double LEAST_WEIGHT = 1e-3;

  private FreePhases() {}

  /**
   * Stretches one channel.
   *
   * @param in one channel
   * @param ratio new length over old
   * @param length of the window, a power of two
   */
  public static Audio stretched(Audio in, double ratio, int length) {
    float[] x = in.wholeChannel(0);
    float[] window = Windows.hann(length);
    int step = (int) Math.round(length / OVERLAP * ratio);
    int behind = Math.max(1, (int) Math.round(step / ratio));
    double[] sum = new double[(int) (x.length * ratio) + 2 * length];
    double[] weight = new double[sum.length];
    double[] phase = new double[length / 2];
    double[] last = new double[length / 2];
    float[] frame = new float[length];
    float[] out = new float[length];
    boolean first = true;
    int to = 0;
    for (int from = 0; from + length < x.length; from = (int) Math.round(to / ratio)) {
      for (int i = 0; i < length; i++) {
        frame[i] = x[from + i] * window[i];
      }
      Fft.forward(frame);
      java.util.Arrays.fill(out, 0);
      for (int k = 1; k < phase.length; k++) {
        double own = Math.atan2(frame[2 * k + 1], frame[2 * k]);
        double angular = 2 * Math.PI * k / length;
        double off = own - last[k] - angular * behind;
        off -= 2 * Math.PI * Math.round(off / (2 * Math.PI));
        phase[k] = first ? own : phase[k] + step * (angular + off / behind);
        last[k] = own;
        double size = Math.hypot(frame[2 * k], frame[2 * k + 1]);
        out[2 * k] = (float) (size * Math.cos(phase[k]));
        out[2 * k + 1] = (float) (size * Math.sin(phase[k]));
      }
      first = false;
      Fft.inverse(out);
      for (int i = 0; i < length; i++) {
        sum[to + i] += out[i] * window[i];
        weight[to + i] += window[i] * window[i];
      }
      to += step;
    }
    float[] y = new float[(int) (x.length * ratio)];
    for (int i = 0; i < y.length; i++) {
      y[i] = (float) (sum[i] / Math.max(LEAST_WEIGHT, weight[i]));
    }
    return Audio.of(in.sampleRate(), y);
  }
}
