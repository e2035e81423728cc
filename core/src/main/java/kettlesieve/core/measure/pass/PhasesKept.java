package kettlesieve.core.measure.pass;

import java.util.Arrays;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.CellMask;
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
 * <p>Over all cells the mean is 0.1 to 0.4 for a clean recording, 0.45 and more for what turns
 * cells down; only hard gating of single cells, whose frames overlap, came down to 0.34: that tells
 * of what kind the processor is. Only then, and only in blocks whose own wanted cells turned as
 * well, is what they lack no loss: where voice is missing it hung together with the source.
 *
 * <p>Looked at in the frames of a {@link PhasePass}.
 */
public final class PhasesKept {
  /** Bins to each side over which powers are taken. */
  private static final int AROUND = 2;

  private static final double SANK = 0.4;

  /** What is as good as gone, 50 dB under what was there, left nothing that could have a phase. */
  private static final double GONE = 1e-5;

  /** With so much of the power of its wanted cells a band has not lost all. */
  private static final double KEPT = 0.03;

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

  private final Pair pair;

  /** By block and band. */
  private final float[][] shares;

  private final double[][] sums;

  /** By block and band, weights of wanted cells that are gone. */
  private final double[][] gone;

  /** Power of all wanted cells by band, of source and version. */
  private final double[] before;

  private final double[] after;

  private final double[][] cells = new double[3][];

  /** Of which nothing is excused as long as nothing was found. */
  PhasesKept(Pair pair) {
    this.pair = pair;
    int bands = pair.bands().count();
    this.shares = new float[pair.timeline().blocks()][bands];
    this.sums = new double[shares.length][SUMS];
    this.gone = new double[shares.length][bands];
    this.before = new double[bands];
    this.after = new double[bands];
    for (float[] share : shares) {
      Arrays.fill(share, 1);
    }
  }

  /** Of a pair. In denoise only: and what a clean recording tells to be wanted is no noise. */
  static PhasesKept of(Pair pair) throws NotMeasurableException {
    return pair.job() == Job.DENOISE && !pair.hasReference()
        ? pair.shared(PhasePass.OF).kept()
        : new PhasesKept(pair);
  }

  /**
   * After the last frame.
   *
   * @param tiles of the same pair. What is gone left no phase: in a band that lost all it had it is
   *     a loss. Where the tiles tell that noise was taken off, and the band has voice still, it is
   *     what only the noise had put there.
   */
  void finish(VoiceTiles tiles) {
    double[] all = new double[SUMS];
    double allGone = 0;
    boolean[] there = new boolean[shares[0].length];
    for (int band = 0; band < there.length; band++) {
      there[band] = after[band] > KEPT * before[band];
    }
    for (int b = 0; b < sums.length; b++) {
      for (int i = 0; i < SUMS; i++) {
        all[i] += sums[b][i];
      }
      allGone += gone(b, there);
    }
    double apart = all[1] > 0 ? 1 - between(all[0] / all[1], APART, TOGETHER) : 0;
    // Where hardly anything is left, what is missing was no noise alone.
    boolean silent = Arrays.stream(after).sum() <= KEPT * Arrays.stream(before).sum();
    if (apart == 0 || silent || pair.hasReference() || !(all[3] > 0)) {
      return;
    }
    double clean = 1 - tiles.share();
    for (int b = 0; b < sums.length; b++) {
      double weights = sums[b][3] + all[3] * BELIEVED / sums.length;
      double cosines = sums[b][2] + all[2] * BELIEVED / sums.length;
      double without = gone(b, there) + allGone * BELIEVED / sums.length;
      float lost = share(apart, cosines / weights);
      float lostOfThere = share(apart, (cosines - clean * without) / weights);
      for (int band = 0; band < there.length; band++) {
        shares[b][band] = there[band] ? lostOfThere : lost;
      }
    }
  }

  private double gone(int block, boolean[] there) {
    double sum = 0;
    for (int band = 0; band < there.length; band++) {
      sum += there[band] ? gone[block][band] : 0;
    }
    return sum;
  }

  private static float share(double apart, double cosine) {
    return (float) (1 - apart * (1 - between(cosine, BLOCK_APART, BLOCK_TOGETHER)));
  }

  /** 0 up to one value, 1 from the other on. */
  private static double between(double x, double from, double to) {
    return Math.max(0, Math.min(1, (x - from) / (to - from)));
  }

  /**
   * A frame of one channel.
   *
   * @param x real and imaginary parts of the source by bin, as {@link
   *     kettlesieve.core.signal.Spectrogram#coefficients} gives them
   * @param y the same of the version, matched and turned to the source
   */
  void add(float[] x, float[] y, CellMask wanted, int frame) {
    double[] into = sums[pair.timeline().block(frame)];
    int bins = x.length / 2;
    if (cells[0] == null) {
      Arrays.setAll(cells, i -> new double[bins]);
    }
    for (int k = 1; k < bins; k++) {
      double px = (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
      double py = (double) y[2 * k] * y[2 * k] + (double) y[2 * k + 1] * y[2 * k + 1];
      double re = (double) y[2 * k] * x[2 * k] + (double) y[2 * k + 1] * x[2 * k + 1];
      cells[0][k] = px;
      cells[1][k] = py;
      cells[2][k] = Math.sqrt(py / (px + 1e-30)) * re;
    }
    for (int k = 1 + AROUND; k < bins - AROUND; k++) {
      double powerBefore = 0;
      double powerAfter = 0;
      double along = 0;
      for (int j = k - AROUND; j <= k + AROUND; j++) {
        powerBefore += cells[0][j];
        powerAfter += cells[1][j];
        along += cells[2][j];
      }
      int band = wanted.has(frame, k) ? pair.bands().ofBin(k) : -1;
      if (band >= 0) {
        before[band] += cells[0][k];
        after[band] += Math.min(cells[0][k], cells[1][k]);
      }
      if (powerAfter >= SANK * powerBefore) {
        continue;
      }
      double weight = Math.sqrt(Math.sqrt(powerBefore));
      boolean nothing = powerAfter <= GONE * powerBefore;
      double cosine = nothing ? 1 : along / powerAfter;
      if (!nothing) {
        into[0] += weight * cosine;
        into[1] += weight;
      }
      if (wanted.has(frame, k)) {
        into[2] += weight * cosine;
        into[3] += weight;
        if (nothing && band >= 0) {
          gone[pair.timeline().block(frame)][band] += weight;
        }
      }
    }
  }

  /** Which share of what wanted cells of a block lost is a loss, by band, 0 to 1. */
  public float[] shares(int block) {
    return shares[block];
  }
}
