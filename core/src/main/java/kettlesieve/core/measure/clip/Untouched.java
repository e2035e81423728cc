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
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.signal.Db;

/** Whether good samples were left alone. */
@AutoService(Measure.class)
public final class Untouched implements PairMeasure {
  private static final double FLOOR_DB = -80;
  private static final double SPOT_DB = -40;
  private static final Declaration DECLARATION =
      new Declaration(
          "untouched",
          "Untouched samples",
          Axis.LOST.in(Job.DECLIP),
          "dB",
          false,
          "How much the samples that were never clipped were changed. A repair has no "
              + "reason to touch them: −60 dB and below is as good as untouched, at −15 dB "
              + "everything was worked over.",
          "Energy of version minus source over the samples that are further than 2 from "
              + "any clipped run, relative to their energy in the source, after matching; not "
              + "below −80 dB.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    Repairs repairs = pair.shared(Repairs.OF);
    Timeline timeline = pair.timeline();
    double[] error = new double[timeline.blocks()];
    double[] energy = new double[timeline.blocks()];
    PlaceGrid places = RunReadings.grid(pair);
    double mean = 0;
    for (int s = 0; s < timeline.slots(); s++) {
      error[timeline.blockOfSlot(s)] += repairs.keptError(s);
      energy[timeline.blockOfSlot(s)] += repairs.keptEnergy(s);
      mean += repairs.keptEnergy(s) / timeline.slots();
    }
    if (!(mean > 0)) {
      throw new NotMeasurableException("no sound is left beside the clipped samples");
    }
    for (int s = 0; s < timeline.slots(); s++) {
      // Against the excerpt's mean level: a change in a pause is no large share of anything.
      double db = ratioDb(repairs.keptError(s), Math.max(repairs.keptEnergy(s), mean));
      places.add(s * pair.framing().framesIn(0.1), 0, db, 1);
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double errors = 0;
                  double energies = 0;
                  for (int b = 0; b < error.length; b++) {
                    errors += w[b] * error[b];
                    energies += w[b] * energy[b];
                  }
                  return energies > 0 ? ratioDb(errors, energies) : Double.NaN;
                });
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(true, SPOT_DB, 1));
  }

  private static double ratioDb(double error, double energy) {
    return Math.max(FLOOR_DB, Db.ofPower(Math.max(error, 1e-30) / energy));
  }
}
