package kettlesieve.core.measure.clip;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;

/** Clipped samples that are still flat. */
@AutoService(Measure.class)
public final class FlatTopsLeft implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "flat-tops-left",
          "Flat tops left",
          Axis.INFO.in(Job.DECLIP),
          "%",
          false,
          "Share of the clipped samples that still stand in a flat top. 100 % means that "
              + "nothing was repaired.",
          "Of the source's clipped samples, those that stand in a run of 3 or more within "
              + "0.01 dB of one level in the version.",
          "Kettle Sieve's own definition; at 0.1 dB true peaks at 48 kHz would read 27 to "
              + "60 %.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Repairs repairs = RunReadings.cut(pair);
    return RunReadings.percent(
        DECLARATION.id(), pair, repairs, repairs::flat, repairs::samples, 20);
  }
}
