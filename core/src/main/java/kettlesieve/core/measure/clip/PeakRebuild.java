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

/** How far tops were raised. */
@AutoService(Measure.class)
public final class PeakRebuild implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "peak-rebuild",
          "Peak rebuild",
          Axis.INFO.in(Job.DECLIP),
          "dB",
          false,
          "How far the rebuilt tops rise above the clip level, as a rule. 0 dB: nothing "
              + "was rebuilt. Whether it is enough, only a clean recording can tell.",
          "Median over the runs of the version's highest sample over the clip level.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Repairs repairs = RunReadings.cut(pair);
    return RunReadings.quantile(DECLARATION.id(), pair, repairs, repairs::riseDb, 0.5, false, 0.5);
  }
}
