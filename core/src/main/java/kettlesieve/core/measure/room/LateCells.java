package kettlesieve.core.measure.room;

import java.util.Arrays;
import java.util.stream.IntStream;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Spectrogram;

/**
 * What became of the cells of a room's tail: gains in tail frames and in voice frames, and how
 * unevenly what is left of the tail is spread.
 */
public final class LateCells {
  /** Those of a pair whose source stands in a room. */
  public static final Analysis<LateCells> OF = LateCells::of;

  private static final double LEAST_DB = -40;
  private static final double LARGEST_DB = 20;
  private static final int ENOUGH_CELLS = 50;

  /** Third-octaves with enough cells below which noise covers the room. */
  public static final int FEWEST_BANDS = 3;

  private static final double NEAR_HZ = 375;

  private final Pair pair;
  private final DirectGround ground;
  private final Gains tail;
  private final Gains voice;
  private final Gains wanted;
  private final double[][] before;
  private final double[][] after;
  private final PlaceGrid uneven;
  private int deep;

  /** Gains by third-octave band. */
  public static final class Gains {
    private final BlockHistograms[] bands;
    private final int[] count;
    private final PlaceGrid places;
    private final int blocks;

    private Gains(Pair pair) {
      blocks = pair.timeline().blocks();
      bands =
          IntStream.range(0, pair.bands().count())
              .mapToObj(b -> new BlockHistograms(pair.timeline(), LEAST_DB, LARGEST_DB, 0.1))
              .toArray(BlockHistograms[]::new);
      count = new int[bands.length];
      places = new PlaceGrid(pair.timeline(), bands.length);
    }

    private void add(int frame, int block, int band, double db) {
      bands[band].add(block, db, 1);
      count[band]++;
      places.add(frame, band, db, 1);
    }

    /** Number of bands with enough cells. */
    public int usable() {
      return (int) Arrays.stream(count).filter(n -> n >= ENOUGH_CELLS).count();
    }

    private double medianDb(int band, int[] weights) {
      return count[band] >= ENOUGH_CELLS ? bands[band].median(weights) : Double.NaN;
    }

    /**
     * Mean over the usable bands of their median gains, dB, less the median gain of the band's
     * wanted sound where there is enough of that: what a filter takes of both is not dried.
     */
    public double meanDb(int[] weights, Gains wanted) {
      double sum = 0;
      int n = 0;
      for (int b = 0; b < bands.length; b++) {
        double median = medianDb(b, weights);
        if (Double.isFinite(median)) {
          double own = wanted.medianDb(b, weights);
          sum += Double.isFinite(own) ? median - own : median;
          n++;
        }
      }
      return n == 0 ? Double.NaN : sum / n;
    }

    /** Gains of each band over the whole recording, less those of the wanted sound, dB. */
    public double[] perBand(Gains wanted) {
      int[] once = new int[blocks];
      Arrays.fill(once, 1);
      double[] perBand = places.perBand();
      for (int b = 0; b < perBand.length; b++) {
        double own = wanted.medianDb(b, once);
        perBand[b] -= Double.isFinite(own) ? own : 0;
      }
      return perBand;
    }

    /** Where the gains come from. */
    public PlaceGrid places() {
      return places;
    }
  }

  private LateCells(Pair pair, DirectGround ground) {
    this.pair = pair;
    this.ground = ground;
    this.tail = new Gains(pair);
    this.voice = new Gains(pair);
    this.wanted = new Gains(pair);
    this.before = new double[pair.timeline().blocks()][3];
    this.after = new double[pair.timeline().blocks()][3];
    this.uneven = new PlaceGrid(pair.timeline(), pair.bands().count());
    for (int c = 0; c < pair.channels(); c++) {
      walk(c);
    }
  }

  private static LateCells of(Pair pair) throws NotMeasurableException {
    return new LateCells(pair, ground(pair));
  }

  /** The room that a pair's source stands in. */
  static DirectGround ground(Pair pair) throws NotMeasurableException {
    if (!(pair.ground() instanceof DirectGround ground)) {
      throw new NotMeasurableException("the room's tail is judged in the job dereverb only");
    }
    return ground;
  }

