package kettlesieve.core.measure.voice;

import java.util.function.ToDoubleFunction;
import kettlesieve.core.measure.BlockMeans;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.pass.PhasePass;
import kettlesieve.core.measure.pass.PhasesKept;
import kettlesieve.core.measure.pass.VoiceTiles;
import kettlesieve.core.signal.Db;

/**
 * What something in the {@link VoiceTiles} of a pair comes to: mean of decibels, weighted by how
 * loud the voice is there. Where a sound of its own was taken out of the source, and cells were not
 * turned down, nothing is read.
 */
public final class TileMeans {
  /** What counts as nothing, dB. */
  public static final double NOTHING_DB = -35;

  private final BlockMeans means;
  private final PlaceGrid places;
  private int count;

  /**
   * @param stands how far the voice stands over the noise at least, as a ratio of energies
   * @param power of a tile; what is at or below {@link #NOTHING_DB} counts as that
   * @param mostDb and what is above this as this
   */
  public TileMeans(Pair pair, double stands, ToDoubleFunction<VoiceTiles.Tile> power, double mostDb)
      throws NotMeasurableException {
    this.means = new BlockMeans(pair);
    this.places = new PlaceGrid(pair.timeline(), pair.bands().count());
    VoiceTiles tiles = pair.shared(VoiceTiles.OF);
    PhasesKept phases = pair.shared(PhasePass.OF).kept();
    for (VoiceTiles.Tile tile : tiles.all()) {
      if (!tile.stands(stands)) {
        continue;
      }
      double db = Db.ofPower(Math.max(1e-9, power.applyAsDouble(tile)));
      double held = Math.max(NOTHING_DB, Math.min(mostDb, db));
      double share =
          Math.min(tiles.share(), phases.shares(pair.timeline().block(tile.frame()))[tile.band()]);
      double value = NOTHING_DB + share * (held - NOTHING_DB);
      means.add(tile.frame(), value, tile.loudness());
      places.add(tile.frame(), tile.band(), value, tile.loudness());
      count++;
    }
  }

  /** Number of tiles. */
  public int count() {
    return count;
  }

  /** The mean, dB; NaN where there are no tiles. */
  public Estimate mean() {
    return means.estimate();
  }

  /** Where it is, dB. */
  public PlaceGrid places() {
    return places;
  }
}
