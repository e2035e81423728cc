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

/** What the ratios of the separation evaluation share. */
final class SeparationReading {
  /** Softer moments of a true stem tell nothing of a ratio. */
  private static final double HEARD_DB = 40;

  private SeparationReading() {}

  /** The images form for stereo, the sources form for mono; both stand in the details. */
  static Reading of(String id, Pair pair, SeparationSums.Kind kind) throws NotMeasurableException {
    List<Detail> details = new ArrayList<>();
    SeparationSums sources = pair.shared(Separation.SOURCES);
    Estimate estimate = sources.estimate(kind);
    details.add(new Detail("sources", estimate.value(), "dB"));
    SeparationSums shown = sources;
    if (pair.channels() > 1) {
      shown = pair.shared(Separation.IMAGES);
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
    boolean stereo = set.mix().channels() > 1;
    boolean ofImages = kind == SeparationSums.Kind.ISR;
    List<Detail> details = new ArrayList<>();
    StemSeparation told = null;
    if (!ofImages) {
      told = set.shared(StemSeparation.SOURCES);
      details.add(new Detail("sources", told.of(role).estimate(kind).value(), "dB"));
    }
    if (stereo || ofImages) {
      told = set.shared(StemSeparation.IMAGES);
      details.add(new Detail("images", told.of(role).estimate(kind).value(), "dB"));
    }
    SeparationSums shown = told.of(role);
    details.add(new Detail("median", shown.medianOfSeconds(kind), "dB"));
    if (kind == SeparationSums.Kind.SIR) {
      told.bySource(role).forEach((r, db) -> details.add(new Detail(r, db, "dB")));
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
