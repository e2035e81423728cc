package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Db;

/** What of a role is not in its stem. */
@AutoService(Measure.class)
public final class Missing implements SetMeasure {
  private static final double LEAST = 1e-6;

  /** What a step may take without being worth a word. */
  private static final double CLEARLY_DB = 0.3;

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
    int bands = set.source().bands().count();
    PlaceGrid places = new PlaceGrid(set.source().timeline(), bands);
    double loud = 0;
    int tilesRead = 0;
    int slotFrames = set.source().source().framing().framesIn(0.1);
    for (int s = 0; s < set.source().timeline().slots(); s++) {
      for (int b = 0; b < bands; b++) {
        if (tiles.mix(s, b) > 0) {
          double weight = tiles.weight(s, b);
          loud += weight;
          tilesRead++;
          places.add(s * slotFrames, b, Db.ofPower(Math.max(LEAST, tiles.kept(s, b))), weight);
        }
      }
    }
    Estimate estimate = kept(set, tiles);
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("level", Db.ofPower(tiles.level()), "dB"));
    List<String> notes = new ArrayList<>(List.of("cells told by " + set.cells().by().words()));
    chain(set, role, estimate.value(), details, notes);
    return Reading.of(DECLARATION.id(), estimate)
        .withDetails(details)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(false, -6, loud / Math.max(1, tilesRead)))
        .withNotes(notes);
  }

  private static Estimate kept(StemSet set, RoleTiles tiles) {
    BlockRatio kept = new BlockRatio(set.source());
    for (int s = 0; s < set.source().timeline().slots(); s++) {
      int block = set.source().timeline().blockOfSlot(s);
      for (int b = 0; b < set.source().bands().count(); b++) {
        if (tiles.mix(s, b) > 0) {
          double weight = tiles.weight(s, b);
          kept.add(block, weight * tiles.kept(s, b), weight);
        }
      }
    }
    return kept.estimate(share -> Db.ofPower(Math.max(LEAST, share)));
  }

  /** What was missing after each step of a chain, and which step took most. */
  private static void chain(
      StemSet set, String role, double whole, List<Detail> details, List<String> notes)
      throws NotMeasurableException {
    List<MatchedStems.Step> steps = set.stems().chains().getOrDefault(role, List.of());
    if (steps.isEmpty()) {
      return;
    }
    double before = 0;
    double most = 0;
    String worst = "";
    for (int i = 0; i <= steps.size(); i++) {
      boolean last = i == steps.size();
      double after = last ? whole : kept(set, tiles(set, role, steps.get(i))).value();
      if (!last) {
        details.add(new Detail("step " + (i + 1), after, "dB"));
      }
      if (before - after > most) {
        most = before - after;
        worst =
            last
                ? "in the last step, out of " + steps.get(i - 1).words()
                : "in " + steps.get(i).words();
      }
      before = after;
    }
    notes.add(
        most < CLEARLY_DB
            ? "no step of its chain lost anything to speak of"
            : String.format(Locale.ROOT, "most of it, %.1f dB, was lost %s", most, worst));
  }

  private static RoleTiles tiles(StemSet set, String role, MatchedStems.Step step)
      throws NotMeasurableException {
    return new RoleTiles(set, role, step.words());
  }
}
