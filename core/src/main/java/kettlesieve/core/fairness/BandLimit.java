package kettlesieve.core.fairness;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * Finds where a recording's top end was cut off against another's: a step of the long-term gain,
 * version over source, that stays down to the top. A filter of a converter, an encoder or a
 * telephone line is that steep; removed hiss is not.
 */
final class BandLimit {
  private static final int LENGTH = 4096;
  private static final int FRAMES = 240;
  private static final double STEP_HZ = 250;
  private static final double SIDE_HZ = 1000;
  private static final double LEAST_STEP_DB = 25;
  private static final double LEAST_DEPTH_DB = 20;
  private static final double FLOOR_DB = -150;

  private BandLimit() {}

  /**
   * The frequency above which the version lacks what the source has; NaN if there is none.
   *
   * @param source one channel
   * @param version one channel, at its own rate, anywhere in time
   */
  static double find(Audio source, Audio version) {
    double top = Math.min(16_000, 0.45 * source.sampleRate());
    int count = (int) (top / STEP_HZ);
    double[] s = spectrum(source, count);
    double[] v = spectrum(version, count);
    int side = (int) (SIDE_HZ / STEP_HZ);
    double loudest = FLOOR_DB;
    for (double level : s) {
      loudest = Math.max(loudest, level);
    }
    for (int i = side + 2; i + side + 1 < count; i++) {
      double below = 0;
      double above = 0;
      double sourceAbove = 0;
      for (int j = 1; j <= side; j++) {
        below += (v[i - j] - s[i - j]) / side;
        above += (v[i + j] - s[i + j]) / side;
        sourceAbove += s[i + j] / side;
      }
      if (sourceAbove > loudest - 75
          && below - above >= LEAST_STEP_DB
          && staysDown(s, v, i + 2, below)) {
        return i * STEP_HZ;
      }
    }
    return Double.NaN;
  }

  private static boolean staysDown(double[] s, double[] v, int from, double below) {
    for (int i = from; i < s.length; i++) {
      if (below - (v[i] - s[i]) < LEAST_DEPTH_DB) {
        return false;
      }
    }
    return true;
  }

  /** Mean levels in steps of 250 Hz over frames spread through the recording. */
  private static double[] spectrum(Audio audio, int count) {
    double[] power = new double[count];
    float[] window = Windows.hann(LENGTH);
    float[] frame = new float[LENGTH];
    double binHz = (double) audio.sampleRate() / LENGTH;
    int frames = (int) Math.max(1, Math.min(FRAMES, audio.frames() / LENGTH));
    for (int t = 0; t < frames; t++) {
      audio.read(0, (audio.frames() - LENGTH) * t / Math.max(1, frames - 1), frame, 0, LENGTH);
      for (int i = 0; i < LENGTH; i++) {
        frame[i] *= window[i];
      }
      Fft.forward(frame);
      for (int k = 1; k < LENGTH / 2; k++) {
        int step = (int) (k * binHz / STEP_HZ);
        if (step < count) {
          power[step] += frame[2 * k] * frame[2 * k] + frame[2 * k + 1] * frame[2 * k + 1];
        }
      }
    }
    double[] levels = new double[count];
    for (int i = 0; i < count; i++) {
      double mean = power[i] / frames * binHz / STEP_HZ / ((double) LENGTH * LENGTH);
      levels[i] = Math.max(FLOOR_DB, Db.ofPower(Math.max(mean, 1e-20)));
    }
    return levels;
  }
}
