package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;

/** Noise that swells after each word. */
@AutoService(Measure.class)
public final class Breathing implements PairMeasure {
  private static final int ENOUGH_OFFSETS = 5;
  private static final int ENOUGH_CELLS = 200;
  private static final double HIDDEN_DB = 12;
  private static final Declaration DECLARATION =
      new Declaration(
          "breathing",
          "Breathing",
          Map.of(Job.DENOISE, Axis.ADDED, Job.DEREVERB, Axis.INFO),
          "dB",
          false,
          "How much louder the noise is just after a word than later in the pause. The "
              + "background seems to breathe with the voice.",
          "Gain of 5×5-smoothed powers (not under −30 dB) over noise-only cells 150 to "
              + "350 ms after wanted sound ends, median, minus the same from 600 ms on, and no "
              + "more than 12 dB over the first; at least 5 ends.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    QuietGains energies = pair.shared(QuietGains.OF);
    int offsets = pair.source().pauses().activity().offsets(QuietGains.OFFSET_SECONDS).length;
    if (offsets < ENOUGH_OFFSETS || energies.cells() < ENOUGH_CELLS) {
      throw new NotMeasurableException(
          "the voice ends fewer than five times with a long enough pause after it");
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double soon = energies.soonAfter().median(w);
                  // What was taken down by 12 dB at once hides under the end of the word.
                  return Math.min(
                      soon - energies.muchLater().median(w), Math.max(0, soon + HIDDEN_DB));
                });
    var places = energies.places();
    double later = energies.muchLater().median(ones(pair));
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(
            estimate.value() > 1
                ? places.spots(true, later + Math.max(3, estimate.value()), 4)
                : List.of());
  }

  private static int[] ones(Pair pair) {
    int[] all = new int[pair.timeline().blocks()];
    java.util.Arrays.fill(all, 1);
    return all;
  }
}
