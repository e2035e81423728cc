package kettlesieve.core.rig;

import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.ground.Activity;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.task.Progress;

/**
 * What the denoisers and the dereverberator share: short-time transform with half-overlapping
 * root-Hann windows, a noise spectrum from the pauses, a gain for each cell, and overlap-add (Allen
 * &amp; Rabiner 1977).
 */
final class SpectralGain {
  private SpectralGain() {}

  /** Gives gains to cells, frame after frame of one channel. */
  interface Rule {
    /**
     * @param power |X|² of the frame by bin
     * @param noise mean noise power by bin
     * @param gain receives the factor for X
     */
    void gains(float[] power, double[] noise, float[] gain);
  }

  /** Seconds from one frame to the next. */
  static double hopSeconds(Audio in) {
    return Framing.of(in).length() / 4.0 / in.sampleRate();
  }

  static Audio process(
      Audio in, double amount, Progress progress, java.util.function.Supplier<Rule> rules) {
    StandIn.checkLength(in);
    if (amount == 0) {
      return in;
    }
    boolean[] quiet = quietFrames(in);
    float[][] out = new float[in.channels()][];
    for (int c = 0; c < in.channels(); c++) {
      out[c] = channel(in, c, quiet, rules.get(), progress);
    }
    return Audio.of(in.sampleRate(), out);
  }

  /** Frames of the standard framing that hold only noise: the pauses, else the quietest tenth. */
  private static boolean[] quietFrames(Audio in) {
    Audio mono = in.downmix();
    Spectrogram spectrogram = new Spectrogram(mono, 0);
    Framing framing = spectrogram.framing();
    boolean[] quiet = new boolean[framing.count()];
    if (framing.count() == 0) {
      return quiet;
    }
    Activity activity = Activity.find(List.of(spectrogram));
    double[] levels = new double[quiet.length];
    for (int t = 0; t < quiet.length; t++) {
      quiet[t] = activity.problem().isEmpty() && activity.pause(t);
      for (float p : spectrogram.powers(t)) {
        levels[t] += p;
      }
    }
    if (activity.problem().isPresent()) {
      double limit = Statistics.quantile(levels, 0.1);
      for (int t = 0; t < quiet.length; t++) {
        quiet[t] = levels[t] <= limit;
      }
    }
    return quiet;
  }

  private static float[] channel(
      Audio in, int channel, boolean[] quiet, Rule rule, Progress progress) {
    int length = Framing.of(in).length() / 2;
    int hop = length / 2;
    float[] window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      window[i] = (float) Math.sqrt(window[i]);
    }
    int size = Math.toIntExact(in.frames());
    float[] x = in.samples(channel, -hop, size + 3 * hop);
    double[] noise = noise(x, window, quiet, Framing.of(in), hop);
    float[] out = new float[x.length];
    float[] frame = new float[length];
    float[] power = new float[length / 2 + 1];
    float[] gain = new float[length / 2 + 1];
    for (int at = 0; at + length <= x.length; at += hop) {
      transform(x, at, window, frame, power);
      rule.gains(power, noise, gain);
      frame[0] *= gain[0];
      frame[1] *= gain[length / 2];
      for (int k = 1; k < length / 2; k++) {
        frame[2 * k] *= gain[k];
        frame[2 * k + 1] *= gain[k];
      }
      Fft.inverse(frame);
      for (int i = 0; i < length; i++) {
        out[at + i] += frame[i] * window[i];
      }
      if (at % (hop * 256) == 0) {
        progress.at("processing", (double) at / x.length);
      }
    }
    return Arrays.copyOfRange(out, hop, hop + size);
  }

  private static void transform(float[] x, int at, float[] window, float[] frame, float[] power) {
    int length = frame.length;
    for (int i = 0; i < length; i++) {
      frame[i] = x[at + i] * window[i];
    }
    Fft.forward(frame);
    power[0] = frame[0] * frame[0];
    power[length / 2] = frame[1] * frame[1];
    for (int k = 1; k < length / 2; k++) {
      power[k] = frame[2 * k] * frame[2 * k] + frame[2 * k + 1] * frame[2 * k + 1];
    }
  }

  private static double[] noise(
      float[] x, float[] window, boolean[] quiet, Framing framing, int hop) {
    int length = window.length;
    double[] sum = new double[length / 2 + 1];
    float[] frame = new float[length];
    float[] power = new float[sum.length];
    int count = 0;
    for (int t = 0; t < quiet.length; t++) {
      if (quiet[t]) {
        // The middle of the longer standard frame, so that nothing of the voice comes in.
        int at = hop + t * framing.hop() + (framing.length() - length) / 2;
        transform(x, at, window, frame, power);
        for (int k = 0; k < sum.length; k++) {
          sum[k] += power[k];
        }
        count++;
      }
    }
    for (int k = 0; k < sum.length; k++) {
      sum[k] = Math.max(1e-20, sum[k] / Math.max(1, count));
    }
    return sum;
  }
}
