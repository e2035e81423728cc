package kettlesieve.core.measure.cells;

import java.util.Arrays;
import kettlesieve.core.match.CellMask;
import kettlesieve.core.match.Ground;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.Framing;

/**
 * Whether what was taken away is a sound of its own. Cells are told to be wanted by the noise of
 * the pauses; where that noise is not steady, its own loud cells are among them, and who takes the
 * noise out of them, and nothing else, seems to have lost voice. The phases tell the difference: of
 * S = D + N a processor that turns cells down leaves αS, in phase with S; who takes N away leaves D
 * alone, whose phase has nothing to do with that of S where N is the louder one. So in cells that
 * sank by more than 4 dB the cosine of the angle between version and source is averaged, weighted
 * by the version's power within five bins and by the source's to the power 0.25 between them. A
 * constant turn of a frequency (a filter, a delay) is taken off first.
 *
 * <p>Over all cells the mean is 0.1 to 0.4 for a clean recording, 0.45 and more for all that turns
 * cells down, hard gating of single ones included (their frames overlap): that tells of what kind
 * the processor is. Only then, and only in blocks whose own wanted cells turned as well, is what
 * they lack no loss: where voice is missing it hung together with the source.
 *
 * <p>Looked at in every eighth frame, or in fewer of a long recording.
 */
final class PhasesKept {
  private static final int EVERY = 8;
  private static final int MOST_FRAMES = 600;

  /** Bins to each side over which powers are taken. */
  private static final int AROUND = 2;

  private static final double SANK = 0.4;

  /** What is gone but for rounding has no phase. */
  private static final double GONE = 1e-5;

  private static final double LOUDNESS = 0.25;

  /**
   * Mean cosine over all cells: up to the first a sound of its own was taken, from the other on
   * not.
   */
  private static final double APART = 0.32;

  private static final double TOGETHER = 0.42;

  /** The same of the wanted cells of a block. */
  private static final double BLOCK_APART = 0.7;

  private static final double BLOCK_TOGETHER = 0.9;

  /** The mean of all wanted cells is believed as much as the cells of so many blocks. */
  private static final double BELIEVED = 2;

  /** What is summed of a block: cosines and weights of all cells, and of the wanted ones. */
  private static final int SUMS = 4;

  private final double[] shares;

  private PhasesKept(double[] shares) {
    this.shares = shares;
  }

  /** Of a version of which nothing is excused. */
  static PhasesKept whole(Pair pair) {
    double[] shares = new double[pair.timeline().blocks()];
    Arrays.fill(shares, 1);
    return new PhasesKept(shares);
  }

  /**
   * Of a version beside its source.
   *
   * @param ground that tells the wanted cells
   */
  static PhasesKept of(Pair pair, Ground ground) throws NotMeasurableException {
    double[][] sums = new double[pair.timeline().blocks()][SUMS];
    for (int c = 0; c < pair.channels(); c++) {
      walk(pair, ground.wanted(c), c, sums);
    }
    double[] all = new double[SUMS];
    for (double[] block : sums) {
      for (int i = 0; i < SUMS; i++) {
        all[i] += block[i];
      }
    }
    PhasesKept kept = whole(pair);
    double apart = all[1] > 0 ? 1 - between(all[0] / all[1], APART, TOGETHER) : 0;
    if (apart == 0 || !(all[3] > 0)) {
      return kept;
    }
    double belief = BELIEVED / sums.length;
    for (int b = 0; b < sums.length; b++) {
      double cosine = (sums[b][2] + belief * all[2]) / (sums[b][3] + belief * all[3]);
      kept.shares[b] = 1 - apart * (1 - between(cosine, BLOCK_APART, BLOCK_TOGETHER));
    }
    return kept;
  }

  /** 0 up to one value, 1 from the other on. */
  private static double between(double x, double from, double to) {
    return Math.max(0, Math.min(1, (x - from) / (to - from)));
  }

  private static void walk(Pair pair, CellMask wanted, int channel, double[][] sums) {
    Framing framing = pair.framing();
    int first = pair.firstFrame();
    int frames = pair.endFrame() - first;
    int step = Math.max(EVERY, (frames + MOST_FRAMES - 1) / MOST_FRAMES);
    int count = (frames + step - 1) / step;
    float[][] source = new float[count][];
    float[][] version = new float[count][];
    double[] turnRe = new double[framing.bins()];
    double[] turnIm = new double[framing.bins()];
    for (int i = 0; i < count; i++) {
      if (i % 64 == 0) {
        pair.stop().check();
      }
      float[] x = pair.source().spectrum(channel).coefficients(first + i * step, 1)[0];
      float[] y = pair.versionSpectrum(channel).coefficients(first + i * step, 1)[0];
      source[i] = x;
      version[i] = y;
      for (int k = 1; k < framing.bins() - 1; k++) {
        turnRe[k] += (double) y[2 * k] * x[2 * k] + (double) y[2 * k + 1] * x[2 * k + 1];
        turnIm[k] += (double) y[2 * k + 1] * x[2 * k] - (double) y[2 * k] * x[2 * k + 1];
      }
    }
    for (int k = 0; k < turnRe.length; k++) {
      double size = Math.max(Math.hypot(turnRe[k], turnIm[k]), 1e-300);
      turnRe[k] /= size;
      turnIm[k] /= size;
    }
    double gain = pair.version().powerGain();
    for (int i = 0; i < count; i++) {
      int frame = first + i * step;
      frame(
          source[i],
          version[i],
          gain,
          turnRe,
          turnIm,
          wanted,
          frame,
          sums[pair.timeline().block(frame)]);
    }
  }

  private static void frame(
      float[] x,
      float[] y,
      double gain,
      double[] turnRe,
      double[] turnIm,
      CellMask wanted,
      int frame,
      double[] sums) {
    int last = turnRe.length - 2 - AROUND;
    for (int k = 1 + AROUND; k <= last; k++) {
      double before = 0;
      double after = 0;
      double along = 0;
      for (int j = k - AROUND; j <= k + AROUND; j++) {
        double xr = x[2 * j];
        double xi = x[2 * j + 1];
        double yr = y[2 * j];
        double yi = y[2 * j + 1];
        double px = xr * xr + xi * xi;
        double py = yr * yr + yi * yi;
        before += px;
        after += py;
        double re = yr * xr + yi * xi;
        double im = yi * xr - yr * xi;
        along += Math.sqrt(py / (px + 1e-30)) * (re * turnRe[j] + im * turnIm[j]);
      }
      if (gain * after < SANK * before && gain * after > GONE * before) {
        double weight = Math.pow(before, LOUDNESS);
        sums[0] += weight * along / after;
        sums[1] += weight;
        if (wanted.has(frame, k)) {
          sums[2] += weight * along / after;
          sums[3] += weight;
        }
      }
    }
  }

  /** Which share of what a wanted cell of a block lost is a loss, 0 to 1. */
  float share(int block) {
    return (float) shares[block];
  }
}
