package kettlesieve.core.measure.cells;

import java.util.Arrays;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.CellMask;
import kettlesieve.core.match.Ground;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;

/**
 * Whether what was taken away is a sound of its own. Cells are told to be wanted by the noise of
 * the pauses; where that noise is not steady, its own loud cells are among them, and who takes the
 * noise out of them, and nothing else, seems to have lost voice. The phases tell the difference: of
 * S = D + N a processor that turns cells down leaves αS, in phase with S; who takes N away leaves D
 * alone, whose phase has nothing to do with that of S where N is the louder one. So in cells that
 * sank by more than 4 dB the cosine of the angle between version and source is averaged, weighted
 * by the version's power within five bins and by the source's to the power 0.25 between them.
 *
 * <p>Over all cells the mean is 0.1 to 0.4 for a clean recording, 0.45 and more for all that turns
 * cells down, hard gating of single ones included (their frames overlap): that tells of what kind
 * the processor is. Only then, and only in blocks whose own wanted cells turned as well, is what
 * they lack no loss: where voice is missing it hung together with the source.
 *
 * <p>Looked at in {@link SampledFrames}.
 */
final class PhasesKept {
  /** Bins to each side over which powers are taken. */
  private static final int AROUND = 2;

  private static final double SANK = 0.4;

  /** What is as good as gone, 50 dB under what was there, left nothing that could have a phase. */
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

  /** Of a pair in denoise: what a clean recording tells to be wanted is no noise. */
  static final Analysis<PhasesKept> OF =
      pair ->
          pair.job() == Job.DENOISE && !pair.hasReference() ? of(pair, pair.ground()) : whole(pair);

  /** Of a version of which nothing is excused. */
  private static PhasesKept whole(Pair pair) {
    double[] shares = new double[pair.timeline().blocks()];
    Arrays.fill(shares, 1);
    return new PhasesKept(shares);
  }

  /**
   * Of a version beside its source.
   *
   * @param ground that tells the wanted cells
   */
  private static PhasesKept of(Pair pair, Ground ground) throws NotMeasurableException {
    double[][] sums = new double[pair.timeline().blocks()][SUMS];
    pair.shared(SampledFrames.OF)
        .each(
            (channel, frame, x, y) ->
                add(x, y, ground.wanted(channel), frame, sums[pair.timeline().block(frame)]));
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

  private static void add(float[] x, float[] y, CellMask wanted, int frame, double[] sums) {
    int last = x.length / 2 - 1 - AROUND;
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
        along += Math.sqrt(py / (px + 1e-30)) * (yr * xr + yi * xi);
      }
      if (after >= SANK * before) {
        continue;
      }
      double weight = Math.pow(before, LOUDNESS);
      boolean gone = after <= GONE * before;
      double cosine = gone ? 1 : along / after;
      if (!gone) {
        sums[0] += weight * cosine;
        sums[1] += weight;
      }
      if (wanted.has(frame, k)) {
        sums[2] += weight * cosine;
        sums[3] += weight;
      }
    }
  }

  /** Which share of what a wanted cell of a block lost is a loss, 0 to 1. */
  float share(int block) {
    return (float) shares[block];
  }
}
