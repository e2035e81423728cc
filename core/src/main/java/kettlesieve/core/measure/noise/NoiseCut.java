package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** How much quieter the pauses have become. */
@AutoService(Measure.class)
public final class NoiseCut implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "noise-cut",
          "Noise cut",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB),
          "dB",
          false,
          "How much quieter the pauses are than in the source. 8 dB is a clear but partial step,"
              + " 20 dB a strong one, 45 dB and more total removal.",
          "Median pause level of the source minus that of the version, 200–8,000 Hz, after"
              + " matching.",
          "The marks of what is much are common practice.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    PauseLevels before = pair.ofSource(PauseLevels.OF_SOURCE);
    PauseLevels after = pair.shared(PauseLevels.OF_VERSION);
    if (after.count() == 0) {
      throw new NotMeasurableException("the version covers none of the pauses");
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> before.medianDb(pair.timeline(), w) - after.medianDb(pair.timeline(), w));
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    PlaceGrid single = new PlaceGrid(pair.timeline(), 1);
    int j = 0;
    for (int i = 0; i < after.count(); i++) {
      while (before.frame(j) != after.frame(i)) {
        j++;
      }
      single.add(after.frame(i), 0, before.levelDb(j) - after.levelDb(i), 1);
      for (int b = 0; b < pair.bands().count(); b++) {
        double cut = -Pair.gainDb(before.bandPower(j, b), after.bandPower(i, b));
        if (PauseTraces.judged(pair, b)) {
          places.add(after.frame(i), b, cut, 1);
        }
      }
    }
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(single.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(false, estimate.value() - 3, 1));
  }
}
