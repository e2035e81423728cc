package kettlesieve.calibrate.truth;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * How far a stretched or shifted version is from what was played at that tempo and pitch. A
 * constant delay up to 80 ms and a constant level are no error.
 *
 * @param tone mean distance of levels in twelfths of an octave, windows of 186 ms, dB
 * @param time the same in thirds of an octave, windows of 12 ms
 * @param attacks one minus the correlation of how levels rise, every 3 ms
 */
public record PlayedTruth(double tone, double time, double attacks) {
  private static final double LOW_HZ = 80;
  private static final double HIGH_HZ = 12_000;
  private static final double DEEP_DB = 50;
  private static final double MOST_LATE = 0.08;
  private static final double CLEAR = 1.15;
  private static final double HOP = 0.003;

  /** Of a version, beside what was played. */
  public static PlayedTruth of(Audio played, Audio version) {
    double[][] before = levels(played, 512, HOP, 3, 0);
    double late = late(before, levels(version, 512, HOP, 3, 0));
    double[][] after = levels(version, 512, HOP, 3, late);
    return new PlayedTruth(
        distance(levels(played, 8192, 0.02, 12, 0), levels(version, 8192, 0.02, 12, late)),
        distance(before, after),
        1 - correlation(rises(before), rises(after)));
  }

  /**
   * Which of two is nearer to what was played: 1 for this, −1 for the other, 0 where the figures
   * disagree or none of them differs by 15 %.
   */
  public int against(PlayedTruth other) {
    int sum = sign(tone, other.tone) + sign(time, other.time) + sign(attacks, other.attacks);
    boolean contradicted =
        Math.abs(sign(tone, other.tone))
                + Math.abs(sign(time, other.time))
                + Math.abs(sign(attacks, other.attacks))
            > Math.abs(sum);
    return contradicted || Math.abs(sum) < 2 ? 0 : Integer.signum(sum);
  }

  private static int sign(double own, double other) {
    double low = Math.max(1e-3, own);
    double high = Math.max(1e-3, other);
    return high > CLEAR * low ? 1 : low > CLEAR * high ? -1 : 0;
  }

  /** Levels by frame and band, dB over the loudest; the frames begin late by so many seconds. */
  private static double[][] levels(
      Audio audio, int length, double hop, int perOctave, double late) {
    int rate = audio.sampleRate();
    int bands = (int) (perOctave * Math.log(HIGH_HZ / LOW_HZ) / Math.log(2));
    float[] window = Windows.hann(length);
    int frames = (int) (audio.seconds() / hop);
    double[][] levels = new double[frames][bands];
    double loudest = 1e-12;
    float[] x = new float[length];
    for (int t = 0; t < frames; t++) {
      audio.read(0, Math.round((t * hop + late) * rate) - length / 2, x, 0, length);
      for (int i = 0; i < length; i++) {
        x[i] *= window[i];
      }
      Fft.forward(x);
      for (int b = 0; b < bands; b++) {
        double low = LOW_HZ * Math.pow(2, (double) b / perOctave) * length / rate;
        double high = LOW_HZ * Math.pow(2, (b + 1.0) / perOctave) * length / rate;
        int from = Math.max(1, (int) Math.round(low));
        int to = Math.max(from + 1, (int) Math.round(high));
        for (int k = from; k < to && k < length / 2; k++) {
          levels[t][b] += (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
        }
        loudest = Math.max(loudest, levels[t][b]);
      }
    }
    for (double[] frame : levels) {
      for (int b = 0; b < bands; b++) {
        frame[b] = 10 * Math.log10(frame[b] / loudest + Math.pow(10, -DEEP_DB / 10));
      }
    }
    return levels;
  }

  private static double distance(double[][] a, double[][] b) {
    int n = Math.min(a.length, b.length);
    double offset = 0;
    int heard = 0;
    for (int t = 0; t < n; t++) {
      for (int k = 0; k < a[t].length; k++) {
        if (a[t][k] > -DEEP_DB + 20 && b[t][k] > -DEEP_DB + 20) {
          offset += b[t][k] - a[t][k];
          heard++;
        }
      }
    }
    offset /= Math.max(1, heard);
    double sum = 0;
    int cells = 0;
    for (int t = 0; t < n; t++) {
      for (int k = 0; k < a[t].length; k++) {
        if (Math.max(a[t][k], b[t][k]) > -DEEP_DB + 3) {
          sum += Math.abs(Math.max(-DEEP_DB, b[t][k] - offset) - a[t][k]);
          cells++;
        }
      }
    }
    // What is missing at the end, or too much of it, counts as silence against sound.
    double length = Math.abs(a.length - b.length) / (double) Math.max(a.length, b.length);
    return cells == 0 ? DEEP_DB : sum / cells + 25 * Math.max(0, length - 0.02);
  }

  private static double[] rises(double[][] levels) {
    double[] rises = new double[levels.length];
    for (int t = 3; t < rises.length; t++) {
      for (int b = 0; b < levels[t].length; b++) {
        rises[t] += Math.max(0, levels[t][b] - levels[t - 3][b]) / levels[t].length;
      }
    }
    return rises;
  }

  private static double late(double[][] before, double[][] after) {
    double[] a = rises(before);
    double[] b = rises(after);
    int most = (int) (MOST_LATE / HOP);
    double best = Double.NEGATIVE_INFINITY;
    int at = 0;
    for (int lag = -most; lag <= most; lag++) {
      double sum = 0;
      for (int t = Math.max(0, -lag); t < a.length && t + lag < b.length; t++) {
        sum += a[t] * b[t + lag];
      }
      if (sum > best) {
        best = sum;
        at = lag;
      }
    }
    return at * HOP;
  }

  private static double correlation(double[] a, double[] b) {
    int n = Math.min(a.length, b.length);
    double x = 0;
    double y = 0;
    double xx = 1e-12;
    double yy = 1e-12;
    double xy = 0;
    for (int i = 0; i < n; i++) {
      x += a[i] / n;
      y += b[i] / n;
    }
    for (int i = 0; i < n; i++) {
      xx += (a[i] - x) * (a[i] - x);
      yy += (b[i] - y) * (b[i] - y);
      xy += (a[i] - x) * (b[i] - y);
    }
    return xy / Math.sqrt(xx * yy);
  }
}
