package kettlesieve.core.ground;

import java.util.Arrays;
import java.util.stream.Stream;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Histogram;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * How the powers of the pauses lie about their own mean, third-octave by third-octave of one
 * channel. Steady noise keeps close to it; rain, babble, music and keys rise far above it now and
 * then, and what rises so far in the pauses is no sign of a voice elsewhere either.
 */
final class PauseShape {
  private static final double LOWEST_DB = -30;
  private static final double STEP_DB = 0.1;
  private static final int STEPS = 600;
  private static final double LOUD = 0.995;
  private static final int ENOUGH_CELLS = 200;
  private static final double USUAL_LOUD = 4;

  private final double[] loud;
  private final double[] typical;
  private final double[] activeMean;

  /**
   * @param source spectra of the channel
   * @param noise mean power of each bin in the pauses, over 0
   */
  PauseShape(Spectrogram source, Activity activity, float[] noise) {
    Framing framing = source.framing();
    int bins = framing.bins();
    int frames = framing.count();
    ThirdOctaveBands bands = new ThirdOctaveBands(framing);
    Histogram[] near = histograms(bands.count());
    Histogram[] wide = histograms(bands.count());
    double[] sums = new double[bands.count()];
    long[] counts = new long[bands.count()];
    BoxMean nearMean = new BoxMean(1, bins, frames, t -> ratios(source, t, noise));
    BoxMean wideMean = new BoxMean(2, bins, frames, t -> ratios(source, t, noise));
    for (int t = 0; t < frames; t++) {
      if (activity.active(t)) {
        float[] row = source.powers(t);
        for (int k = 0; k < bins; k++) {
          int band = bands.ofBin(k);
          if (band >= 0) {
            sums[band] += row[k] / noise[k];
            counts[band]++;
          }
        }
      } else if (inside(activity, t, frames)) {
        float[] nearRow = nearMean.row(t);
        float[] wideRow = wideMean.row(t);
        for (int k = 0; k < bins; k++) {
          int band = bands.ofBin(k);
          if (band >= 0) {
            near[band].add(Db.ofPower(Math.max(1e-6, nearRow[k])), 1);
            wide[band].add(Db.ofPower(Math.max(1e-6, wideRow[k])), 1);
          }
        }
      }
    }
    loud = new double[bands.count()];
    typical = new double[bands.count()];
    activeMean = new double[bands.count()];
    for (int b = 0; b < loud.length; b++) {
      boolean enough = near[b].total() >= ENOUGH_CELLS;
      loud[b] = enough ? Db.toPower(near[b].quantile(LOUD)) : USUAL_LOUD;
      typical[b] = enough ? Math.min(1, Db.toPower(wide[b].median())) : 1;
      activeMean[b] = counts[b] > 0 ? sums[b] / counts[b] : 0;
    }
  }

  private static Histogram[] histograms(int count) {
    return Stream.generate(() -> new Histogram(LOWEST_DB, STEP_DB, STEPS))
        .limit(count)
        .toArray(Histogram[]::new);
  }

  /** A pause with its neighbours: the means about it hold nothing else. */
  private static boolean inside(Activity activity, int t, int frames) {
    for (int i = Math.max(0, t - 2); i <= Math.min(frames - 1, t + 2); i++) {
      if (!activity.pause(i)) {
        return false;
      }
    }
    return true;
  }

  private static float[] ratios(Spectrogram source, int t, float[] noise) {
    float[] row = source.powers(t).clone();
    for (int k = 0; k < row.length; k++) {
      row[k] /= noise[k];
    }
    return row;
  }

  /** What only one in two hundred of the 3×3 means of a band exceeds, over the mean. */
  double loud(int band) {
    return loud[band];
  }

  /** Median of the 5×5 means of a band, over the mean; at most 1. */
  double typical(int band) {
    return typical[band];
  }

  /** Mean power of a band while wanted sound goes on, over the mean of the pauses. */
  double activeMean(int band) {
    return activeMean[band];
  }

  /**
   * Share of the third-octaves from 200 to 6,300 Hz in which the pauses rise to so much over their
   * mean.
   */
  double shareOver(double ratio, Framing framing) {
    int low = bandNear(200);
    int high = bandNear(Math.min(6300, 0.4 * framing.sampleRate()));
    long over =
        Arrays.stream(loud, low, Math.min(loud.length, high + 1)).filter(l -> l > ratio).count();
    return (double) over / (high - low + 1);
  }

  private int bandNear(double hz) {
    int band = 0;
    while (band + 1 < loud.length && ThirdOctaveBands.highHz(band) < hz) {
      band++;
    }
    return band;
  }
}
