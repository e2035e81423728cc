package kettlesieve.core.measure.pass;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Source beside version in tiles of a third-octave by eight frames: what became of the voice where
 * it stands above the noise, S = D + N of the source and V of the version.
 *
 * <p>The gain of a tile is read as |V|² over Re(V·S*): for a processor that turns cells down by g
 * it is g; for one that takes N away and leaves D it is 1, because D and N have nothing to do with
 * each other.
 *
 * <p>What was taken away, S − V, tells which of the two it was: of what is turned down it is the
 * source itself, and goes with it; noise that was taken off a voice does not. In the tenth of the
 * tiles that stand highest over the noise the mean magnitude of the correlation of S − V with S is
 * 0.15 to 0.3 for a clean recording and for one with a part of the noise, and 0.4 to 0.7 for most
 * of what turns cells down. Where it is in doubt, as with wavelets and networks that come near a
 * clean recording, less is read. It is told of the whole: what was torn at random, by gains as
 * often up as down, or in a short part only, is hardly read.
 */
public final class VoiceTiles {
  /** Of a pair in denoise. */
  public static final Analysis<VoiceTiles> OF = pair -> pair.shared(PhasePass.OF).tiles();

  private static final int FEWEST_BINS = 2;
  private static final double LOWEST_HZ = 150;

  /** Tiles this far under the strongest, 50 dB, are silence. */
  private static final double SILENT = 1e-5;

  /** Voice over noise that is clear enough for a gain, 6 dB. */
  private static final double CLEAR_ENOUGH = 4;

  /**
   * The share of tiles, those that stand highest over the noise, that tell how it was processed:
   * where the noise flares up, lower ones are noise themselves.
   */
  private static final double CLEAREST = 0.1;

  /** Of what lies 50 dB under the source nothing is told. */
  private static final double TAKEN = 1e-5;

  private static final int FEWEST_TILES = 20;
  private static final int FEWEST_OF_A_BAND = 8;
  private static final double LOUDNESS = 0.25;

  /** As far out of phase a gain is not told: it is what it is at most. */
  private static final double LEAST_COSINE = 1e-3;

  /**
   * Mean correlation: up to the first noise was taken away, from the other on cells turned down.
   */
  private static final double APART = 0.24;

  private static final double TOGETHER = 0.40;

  private final Pair pair;
  private final List<Tile> tiles = new ArrayList<>();
  private double[] usual = new double[0];
  private double share;

  /** The tile of a band that is being filled. */
  private final double[][] sums;

  private int frames;

  /**
   * A tile.
   *
   * @param frame in its middle
   * @param band third-octave
   * @param cells in it
   * @param before energy of the source
   * @param after energy of the version
   * @param along real part of version times conjugate source
   * @param quiet energy of the noise, as it usually is
   * @param least the same as the pauses have it: without what it is thought to have risen by since
   */
  public record Tile(
      int frame,
      int band,
      int cells,
      double before,
      double after,
      double along,
      double quiet,
      double least) {
    /** Energy of the voice. */
    public double own() {
      return before - quiet;
    }

    /** Whether the voice stands so far over the noise. */
    public boolean stands(double ratio) {
      return own() > ratio * quiet;
    }

    /** How loud the voice is to the ear. */
    public double loudness() {
      return Math.pow(own(), LOUDNESS);
    }

    /**
     * Energy of the noise as far as it can be told under the voice, half-way in decibels between
     * what the pauses have and what it is thought to have risen to: where somebody speaks, the
     * voice itself is soon taken for noise that has risen.
     */
    public double noise() {
      return Math.sqrt(quiet * least);
    }

    double gain() {
      return after / Math.max(along, LEAST_COSINE * Math.sqrt(before * after) + 1e-30);
    }
  }

  VoiceTiles(Pair pair) {
    this.pair = pair;
    this.sums = new double[pair.bands().count()][5];
  }

