package kettlesieve.core.ground;

import java.util.Arrays;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.SortedWindow;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * How far the noise of one channel has risen over that of the pauses, third-octave by third-octave
 * over time. A voice leaves gaps in every band within a second or two, in which the noise stands
 * alone: so the lower fifth of the levels around a moment tells the noise there (after Martin's
 * minimum statistics, IEEE Trans. Speech Audio Process. 9, 2001), and in the pauses themselves it
 * tells how that fifth lies to the mean.
 */
final class NoiseRise {
  private static final double REACH_SECONDS = 1.25;
  private static final double LOWER = 0.2;
  private static final int STEP = 4;
  private static final float MOST = 30;

  private final float[][] rise;
  private final int[] bandOfBin;

  /**
   * @param source spectra of the channel
   * @param noise mean power of each bin in the pauses, over 0
   */
  NoiseRise(Spectrogram source, Activity activity, float[] noise) {
    Framing framing = source.framing();
    ThirdOctaveBands bands = new ThirdOctaveBands(framing);
    int frames = framing.count();
    bandOfBin = new int[framing.bins()];
    int[] width = new int[bands.count()];
    for (int k = 0; k < bandOfBin.length; k++) {
      bandOfBin[k] = bands.ofBin(k);
      if (bandOfBin[k] >= 0) {
        width[bandOfBin[k]]++;
      }
    }
    int steps = frames / STEP + 1;
    float[][] levels = new float[bands.count()][steps];
    boolean[] quiet = new boolean[steps];
    for (int s = 0; s < steps; s++) {
      int first = Math.min(frames, s * STEP);
      int end = Math.min(frames, first + STEP);
      quiet[s] = end > first;
      for (int t = first; t < end; t++) {
        float[] row = source.powers(t);
        for (int k = 0; k < row.length; k++) {
          if (bandOfBin[k] >= 0) {
            levels[bandOfBin[k]][s] += row[k] / noise[k];
          }
        }
        quiet[s] &= activity.pause(t);
      }
      for (int b = 0; b < levels.length; b++) {
        levels[b][s] /= Math.max(1, width[b] * (end - first));
      }
    }
    int reach = Math.max(1, (int) Math.round(REACH_SECONDS / (STEP * framing.hopSeconds())));
    rise = new float[steps][bands.count()];
    for (int b = 0; b < levels.length; b++) {
      float usual = lowerOf(levels[b], quiet);
      SortedWindow around = new SortedWindow(2 * reach + 1);
      for (int s = 0; s < Math.min(reach, steps); s++) {
        around.add(levels[b][s]);
      }
      for (int s = 0; s < steps; s++) {
        if (s - reach > 0) {
          around.remove(levels[b][s - reach - 1]);
        }
        if (s + reach < steps) {
          around.add(levels[b][s + reach]);
        }
        float lower = around.at((int) (LOWER * (around.size() - 1)));
        rise[s][b] = usual > 0 ? Math.max(1, Math.min(MOST, lower / usual)) : 1;
      }
    }
  }

  private static float lowerOf(float[] levels, boolean[] quiet) {
    float[] chosen = new float[levels.length];
    int n = 0;
    for (int s = 0; s < levels.length; s++) {
      if (quiet[s]) {
        chosen[n++] = levels[s];
      }
    }
    if (n == 0) {
      return 0;
    }
    float[] sorted = Arrays.copyOf(chosen, n);
    Arrays.sort(sorted);
    return sorted[(int) (LOWER * (n - 1))];
  }

  /** Frames of the same step have the same noise. */
  int step(int frame) {
    return frame / STEP;
  }

  /** Power of the noise around a frame over that of the pauses, by the third-octave of each bin. */
  void at(int frame, float[] byBin) {
    float[] now = rise[step(frame)];
    for (int k = 0; k < byBin.length; k++) {
      byBin[k] = bandOfBin[k] < 0 ? 1 : now[bandOfBin[k]];
    }
  }
}
