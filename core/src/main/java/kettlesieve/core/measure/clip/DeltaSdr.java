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
import kettlesieve.core.measure.Reading;

/** How much nearer to the truth the repair came. */
@AutoService(Measure.class)
public final class DeltaSdr implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "delta-sdr",
          "SDR gain",
          Axis.INFO.in(Job.DECLIP),
          "dB",
          true,
          "How much nearer to the clean recording the repair came, on the clipped "
              + "samples. 0 dB: no better than leaving it clipped. The most reliable figure of "
              + "a repair there is.",
          "Signal-to-distortion ratio on the clipped samples, version minus source; "
              + "detail: over all samples.",
          "Záviška, Rajmic, Ozerov & Rencker, IEEE J. Sel. Top. Signal Process. 15, 2021.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    ClippedErrors errors = new ClippedErrors(pair);
    Estimate estimate = errors.gain(true);
    return Reading.of(DECLARATION.id(), estimate)
        .with("overall", errors.gain(false).value(), "dB")
        .withTrace(errors.trace(true))
        .withSpots(errors.spots(true, Math.min(0, estimate.value() - 3)));
  }
}
