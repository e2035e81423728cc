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

/** Kinks where a repair begins and ends. */
@AutoService(Measure.class)
public final class EdgeCrackle implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "edge-crackle",
          "Edge crackle",
          Axis.ADDED.in(Job.DECLIP),
          "dB",
          false,
          "How much the seams of the repaired tops stick out, more than the clipping "
              + "itself did. It sounds like fine crackle on loud words.",
          "Residual of an autoregressive model of order 20 within 2 samples of both edges "
              + "of a run, RMS over its median around the run; version minus source, median "
              + "over the runs, not below 0.",
          "Kettle Sieve's own definition; residual after Godsill & Rayner 1998.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Repairs repairs = RunReadings.cut(pair);
    return RunReadings.quantile(DECLARATION.id(), pair, repairs, repairs::crackleDb, 0.5, true, 3);
  }
}
