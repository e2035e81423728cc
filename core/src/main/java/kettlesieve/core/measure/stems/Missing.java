package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.cells.RoleTiles;
import kettlesieve.core.signal.Db;

/** What of a role is not in its stem. */
@AutoService(Measure.class)
public final class Missing implements SetMeasure {
  private static final double LEAST = 1e-6;
  private static final Declaration DECLARATION =
      new Declaration(
          "missing",
          "Missing material",
          Axis.LOST.in(Job.STEMS),
          "dB",
          false,
          "How much of the role's own sound did not come into its stem: overtones that were cut,"
              + " a passage that was not recognised. A stem that is only quieter has lost nothing.",
          "Gain of the stem over the mix in the role's cells, by slots of 0.1 s and third-octaves,"
              + " less its median, not above 0; mean of the power, each weighted by its energy to"
              + " the power 0.3.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    BlockRatio kept = new BlockRatio(set.source());
    double loud = 0;
    int tilesRead = 0;
    int bands = set.source().bands().count();
    PlaceGrid places = new PlaceGrid(set.source().timeline(), bands);
    int slotFrames = set.source().source().framing().framesIn(0.1);
    for (int s = 0; s < set.source().timeline().slots(); s++) {
      int block = set.source().timeline().blockOfSlot(s);
      for (int b = 0; b < bands; b++) {
        if (tiles.mix(s, b) > 0) {
          double weight = tiles.weight(s, b);
          kept.add(block, weight * tiles.kept(s, b), weight);
          loud += weight;
          tilesRead++;
          places.add(s * slotFrames, b, Db.ofPower(Math.max(LEAST, tiles.kept(s, b))), weight);
        }
      }
    }
    Estimate estimate = kept.estimate(share -> Db.ofPower(Math.max(LEAST, share)));
    return Reading.of(DECLARATION.id(), estimate)
        .with("level", Db.ofPower(tiles.level()), "dB")
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(false, -6, loud / Math.max(1, tilesRead)))
        .withNotes(List.of("cells told by " + set.cells().by().words()));
  }
}
