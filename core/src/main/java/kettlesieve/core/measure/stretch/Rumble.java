package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;

/** Low noise that a stretch has made. */
@AutoService(Measure.class)
public final class Rumble implements StretchMeasure {
  private static final double LOW_HZ = 80;
  private static final double FLOOR_DB = -32;
  private static final Declaration DECLARATION =
      new Declaration(
          "rumble",
          "Rumble",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much deep noise was added under the sound: a thud at each join, a murmur that was"
              + " not there.",
          "Power under 80 Hz over that of the whole, not under −32 dB; version minus source (there"
              + " under 80 Hz over the ratio of pitches that was found), not below 0.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    StretchedSpectra spectra = warp.shared(StretchedSpectra.OF);
    double nyquist = warp.version().audio().sampleRate() / 2.0;
    double[] lowBefore = spectra.blocks(false, 0, LOW_HZ / warp.shared(StretchedPitch.OF).ratio());
    double[] lowAfter = spectra.blocks(true, 0, LOW_HZ);
    double[] before = spectra.blocks(false, 0, nyquist);
    double[] after = spectra.blocks(true, 0, nyquist);
    Estimate more =
        warp.source()
            .bootstrap()
            .estimate(w -> Math.max(0, share(lowAfter, after, w) - share(lowBefore, before, w)));
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), 20, LOW_HZ);
    int[] one = new int[before.length];
    int perBlock = Math.max(1, warp.source().timeline().frames() / before.length);
    for (int b = 0; b < before.length; b++) {
      one[b] = 1;
      double here = share(lowAfter, after, one) - share(lowBefore, before, one);
      if (Double.isFinite(here)) {
        places.add(b * perBlock, 0, here, 1);
      }
      one[b] = 0;
    }
    return Reading.of(DECLARATION.id(), more)
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(3, more.value()), 1));
  }

  private static double share(double[] part, double[] whole, int[] weights) {
    double low = 0;
    double all = 0;
    for (int b = 0; b < weights.length; b++) {
      low += weights[b] * part[b];
      all += weights[b] * whole[b];
    }
    return all > 0 ? Math.max(FLOOR_DB, 10 * Math.log10(Math.max(low, 1e-30) / all)) : Double.NaN;
  }
}
