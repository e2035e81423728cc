package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Stop;

/**
 * Onsets of a recording by its mel levels: where they rise most over 10 ms. Levels are logarithmic,
 * so that a change of level alone changes no onset.
 */
public final class Onsets {
  /** Seconds from one frame of levels to the next. */
  public static final double HOP = 0.002;

  private static final double ONSET_REACH = 0.060;
  private static final double ONSET_SEARCH = 0.030;
  private static final double ONSET_SCORE = 0.3;
  private static final double AWAY_SECONDS = 0.012;
  private static final double LEAST_MARGIN = 0.1;
  private static final double ALONE_SECONDS = 0.050;
  private static final double USUAL_SECONDS = 0.150;
  private static final double OVER_USUAL_DB = 4;

  private final float[][] rises;
  private final double[] flux;

  /**
   * @param levels of {@link LogMel#levels}, one row each {@link #HOP}
   */
  public Onsets(float[][] levels) {
    this.rises = rises(levels);
    this.flux = flux(rises);
  }

  /** Mean rise over the bands by frame, smoothed over three frames, dB. */
  public double[] flux() {
    return flux;
  }

  /**
   * Frames of the onsets: maxima within ±50 ms that stand 4 dB over the median of 300 ms around
   * them. Frames within 150 ms of either end are left out.
   */
  public List<Integer> frames() {
    List<Integer> found = new ArrayList<>();
    int around = (int) Math.round(ALONE_SECONDS / HOP);
    int wide = (int) Math.round(USUAL_SECONDS / HOP);
    for (int i = wide; i < flux.length - wide; i++) {
      if (!highest(flux, i, around)) {
        continue;
      }
      double usual = Statistics.median(Arrays.copyOfRange(flux, i - wide, i + wide + 1));
      if (flux[i] >= usual + OVER_USUAL_DB) {
        found.add(i);
      }
    }
    return found;
  }

  /**
   * Where an onset lies in another recording: its rises are compared unstretched, because good
   * tools do not stretch attacks.
   *
   * @param frame of this recording
   * @param expected frame of the other around which it is looked for, ±30 ms
   * @return frame of the other in fractions; NaN if it is not there
   */
  double in(Onsets other, int frame, double expected) {
    int reach = (int) Math.round(ONSET_REACH / HOP);
    float[][] piece = Arrays.copyOfRange(rises, frame - reach, frame + reach + 1);
    MelRows.Peak peak =
        MelRows.search(
            piece, other.rises, expected - reach, ONSET_SEARCH / HOP, AWAY_SECONDS / HOP);
    // A deep note rises with each of its periods: one is as good as the next.
    boolean told = peak != null && peak.score() >= ONSET_SCORE && peak.margin() >= LEAST_MARGIN;
    return !told ? Double.NaN : peak.place() + reach;
  }

  private static boolean highest(double[] flux, int at, int around) {
    for (int j = Math.max(0, at - around); j <= Math.min(flux.length - 1, at + around); j++) {
      if (flux[j] > flux[at] || flux[j] == flux[at] && j < at) {
        return false;
      }
    }
    return true;
  }

  private static float[][] rises(float[][] levels) {
    Stop.checkHere();
    int lag = (int) Math.round(0.010 / HOP);
    float[][] rises = new float[levels.length][LogMel.BANDS];
    for (int i = lag; i < levels.length; i++) {
      for (int b = 0; b < LogMel.BANDS; b++) {
        rises[i][b] = Math.max(0, levels[i][b] - levels[i - lag][b]);
      }
    }
    return rises;
  }

  private static double[] flux(float[][] rises) {
    double[] mean = new double[rises.length];
    for (int i = 0; i < rises.length; i++) {
      for (float r : rises[i]) {
        mean[i] += r / LogMel.BANDS;
      }
    }
    double[] smooth = new double[mean.length];
    for (int i = 1; i < mean.length - 1; i++) {
      smooth[i] = (mean[i - 1] + mean[i] + mean[i + 1]) / 3;
    }
    return smooth;
  }
}
