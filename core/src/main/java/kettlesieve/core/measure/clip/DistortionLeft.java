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

/** Clipping that a repair left. */
@AutoService(Measure.class)
public final class DistortionLeft implements PairMeasure {
  private static final double INAUDIBLE_DB = 40;
  private static final double RELIEF_DB = 20;
  private static final double NEAR = 99;
  private static final Declaration DECLARATION =
      new Declaration(
          "distortion-left",
          "Distortion left",
          Axis.MISSED.in(Job.DECLIP),
          "dB",
          false,
          "How far the repaired tops still are from where they should be, against leaving them"
              + " clipped: 0 dB is no better, −10 dB a tenth of the error. Scored by how near the"
              + " original itself could be told to be.",
          "Squared distance of the clipped samples from the estimated original over that of the"
              + " source; details: the same of what is missing (under) and of what is too much"
              + " (over). Points: 99·(−x/U) for the uncertainty U of the estimate, the last point"
              + " for what comes nearer; lost points count less from 20 dB of sound over the"
              + " clipping on, not at all from 40 dB.",
          "Kettle Sieve's own definition; the estimate as in est-delta-sdr.");

  @Override
  public String scoredUnit() {
    return "points lost";
  }

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    EstimateErrors errors = pair.shared(EstimateErrors.OF);
    ClippedPassages passages = errors.passages();
    if (passages.audibleDb() >= INAUDIBLE_DB) {
      throw new NotMeasurableException("the clipping is hardly audible: nothing to miss");
    }
    if (passages.unknown()) {
      throw new NotMeasurableException(
          "two ways of estimating the original disagree: what is left cannot be told");
    }
    Estimate estimate = errors.estimate(s -> EstimateErrors.db(s.clipped(), s.need()));
    EstimateErrors.Sums whole = errors.whole();
    PlaceGrid places = errors.places(EstimateErrors.Sums::clipped);
    return Reading.of(DECLARATION.id(), estimate)
        .scoredAs(estimate.map(x -> shortfall(x, passages)))
        .with("under", EstimateErrors.db(whole.under(), whole.need()), "dB")
        .with("over", EstimateErrors.db(whole.over(), whole.need()), "dB")
        .with("uncertainty", passages.uncertaintyDb(), "dB")
        .withNotes(passages.hints())
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(-6, estimate.value() + 3), 1));
  }

  /** Points lost. */
  private static double shortfall(double x, ClippedPassages passages) {
    double u = passages.uncertaintyDb();
    double share = -x / u;
    double points =
        share < 1 ? Math.max(0, NEAR * share) : NEAR + Math.min(1, (-x - u) / RELIEF_DB);
    double heard = Math.max(0, Math.min(1, (INAUDIBLE_DB - passages.audibleDb()) / RELIEF_DB));
    return heard * (100 - points);
  }
}
