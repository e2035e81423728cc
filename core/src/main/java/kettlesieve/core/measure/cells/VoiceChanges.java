package kettlesieve.core.measure.cells;

import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.BlockMeans;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * How much the voice itself was changed where it clearly stands above the noise. Of a third-octave
 * of a frame, S = D + N of the source and V of the version, the gain is read as |V|² over Re(V·S*):
 * for a processor that turns cells down by g it is g; for one that takes N away and leaves D it is
 * 1, because D and N have nothing to do with each other. What the gain differs by from its median
 * in the band is a change of the voice. Chance alone makes it differ by the square root of
 * N/(2·n·D) over n bins: that variance is taken off.
 */
public final class VoiceChanges {
  /** Of a pair. */
  public static final Analysis<VoiceChanges> OF = VoiceChanges::new;

  private static final double LEAST_SNR = 10;
  private static final int FEWEST_BINS = 3;
  private static final double LOWEST_HZ = 150;
  private static final double LOUDNESS = 0.25;
  private static final double MOMENT_SECONDS = 0.3;

  /** A change is heard as none, and as all there is, at these, dB. */
  private static final double LEAST_DB = -35;

  private static final double MOST_DB = -6;

  /** As far out of phase a gain is not told: it is what it is at most. */
  private static final double LEAST_COSINE = 1e-3;

  private static final int FEWEST_OF_A_BAND = 8;

  private final Pair pair;
  private final BlockMeans means;
  private final PlaceGrid places;
  private int count;

  /** What was read of the bands of a frame. */
  record Row(int frame, float[] gains, float[] weights, float[] chances) {}

  private VoiceChanges(Pair pair) throws NotMeasurableException {
    this.pair = pair;
    this.means = new BlockMeans(pair);
    this.places = new PlaceGrid(pair.timeline(), pair.bands().count());
    PhasePass pass = pair.shared(PhasePass.OF);
    List<Row> rows = pass.rows();
    PhasesKept phases = pass.kept();
    double usual = median(rows, -1, 1);
    for (int b = 0; b < pair.bands().count(); b++) {
      gather(rows, b, median(rows, b, usual), phases);
    }
  }

  /** Powers are averaged over moments, so that chance leaves little, and then heard in dB. */
  private void gather(List<Row> rows, int band, double usual, PhasesKept phases) {
    int moment = pair.framing().framesIn(MOMENT_SECONDS);
    double power = 0;
    double weight = 0;
    int frame = -1;
    for (Row row : rows) {
      if (!(row.weights()[band] > 0)) {
        continue;
      }
      // Another moment, or the next channel.
      if (frame >= 0 && row.frame() / moment != frame / moment) {
        add(frame, band, power / weight, weight, phases);
        power = 0;
        weight = 0;
      }
      frame = row.frame();
      double off = 1 - row.gains()[band] / usual;
      power += row.weights()[band] * (Math.min(1, off * off) - row.chances()[band]);
      weight += row.weights()[band];
      count++;
    }
    if (frame >= 0) {
      add(frame, band, power / weight, weight, phases);
    }
  }

  /** Reads a frame of one channel: see {@link PhasesKept#add}. */
  static Row row(Pair pair, int frame, float[] x, float[] y, float[] noise) {
    ThirdOctaveBands bands = pair.bands();
    Row row =
        new Row(
            frame, new float[bands.count()], new float[bands.count()], new float[bands.count()]);
    for (int b = 0; b < bands.count(); b++) {
      // Half the rate has no phase.
      int end = Math.min(bands.endBin(b), x.length / 2);
      int bins = end - bands.firstBin(b);
      if (bins < FEWEST_BINS || bands.firstBin(b) * pair.framing().binHz() < LOWEST_HZ) {
        continue;
      }
      double before = 0;
      double after = 0;
      double along = 0;
      double quiet = 0;
      for (int k = bands.firstBin(b); k < end; k++) {
        double xr = x[2 * k];
        double xi = x[2 * k + 1];
        double yr = y[2 * k];
        double yi = y[2 * k + 1];
        before += xr * xr + xi * xi;
        after += yr * yr + yi * yi;
        along += yr * xr + yi * xi;
        quiet += noise[k];
      }
      if (before <= LEAST_SNR * quiet || before <= 0) {
        continue;
      }
      double own = before - quiet;
      double least = LEAST_COSINE * Math.sqrt(before * after) + 1e-30;
      row.gains()[b] = (float) (after / Math.max(along, least));
      row.weights()[b] = (float) Math.pow(own, LOUDNESS);
      row.chances()[b] = (float) (quiet / (2 * own * bins));
    }
    return row;
  }

  /** The median gain of a band, or of all; where too few were read, another. */
  private static double median(List<Row> rows, int band, double otherwise) {
    double[] gains =
        rows.stream()
            .flatMapToDouble(
                row ->
                    IntStream.range(0, row.gains().length)
                        .filter(b -> (band < 0 || b == band) && row.weights()[b] > 0)
                        .mapToDouble(b -> row.gains()[b]))
            .toArray();
    return gains.length < FEWEST_OF_A_BAND ? otherwise : Math.max(1e-3, Statistics.median(gains));
  }

  private void add(int frame, int band, double power, double weight, PhasesKept phases) {
    double db = Math.max(LEAST_DB, Math.min(MOST_DB, 10 * Math.log10(Math.max(1e-9, power))));
    // What was taken with phases of its own is no change of the voice.
    double change = LEAST_DB + phases.share(pair.timeline().block(frame)) * (db - LEAST_DB);
    means.add(frame, change, weight);
    places.add(frame, band, change, weight);
  }

  /** Number of bands of frames that were judged. */
  public int count() {
    return count;
  }

  /** Mean change, dB, −35 to −6; NaN where nothing was judged. */
  public Estimate mean() {
    return means.estimate();
  }

  /** Where it was changed, dB. */
  public PlaceGrid places() {
    return places;
  }
}
