package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;

/** More was left, or put in, than the voice explains. */
@AutoService(Measure.class)
public final class UnderSuppression implements PairMeasure {
  private static final double NOTABLE_DB = 6;
  private static final Declaration DECLARATION =
      new Declaration(
          "under-suppression",
          "Under-suppression",
          Axis.MISSED.in(Job.DENOISE),
          "dB",
          false,
          "How much more is there than the voice explains: noise that was left, or sound that was put"
              + " in. The program estimates the voice for itself and counts only what lies over it"
              + " beyond doubt. Up to +2 dB the voice itself may explain it.",
          "Amplitude of each cell against that of an estimate of the voice: log-spectral amplitude"
              + " estimator on the noise of the pauses, decision-directed, α 0.98, least gain −26 dB."
              + " Squared distance where the version lies over it by more than two standard"
              + " deviations (of variance ξ/(1+ξ) times the noise), what exceeds them, over the sum of"
              + " these variances; frames with clicks of the source left out; −15 dB or more.",
          "Kettle Sieve's own definition; Ephraim & Malah, IEEE Trans. ASSP 33, 1985; Loizou & Kim,"
              + " IEEE Trans. Audio Speech Lang. Process. 19, 2011.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return 0.75;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    SuppressionErrors errors = pair.shared(SuppressionErrors.OF);
    PlaceGrid places = errors.overPlaces();
    return Reading.of(DECLARATION.id(), pair.bootstrap().estimate(errors::overDb))
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, NOTABLE_DB, 1e-30));
  }
}
