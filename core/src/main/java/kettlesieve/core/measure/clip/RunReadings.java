package kettlesieve.core.measure.clip;

import java.util.function.IntToDoubleFunction;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** Readings made of one value for each run of clipped samples. */
final class RunReadings {
  private RunReadings() {}

  /** Refuses soft clipping, whose tops have no level and no edges. */
  static Repairs cut(Pair pair) throws NotMeasurableException {
    Repairs repairs = pair.shared(Repairs.OF);
    if (pair.source().clipping().onlySoft()) {
      throw new NotMeasurableException(
          "the source is clipped softly: its tops are round and have no edges to judge");
    }
    return repairs;
  }

  /**
   * A share in per cent, from counts for each run.
   *
   * @param limit places under this are no spots
   * @throws NotMeasurableException if there is nothing to divide by
   */
  static Reading percent(
      String id,
      Pair pair,
      Repairs repairs,
      IntToDoubleFunction part,
      IntToDoubleFunction whole,
      double limit)
      throws NotMeasurableException {
    int blocks = pair.timeline().blocks();
    double[] parts = new double[blocks];
    double[] wholes = new double[blocks];
    PlaceGrid places = grid(pair);
    double total = 0;
    for (int i = 0; i < repairs.count(); i++) {
      double all = whole.applyAsDouble(i);
      if (all > 0) {
        int block = pair.timeline().block(repairs.frame(i));
        parts[block] += part.applyAsDouble(i);
        wholes[block] += all;
        total += all;
        places.add(repairs.frame(i), 0, 100 * part.applyAsDouble(i) / all, all);
      }
    }
    if (total == 0) {
      throw new NotMeasurableException("no clipped sample was changed by more than 0.01 dB");
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double sum = 0;
                  double of = 0;
                  for (int b = 0; b < blocks; b++) {
                    sum += w[b] * parts[b];
                    of += w[b] * wholes[b];
                  }
                  return of > 0 ? 100 * sum / of : Double.NaN;
                });
    return Reading.of(id, estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(true, limit, 3));
  }

  /**
   * A quantile of one value for each run, in dB between −60 and 60.
   *
   * @param value NaN where a run has none
   * @param limit places under this are no spots
   * @throws NotMeasurableException if fewer than 5 runs have a value
   */
  static Reading quantile(
      String id,
      Pair pair,
      Repairs repairs,
      IntToDoubleFunction value,
      double share,
      boolean notBelowZero,
      double limit)
      throws NotMeasurableException {
    BlockHistograms values = new BlockHistograms(pair.timeline(), -60, 60, 0.05);
    PlaceGrid places = grid(pair);
    int count = 0;
    for (int i = 0; i < repairs.count(); i++) {
      double v = value.applyAsDouble(i);
      if (Double.isFinite(v)) {
        values.add(pair.timeline().block(repairs.frame(i)), v, 1);
        places.add(repairs.frame(i), 0, v, 1);
        count++;
      }
    }
    if (count < 5) {
      throw new NotMeasurableException("fewer than five runs of clipped samples to judge by");
    }
    Estimate estimate = pair.bootstrap().estimate(w -> values.quantile(w, share));
    if (notBelowZero) {
      estimate = estimate.map(v -> Math.max(0, v));
    }
    return Reading.of(id, estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(true, limit, 1));
  }

  static PlaceGrid grid(Pair pair) {
    return PlaceGrid.ofTime(pair.timeline(), 20, pair.framing().sampleRate() / 2.0);
  }
}