  private void walk(int c) {
    int bins = pair.framing().bins();
    int near = (int) Math.max(1, Math.round(NEAR_HZ / pair.framing().binHz()));
    float gain = (float) pair.version().powerGain();
    Spectrogram source = pair.source().spectrum(c);
    Spectrogram version = pair.versionSpectrum(c);
    BoxMean sourceMean = new BoxMean(2, bins, pair.framing().count(), source::powers);
    BoxMean versionMean = new BoxMean(2, bins, pair.endFrame(), version::powers);
    CellMask late = ground.unwanted(c);
    CellMask direct = ground.wanted(c);
    CellMask deepMask = ground.deep(c);
    var lambda = ground.late(c);
    double[] x = new double[bins];
    double[] y = new double[bins];
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      float[] l = lambda.apply(t);
      boolean isTail = ground.tail(c, t);
      boolean isVoice = ground.voice(c, t);
      if (!isTail && !isVoice) {
        continue;
      }
      int block = pair.timeline().block(t);
      float[] s = sourceMean.row(t);
      float[] v = versionMean.row(t);
      boolean any = false;
      for (int k = 0; k < bins; k++) {
        int band = pair.bands().ofBin(k);
        boolean isWanted = isVoice && direct.has(t, k);
        if (band < 0 || !isWanted && !late.has(t, k)) {
          continue;
        }
        double db =
            Math.max(
                LEAST_DB,
                Math.min(
                    LARGEST_DB, Db.ofPower(Math.max(gain * v[k], 1e-30) / Math.max(s[k], 1e-30))));
        (isWanted ? wanted : isVoice ? voice : tail).add(t, block, band, db);
        any |= deepMask.has(t, k);
      }
      if (any) {
        float[] own = source.powers(t);
        float[] other = version.powers(t);
        for (int k = 0; k < bins; k++) {
          x[k] = deepMask.has(t, k) ? 1.02 * own[k] / l[k] : Double.NaN;
          y[k] = deepMask.has(t, k) ? (gain * other[k] + 0.02 * own[k]) / l[k] : Double.NaN;
        }
        gather(t, block, x, near, before, null);
        deep += gather(t, block, y, near, after, uneven);
      }
    }
  }

  /** Each cell over the mean of the deep cells near it, if there are enough of them. */
  private int gather(int t, int block, double[] x, int near, double[][] into, PlaceGrid places) {
    int gathered = 0;
    for (int k = 0; k < x.length; k++) {
      if (Double.isNaN(x[k])) {
        continue;
      }
      double sum = 0;
      int n = 0;
      for (int i = Math.max(0, k - near); i <= Math.min(x.length - 1, k + near); i++) {
        if (!Double.isNaN(x[i])) {
          sum += x[i];
          n++;
        }
      }
      if (2 * n >= near && sum > 0) {
        double z = x[k] / (sum / n);
        into[block][0] += z;
        into[block][1] += z * z;
        into[block][2]++;
        gathered++;
        if (places != null && pair.bands().ofBin(k) >= 0) {
          places.add(t, pair.bands().ofBin(k), z * z, 1);
        }
      }
    }
    return gathered;
  }

  /** What the source's decay is like. */
  public DirectGround ground() {
    return ground;
  }

  /** Gains after the voice. */
  public Gains tail() {
    return tail;
  }

  /** Gains under the voice. */
  public Gains voice() {
    return voice;
  }

  /** Gains of the voice itself. */
  public Gains wanted() {
    return wanted;
  }

  /** Number of deep late cells. */
  public int deep() {
    return deep;
  }

  /**
   * ln of the mean square over the squared mean of what is left of the tail, version over source.
   */
  public double unevenness(int[] weights) {
    return spread(after, weights) - spread(before, weights);
  }

  /** Where what is left is uneven. */
  public PlaceGrid uneven() {
    return uneven;
  }

  private static double spread(double[][] blocks, int[] weights) {
    double sum = 0;
    double squares = 0;
    double n = 0;
    for (int b = 0; b < blocks.length; b++) {
      sum += weights[b] * blocks[b][0];
      squares += weights[b] * blocks[b][1];
      n += weights[b] * blocks[b][2];
    }
    return n > 0 ? Math.log(squares / n / (sum / n * (sum / n))) : Double.NaN;
  }
}
