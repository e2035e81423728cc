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

/** Repaired samples that cannot be true. */
@AutoService(Measure.class)
public final class UnderClip implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "under-clip",
          "Under the clip level",
          Axis.INFO.in(Job.DECLIP),
          "%",
          false,
          "Share of the repaired samples that are smaller than the level they were "
              + "clipped at. The true value was at least as large, so they are certainly wrong; "
              + "but few of them do not mean a good repair.",
          "Of the clipped samples that differ from the source by more than 0.01 dB, those "
              + "under the clip level.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Repairs repairs = RunReadings.cut(pair);
    return RunReadings.percent(
        DECLARATION.id(), pair, repairs, repairs::under, repairs::repaired, 50);
  }
}
