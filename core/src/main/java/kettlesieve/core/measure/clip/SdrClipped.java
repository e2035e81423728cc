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

/** How true the rebuilt tops are. */
@AutoService(Measure.class)
public final class SdrClipped implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "sdr-clipped",
          "SDR on clipped",
          Axis.INFO.in(Job.DECLIP),
          "dB",
          true,
          "How much stronger the clean recording is than the error, on the clipped "
              + "samples alone: how true the rebuilt tops are.",
          "10·log10(|r|² / |r − v|²) over the samples that are clipped in the source; r "
              + "the clean recording, v the matched version; detail: over all samples.",
          "Záviška, Rajmic, Ozerov & Rencker, IEEE J. Sel. Top. Signal Process. 15, 2021.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    ClippedErrors errors = new ClippedErrors(pair);
    Estimate estimate = errors.ofVersion(true);
    return Reading.of(DECLARATION.id(), estimate)
        .with("overall", errors.ofVersion(false).value(), "dB")
        .withTrace(errors.trace(false))
        .withSpots(errors.spots(false, estimate.value() - 3));
  }
}
