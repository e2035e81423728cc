package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.reference.BssEval.Form;

/** What the ratios of the separation evaluation share. */
final class SeparationReading {
  /** Softer moments of a true stem tell nothing of a ratio. */
  private static final double HEARD_DB = 40;

  private SeparationReading() {}

  /** The images form for stereo, the sources form for mono; both stand in the details. */
  static Reading of(String id, Pair pair, SeparationSums.Kind kind) throws NotMeasurableException {
    List<Detail> details = new ArrayList<>();
    Separation separation = pair.shared(Separation.OF);
    SeparationSums shown = separation.sums(Form.SOURCES);
    Estimate estimate = shown.estimate(kind);
    details.add(new Detail("sources", estimate.value(), "dB"));
    if (pair.channels() > 1) {
      shown = separation.sums(Form.IMAGES);
      estimate = shown.estimate(kind);
      details.add(new Detail("images", estimate.value(), "dB"));
      if (kind == SeparationSums.Kind.SDR) {
        details.add(new Detail("isr", shown.estimate(SeparationSums.Kind.ISR).value(), "dB"));
      }
    }
    PlaceGrid places = shown.places(kind, pair.source().pauses().activity()::active);
    return reading(id, estimate, details, places);
  }

  /** The same of a stem against the true ones, with the median over seconds. */
  static Reading of(String id, StemSet set, String role, SeparationSums.Kind kind)
      throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    StemSeparation told = StemSeparation.of(set);
    List<Detail> details = new ArrayList<>();
    Form form = Form.SOURCES;
    if (kind != SeparationSums.Kind.ISR) {
      details.add(new Detail("sources", told.sums(form, role).estimate(kind).value(), "dB"));
    }
    if (set.mix().channels() > 1 || kind == SeparationSums.Kind.ISR) {
      form = Form.IMAGES;
      details.add(new Detail("images", told.sums(form, role).estimate(kind).value(), "dB"));
    }
    SeparationSums shown = told.sums(form, role);
    details.add(new Detail("median", shown.medianOfSeconds(kind), "dB"));
    if (kind == SeparationSums.Kind.SIR) {
      told.bySource(form, role).forEach((r, db) -> details.add(new Detail(r, db, "dB")));
    }
    return reading(id, shown.estimate(kind), details, shown.places(kind, HEARD_DB));
  }

  private static Reading reading(
      String id, Estimate estimate, List<Detail> details, PlaceGrid places) {
    return Reading.of(id, estimate)
        .withDetails(details.stream().filter(d -> Double.isFinite(d.value())).toList())
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 3, 1));
  }
}