  /** A frame of one channel: see {@link PhasesKept#add}. */
  void add(float[] x, float[] y, float[] noise, float[] pauses) {
    ThirdOctaveBands bands = pair.bands();
    frames++;
    for (int b = 0; b < sums.length; b++) {
      double[] sum = sums[b];
      for (int k = bands.firstBin(b); k < endBin(b); k++) {
        double xr = x[2 * k];
        double xi = x[2 * k + 1];
        double yr = y[2 * k];
        double yi = y[2 * k + 1];
        sum[0] += xr * xr + xi * xi;
        sum[1] += yr * yr + yi * yi;
        sum[2] += yr * xr + yi * xi;
        sum[3] += noise[k];
        sum[4] += pauses[k];
      }
    }
  }

  /** Half the rate has no phase. */
  private int endBin(int band) {
    return Math.min(pair.bands().endBin(band), pair.framing().bins() - 1);
  }

  /** After the frames of a tile. */
  void end(int frame) {
    for (int b = 0; b < sums.length; b++) {
      double[] sum = sums[b];
      int bins = endBin(b) - pair.bands().firstBin(b);
      boolean heard =
          bins >= FEWEST_BINS && pair.bands().firstBin(b) * pair.framing().binHz() >= LOWEST_HZ;
      if (heard && sum[0] > sum[3]) {
        tiles.add(new Tile(frame, b, bins * frames, sum[0], sum[1], sum[2], sum[3], sum[4]));
      }
      Arrays.fill(sum, 0);
    }
    frames = 0;
  }

  /** After the last. */
  void finish() {
    double strongest = tiles.stream().mapToDouble(Tile::own).max().orElse(0);
    tiles.removeIf(t -> t.own() <= SILENT * strongest);
    double all = median(t -> true, 1);
    usual = new double[sums.length];
    for (int b = 0; b < usual.length; b++) {
      int band = b;
      usual[b] = median(t -> t.band() == band, all);
    }
    share = told();
  }

  /** The median gain of clear tiles; where there are too few, another. */
  private double median(Predicate<Tile> of, double otherwise) {
    double[] gains =
        tiles.stream()
            .filter(t -> t.stands(CLEAR_ENOUGH) && of.test(t))
            .mapToDouble(Tile::gain)
            .toArray();
    return gains.length < FEWEST_OF_A_BAND ? otherwise : Math.max(1e-3, Statistics.median(gains));
  }

  private double told() {
    List<Tile> clearest = new ArrayList<>(tiles);
    clearest.removeIf(t -> !t.stands(CLEAR_ENOUGH));
    clearest.sort(Comparator.comparingDouble(t -> t.quiet() / t.own()));
    int most = (int) Math.max(FEWEST_TILES, CLEAREST * tiles.size());
    double sum = 0;
    double weights = 0;
    int count = 0;
    for (Tile t : clearest.subList(0, Math.min(most, clearest.size()))) {
      double gain = usual[t.band()];
      double taken = t.before() - 2 * t.along() / gain + t.after() / (gain * gain);
      if (taken > TAKEN * t.before()) {
        double with = (t.before() - t.along() / gain) / Math.sqrt(taken * t.before());
        sum += t.loudness() * Math.abs(with);
        weights += t.loudness();
        count++;
      }
    }
    return count < FEWEST_TILES ? 1 : between(sum / weights);
  }

  private static double between(double correlation) {
    return Math.max(0, Math.min(1, (correlation - APART) / (TOGETHER - APART)));
  }

  /** Those in which there is voice. */
  public List<Tile> all() {
    return tiles;
  }

  /** The gain of a tile against what is usual in its band. */
  public double gain(Tile tile) {
    return tile.gain() / usual[tile.band()];
  }

  /**
   * What of a version has nothing to do with the source, over what would be there if all noise had
   * been taken off: 0 where cells were turned up and down alone, (1 − α)² where a share α of the
   * noise was left, more where a tile was torn. Of V = D + αN the rest beside the best multiple of
   * S = D + N has the power (1 − α)²·D²N²/S².
   */
  public double takenOff(Tile tile) {
    double gain = usual[tile.band()];
    double rest = tile.after() - tile.along() * tile.along() / tile.before();
    return rest / (gain * gain) / (tile.noise() * (1 - tile.noise() / tile.before()));
  }

  /** How far the version is the source, turned up and down: 0 to 1. */
  public double share() {
    return share;
  }
}
