package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
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
          "How far what is lacking of the role's own sound lies under it: overtones that were cut,"
              + " a passage that was not recognised. At 0 dB all of it is gone, under −25 dB nobody"
              + " misses it. A stem that is only quieter has lost nothing.",
          "By true stems: target over what filtering explains, ISR, turned round. Else, by"
              + " third-octaves: how far the stem's regression (ridge 5 %) on what the other tools"
              + " agree is the role lies under the upper tenth of all tools (the most of four or"
              + " fewer), squared, times the role's energy, against its whole energy. Scored: the"
              + " points that the whole error costs, by the share of its energy that is lacking."
              + " Spots and details of chains: gain of the stem over the mix in the role's own cells,"
              + " less its median.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public String scoredUnit() {
    return "points";
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    StemVerdict verdict = StemVerdict.of(set, role);
    List<String> notes = new ArrayList<>(verdict.notes());
    Reading reading = verdict.reading(DECLARATION.id(), StemVerdict.Kind.LACKING);
    Optional<RoleTiles> known = tiles(set, role);
    if (known.isEmpty()) {
      return reading.withNotes(notes);
    }
    RoleTiles tiles = known.get();
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
    List<Detail> details = new ArrayList<>();
    double kept = kept(set, tiles).value();
    details.add(new Detail("level", Db.ofPower(tiles.level()), "dB"));
    details.add(new Detail("kept", kept, "dB"));
    chain(set, role, kept, details, notes);
    return reading
        .withDetails(details)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(false, -6, loud / Math.max(1, tilesRead)))
        .withNotes(notes);
  }

  /** The role's own cells; empty where there are too few to say where anything is lacking. */
  private static Optional<RoleTiles> tiles(StemSet set, String role) {
    try {
      return Optional.of(new RoleTiles(set, role));
    } catch (NotMeasurableException e) {
      return Optional.empty();
    }
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
