package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import java.util.stream.IntStream;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.ThirdOctaveBands;

/** What became of cells that hold only noise while wanted sound goes on, band by band. */
public final class UnwantedGains implements Gatherer {
  /** What a pass over what the pauses tell gathered. */
  public static final Analysis<UnwantedGains> OF =
      pair -> pair.shared(CellPass.OF_PAUSES).get(UnwantedGains.class);

  private static final double GAIN_STEP_DB = 0.25;

  private final ThirdOctaveBands bands;
  private final BlockHistograms[] gains;
  private final int[] count;
  private final PlaceGrid places;
  private final double[] sums;
  private final int[] counts;

  UnwantedGains(Pair pair) {
    this.bands = pair.bands();
    this.gains =
        IntStream.range(0, bands.count())
            .mapToObj(
                b -> new BlockHistograms(pair.timeline(), Pair.GAIN_FLOOR_DB, 20, GAIN_STEP_DB))
            .toArray(BlockHistograms[]::new);
    this.count = new int[bands.count()];
    this.places = new PlaceGrid(pair.timeline(), bands.count());
    this.sums = new double[bands.count()];
    this.counts = new int[bands.count()];
  }

  @Override
  public void add(CellFrame cells) {
    if (!cells.active()) {
      return;
    }
    CellFrame.Smoothed smoothed = cells.smoothed();
    Arrays.fill(sums, 0);
    Arrays.fill(counts, 0);
    for (int k = cells.nextUnwanted(0); k >= 0; k = cells.nextUnwanted(k + 1)) {
      int band = bands.ofBin(k);
      if (band >= 0 && !cells.wanted(k)) {
        double db = smoothed.gainDb(k);
        gains[band].add(cells.block(), db, 1);
        sums[band] += db;
        counts[band]++;
      }
    }
    for (int b = 0; b < counts.length; b++) {
      if (counts[b] > 0) {
        count[b] += counts[b];
        places.add(cells.frame(), b, sums[b] / counts[b], counts[b]);
      }
    }
  }

  /** Number of such cells of a band. */
  public int count(int band) {
    return count[band];
  }

  /** A quantile of the gains of a band's cells, dB, blocks weighted; NaN if there are none. */
  public double quantileDb(int band, int[] blockWeights, double share) {
    // Within a bin a quantile is interpolated: what is all alike must read what it is.
    return gains[band].quantile(blockWeights, share) + (0.5 - share) * GAIN_STEP_DB;
  }

  /** Where the gains come from. */
  public PlaceGrid places() {
    return places;
  }

  /** Gathered where the pauses tell what is wanted. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(
          UnwantedGains.class,
          (pair, ground) -> !(ground instanceof DirectGround),
          UnwantedGains::new);
    }
  }
}
