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

/** Tops that were raised too far. */
@AutoService(Measure.class)
public final class Overshoot implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "overshoot",
          "Overshoot",
          Axis.INFO.in(Job.DECLIP),
          "dB",
          false,
          "How far the wildest rebuilt tops rise above what the slopes at their edges "
              + "allow. From about 4 dB on they are heard as ticks and thumps.",
          "99th percentile over the runs of the version's highest sample over L + (n + "
              + "1)/4 · steepest edge slope, with L the clip level and n the length of the run "
              + "in samples.",
          "Kettle Sieve's own definition: the height of the parabola with these slopes.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Repairs repairs = RunReadings.cut(pair);
    return RunReadings.quantile(DECLARATION.id(), pair, repairs, repairs::excessDb, 0.99, false, 1);
  }
}
