package kettlesieve.core.measure.reference;

import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Separation;

/** What the three ratios of the separation evaluation share. */
final class SeparationReading {
  private SeparationReading() {}

  /** The images form for stereo, the sources form for mono; both stand in the details. */
  static Reading of(String id, Pair pair, Separation.Kind kind) throws NotMeasurableException {
    Map<String, Double> details = new LinkedHashMap<>();
    Separation sources = separation(pair, false);
    Estimate estimate = sources.estimate(kind);
    details.put("sources", estimate.value());
    Separation shown = sources;
    if (pair.channels() > 1) {
      shown = separation(pair, true);
      estimate = shown.estimate(kind);
      details.put("images", estimate.value());
      if (kind == Separation.Kind.SDR) {
        details.put("isr", shown.estimate(Separation.Kind.ISR).value());
      }
    }
    PlaceGrid places = shown.places(kind);
    return Reading.of(id, estimate)
        .withDetails(details)
        .withTrace(places.trace())
        .withSpots(places.spots(false, estimate.value() - 3, 1));
  }

  private static Separation separation(Pair pair, boolean images) throws NotMeasurableException {
    try {
      return pair.separation(images);
    } catch (IllegalArgumentException e) {
      throw new NotMeasurableException(
          "the clean recording cannot be told from the noise here: " + e.getMessage());
    }
  }
}
