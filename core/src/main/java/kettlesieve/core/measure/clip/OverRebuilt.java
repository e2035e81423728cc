package kettlesieve.core.measure.clip;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** Tops that were raised too far. */
@AutoService(Measure.class)
public final class OverRebuilt implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "over-rebuilt",
          "Rebuilt too far",
          Axis.ADDED.in(Job.DECLIP),
          "dB",
          false,
          "How much too far the tops were raised, against what the clipping had taken off. Over"
              + " +3 dB they are heard as ticks and thumps.",
          "Squared distance above the estimated original at clipped samples, over that of the"
              + " source below it.",
          "Kettle Sieve's own definition; the estimate as in est-delta-sdr.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    EstimateErrors errors = pair.shared(EstimateErrors.OF);
    Estimate estimate = errors.estimate(s -> EstimateErrors.db(s.over(), s.need()));
    PlaceGrid places = errors.places(EstimateErrors.Sums::over);
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }
}
