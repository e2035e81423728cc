package kettlesieve.core.measure.room;

import java.util.Arrays;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.signal.Db;

/**
 * How much of the room was taken out of the voice itself. In a wanted cell the late reverberation L
 * lies under the direct sound D, far below it, and the power of the cell tells nothing of it. But
 * who takes it away turns the cell's phase: with S = D + L and V = D + αL, what V holds beside its
 * best multiple of S has the power (1−α)²·|L|², half of it at right angles to S. A processor that
 * only turns cells up and down leaves their phases, and what it adds lies along S; of that a part
 * leaks to the right angle where gains change within a frame, which is taken off.
 */
public final class RoomInVoice {
  /** Of a pair whose source stands in a room. */
  public static final Analysis<RoomInVoice> OF = RoomInVoice::of;

  private static final double TILE_SECONDS = 0.1;
  private static final int FEWEST_OF_A_TILE = 4;

  /** Of what lies along S in excess, so much leaks to the right angle. */
  private static final double LEAK = 0.8;

  private static final double LEAST_DB = -20;

  /** Sums of one block or band: at right angles, along, late power, late power times gain. */
  private static final int SUMS = 4;

  private final Pair pair;
  private final double[][] byBlock;
  private final double[][][] byPlace;
  private final int[] frameOfBlock;
  private final boolean grown;
  private int count;

  private RoomInVoice(Pair pair, LateCells cells) {
    this.pair = pair;
    int[] once = new int[pair.timeline().blocks()];
    Arrays.fill(once, 1);
    this.grown = cells.tail().meanDb(once, cells.wanted()) > 0;
    int blocks = pair.timeline().blocks();
    this.byBlock = new double[blocks][SUMS];
    this.byPlace = new double[blocks][pair.bands().count()][SUMS];
    this.frameOfBlock = new int[blocks];
    Arrays.fill(frameOfBlock, -1);
    for (int c = 0; c < pair.channels(); c++) {
      walk(c, cells.ground());
    }
  }

  private static RoomInVoice of(Pair pair) throws NotMeasurableException {
    return new RoomInVoice(pair, pair.shared(LateCells.OF));
  }

  private void walk(int c, DirectGround ground) {
    int step = pair.framing().framesIn(TILE_SECONDS);
    CellMask wanted = ground.wanted(c);
    var lambda = ground.late(c);
    float gain = (float) Math.sqrt(pair.version().powerGain());
    for (int first = pair.firstFrame(); first < pair.endFrame(); first += step) {
      pair.stop().check();
      int frames = Math.min(step, pair.endFrame() - first);
      float[][] source = pair.source().spectrum(c).coefficients(first, frames);
      float[][] version = pair.versionSpectrum(c).coefficients(first, frames);
      Tile[] tiles = new Tile[pair.bands().count()];
      for (int b = 0; b < tiles.length; b++) {
        tiles[b] = new Tile();
      }
      float[][] room = new float[frames][];
      for (int f = 0; f < frames; f++) {
        room[f] = lambda.apply(first + f).clone();
        for (int k = 1; k < pair.framing().bins() - 1; k++) {
          int band = pair.bands().ofBin(k);
          if (band < 0) {
            continue;
          }
          if (wanted.has(first + f, k)) {
            tiles[band].fit(source[f], version[f], k, gain);
          }
        }
      }
      int block = pair.timeline().block(first);
      double[][] sums = new double[tiles.length][SUMS];
      for (int f = 0; f < frames; f++) {
        for (int k = 1; k < pair.framing().bins() - 1; k++) {
          int band = pair.bands().ofBin(k);
          if (band >= 0 && wanted.has(first + f, k) && tiles[band].count >= FEWEST_OF_A_TILE) {
            tiles[band].split(source[f], version[f], k, gain, room[f][k], sums[band]);
            count++;
          }
        }
      }
      for (int b = 0; b < tiles.length; b++) {
        // No more can be taken away than was there.
        double most = Math.min(1, sums[b][2] / Math.max(sums[b][0], 1e-30));
        sums[b][0] *= most;
        sums[b][1] *= most;
        for (int i = 0; i < SUMS; i++) {
          byBlock[block][i] += sums[b][i];
          byPlace[block][b][i] += sums[b][i];
        }
      }
      if (frameOfBlock[block] < 0) {
        frameOfBlock[block] = first;
      }
    }
  }

  /** The best multiple of the source in a third-octave for a tenth of a second. */
  private static final class Tile {
    private double re;
    private double im;
    private double source;
    private int count;

    void fit(float[] s, float[] v, int k, float gain) {
      double sr = s[2 * k];
      double si = s[2 * k + 1];
      double vr = gain * v[2 * k];
      double vi = gain * v[2 * k + 1];
      re += vr * sr + vi * si;
      im += vi * sr - vr * si;
      source += sr * sr + si * si;
      count++;
    }

    void split(float[] s, float[] v, int k, float gain, double late, double[] into) {
      double sr = s[2 * k];
      double si = s[2 * k + 1];
      double cr = re / source;
      double ci = im / source;
      double er = gain * v[2 * k] - (cr * sr - ci * si);
      double ei = gain * v[2 * k + 1] - (cr * si + ci * sr);
      double power = sr * sr + si * si;
      double across = ei * sr - er * si;
      double along = er * sr + ei * si;
      into[0] += across * across / power;
      into[1] += along * along / power;
      into[2] += late;
      into[3] += late * (cr * cr + ci * ci);
    }
  }

  /** Number of cells that were judged. */
  public int count() {
    return count;
  }

  /** What is left of the room in the voice, dB, −20 or more; NaN where there is none. */
  public double leftDb(int[] weights) {
    double[] sums = new double[SUMS];
    for (int b = 0; b < weights.length; b++) {
      for (int i = 0; i < SUMS; i++) {
        sums[i] += weights[b] * byBlock[b][i];
      }
    }
    return leftDb(sums);
  }

  private double leftDb(double[] sums) {
    if (!(sums[2] > 0)) {
      return Double.NaN;
    }
    double across = 2 * sums[0] / sums[2];
    double along = 2 * sums[1] / sums[2];
    double moved = Math.sqrt(Math.max(0, across - LEAK * Math.max(0, along - across)));
    // The phase cannot tell more room from less; what follows the voice can.
    double share = grown ? 1 + Math.min(3, moved) : Math.max(0, 1 - moved);
    return Math.max(LEAST_DB, Db.ofPower(Math.max(1e-12, share * share * sums[3] / sums[2])));
  }

  /** Where it is left. */
  public PlaceGrid places() {
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    for (int b = 0; b < byPlace.length; b++) {
      for (int band = 0; band < byPlace[b].length; band++) {
        double db = leftDb(byPlace[b][band]);
        if (Double.isFinite(db) && frameOfBlock[b] >= 0) {
          places.add(frameOfBlock[b], band, db, 1);
        }
      }
    }
    return places;
  }
}
