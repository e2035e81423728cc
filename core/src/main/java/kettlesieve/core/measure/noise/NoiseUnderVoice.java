package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
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
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** Noise that stays while the voice sounds. */
@AutoService(Measure.class)
public final class NoiseUnderVoice implements PairMeasure {
  private static final int ENOUGH_CELLS = 50;
  private static final double QUIETEST = 0.2;
  private static final double TOO_QUIET_DB = 25;
  private static final Declaration DECLARATION =
      new Declaration(
          "noise-under-voice",
          "Noise under voice",
          Map.of(Job.DENOISE, Axis.MISSED, Job.DEREVERB, Axis.INFO),
          "dB",
          false,
          "How much the noise between the partials of the voice was lowered while it speaks. Near"
              + " 0 dB the noise comes and goes with every word. Weak speech hides there, too, so"
              + " it is a \"no better than\": about −8 dB can be reached.",
          "Gain of 5×5-smoothed powers over cells that hold only noise in active frames: the 20 %"
              + " quantile in each third-octave with at least 50 such cells, for weak speech hides"
              + " in the rest; then the mean over bands.",
          "Cells by the mean noise power of the pauses; see docs/measures.md.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.75 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    UnwantedGains energies = pair.shared(UnwantedGains.OF);
    double snr = pair.source().pauses().signalToNoiseDb();
    if (snr > TOO_QUIET_DB) {
      throw new NotMeasurableException(
          String.format(
              java.util.Locale.ROOT,
              "the noise is %.0f dB under the voice, too quiet to be told from weak speech",
              snr));
    }
    int bands = pair.bands().count();
    boolean any = false;
    for (int b = 0; b < bands; b++) {
      any |= energies.count(b) >= ENOUGH_CELLS;
    }
    if (!any) {
      throw new NotMeasurableException("no part of the speech leaves the noise bare");
    }
    Estimate estimate = pair.bootstrap().estimate(w -> meanOfQuantiles(energies, bands, w));
    PlaceGrid places = energies.places();
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, estimate.value() + 2, 8));
  }

  private static double meanOfQuantiles(UnwantedGains energies, int bands, int[] weights) {
    double sum = 0;
    int count = 0;
    for (int b = 0; b < bands; b++) {
      if (energies.count(b) >= ENOUGH_CELLS) {
        double quiet = energies.quantileDb(b, weights, QUIETEST);
        if (Double.isFinite(quiet)) {
          sum += quiet;
          count++;
        }
      }
    }
    return count == 0 ? Double.NaN : sum / count;
  }
}
