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

/** More was taken away than the noise explains. */
@AutoService(Measure.class)
public final class OverSuppression implements PairMeasure {
  private static final double NOTABLE_DB = 0;
  private static final Declaration DECLARATION =
      new Declaration(
          "over-suppression",
          "Over-suppression",
          Axis.LOST.in(Job.DENOISE),
          "dB",
          false,
          "How much more was taken away than the noise explains. The program estimates the voice for"
              + " itself and counts only what lies under it beyond doubt. Up to −10 dB nothing of weight;"
              + " from −3 dB on parts of the voice are gone.",
          "Amplitude of each cell against that of an estimate of the voice: log-spectral amplitude"
              + " estimator on the noise of the pauses, decision-directed, α 0.98, least gain −26 dB."
              + " Squared distance where the version lies under it by more than two standard"
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
    return 1.2;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    SuppressionErrors errors = pair.shared(SuppressionErrors.OF);
    PlaceGrid places = errors.underPlaces();
    return Reading.of(DECLARATION.id(), pair.bootstrap().estimate(errors::underDb))
        .withTrace(places.trace())
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(places.spots(true, NOTABLE_DB, 1e-30));
  }
}
