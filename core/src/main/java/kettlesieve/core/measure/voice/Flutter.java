package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import java.util.SplittableRandom;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** Fast wavering of the voice's level, band by band. */
@AutoService(Measure.class)
public final class Flutter implements PairMeasure {
  private static final int LAG = 4;
  private static final double LEAST_SNR = 100;
  private static final double LEAST_SNR_IN_A_ROOM = 30;

  /** Allows for early reflections that were taken away. */
  private static final double EARLY = 0.2;

  private static final int ENOUGH_PAIRS = 100;
  private static final long SEED = 40_312L;
  private static final Declaration DECLARATION =
      new Declaration(
          "flutter",
          "Flutter",
          Axis.ADDED.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much the gain on the voice wavers from moment to moment, band by band. From about"
              + " 2 dB on the voice sounds watery or bubbling.",
          "Energy gain per third-octave and frame over wanted cells with 20 dB of signal-to-noise"
              + " ratio or more; m = 1.4826·median magnitude of its change over 4 hops, x = the same"
              + " of what the removed noise alone would cause; the value is √max(m²−x², 0). In declip within clipped passages, over frames that hold no clipped sample themselves. In dereverb over late reverberation and noise: 15 dB or more, and 0.2 added under the root of x for early reflections taken away.",
          "Kettle Sieve's own definition; the noise term from the variance of a level estimate.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    WantedBands energies = pair.shared(WantedBands.OF);
    BlockHistograms changes = new BlockHistograms(pair.timeline(), 0, 20, 0.05);
    BlockHistograms expected = new BlockHistograms(pair.timeline(), 0, 20, 0.05);
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    ClippedFrames only = pair.job() == Job.DECLIP ? pair.ofSource(ClippedFrames.OF) : null;
    SplittableRandom random = new SplittableRandom(SEED);
    boolean room = pair.job().inARoom();
    double leastSnr = room ? LEAST_SNR_IN_A_ROOM : LEAST_SNR;
    double early = room ? EARLY : 0;
    int pairs = 0;
    for (int b = 0; b < pair.bands().count(); b++) {
      for (int t = pair.firstFrame(); t + LAG < pair.endFrame(); t++) {
        double snr1 = snr(energies, t, b);
        double snr2 = snr(energies, t + LAG, b);
        if (snr1 < leastSnr
            || snr2 < leastSnr
            || only != null && !(only.between(t) && only.between(t + LAG))) {
          continue;
        }
        double change = Math.abs(gain(energies, t + LAG, b) - gain(energies, t, b));
        double noise = 4.343 * Math.sqrt(2 * (1 / snr1 + 1 / snr2 + early)) * random.nextGaussian();
        int block = pair.timeline().block(t);
        changes.add(block, change, 1);
        expected.add(block, Math.abs(noise), 1);
        places.add(t + LAG / 2, b, change, 1);
        pairs++;
      }
    }
    if (pairs < ENOUGH_PAIRS) {
      throw new NotMeasurableException(
          "the voice stands too little above the noise for its gain to be followed");
    }
    Estimate estimate = pair.bootstrap().estimate(w -> value(changes, expected, w));
    return Reading.of(DECLARATION.id(), estimate)
        .with("pairs", pairs, "")
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, Math.max(1, 1.5 * estimate.value()), 2));
  }

  private static double snr(WantedBands energies, int frame, int band) {
    double noise = energies.noise(frame, band);
    return noise > 0 ? energies.source(frame, band) / noise : 0;
  }

  private static double gain(WantedBands energies, int frame, int band) {
    return Pair.gainDb(energies.source(frame, band), energies.version(frame, band));
  }

  private static double value(BlockHistograms changes, BlockHistograms expected, int[] weights) {
    double m = 1.4826 * changes.median(weights);
    double x = 1.4826 * expected.median(weights);
    return Double.isNaN(m) ? Double.NaN : Math.sqrt(Math.max(0, m * m - x * x));
  }
}
