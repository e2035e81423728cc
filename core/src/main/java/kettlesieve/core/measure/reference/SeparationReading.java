package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** What the three ratios of the separation evaluation share. */
final class SeparationReading {
  private SeparationReading() {}

  /** The images form for stereo, the sources form for mono; both stand in the details. */
  static Reading of(String id, Pair pair, Separation.Kind kind) throws NotMeasurableException {
    List<Detail> details = new ArrayList<>();
    Separation sources = pair.shared(Separation.SOURCES);
    Estimate estimate = sources.estimate(kind);
    details.add(new Detail("sources", estimate.value(), "dB"));
    Separation shown = sources;
    if (pair.channels() > 1) {
      shown = pair.shared(Separation.IMAGES);
      estimate = shown.estimate(kind);
      details.add(new Detail("images", estimate.value(), "dB"));
      if (kind == Separation.Kind.SDR) {
        details.add(new Detail("isr", shown.estimate(Separation.Kind.ISR).value(), "dB"));
      }
    }
    PlaceGrid places = shown.places(kind);
    return Reading.of(id, estimate)
        .withDetails(details)
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 3, 1));
  }
}
