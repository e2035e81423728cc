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
import kettlesieve.core.measure.Reading;

/** How much nearer to the original a repair came, without the original. */
@AutoService(Measure.class)
public final class EstDeltaSdr implements PairMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "est-delta-sdr",
          "SDR gain, estimated",
          Axis.INFO.in(Job.DECLIP),
          "dB",
          false,
          "How much nearer to the unclipped recording the repair came, told from the best estimate"
              + " that can be made of it. 0 dB: no better than leaving it clipped.",
          "−10·log10 of the squared distance from the estimate on clipped samples, plus that from"
              + " the source on all others, over the squared distance of the source from the"
              + " estimate; over the 40 quarter seconds that need the most.",
          "Kettle Sieve's own definition; the estimate by reweighted ℓ1 minimisation, after"
              + " Záviška, Rajmic et al., IEEE J. Sel. Top. Signal Process. 15, 2021.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    EstimateErrors errors = pair.shared(EstimateErrors.OF);
    Estimate estimate = errors.estimate(s -> -EstimateErrors.db(s.all(), s.need()));
    ClippedPassages passages = errors.passages();
    return Reading.of(DECLARATION.id(), estimate)
        .with("confidence", passages.confidenceDb(), "dB")
        .withTrace(errors.places(EstimateErrors.Sums::all).trace())
        .withNotes(passages.hints());
  }
}
