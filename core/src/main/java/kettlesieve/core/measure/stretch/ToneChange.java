package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Statistics;

/** Whether the tone stayed as it was. */
@AutoService(Measure.class)
public final class ToneChange implements StretchMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "tone-change",
          "Tone change",
          Map.of(Job.STRETCH, Axis.LOST, Job.PITCH, Axis.INFO),
          "dB",
          false,
          "How much the balance of low and high has changed over the whole. From about 3 dB on it"
              + " sounds like another equalisation.",
          "Root mean square over 24 mel bands of the difference of mean power in dB, its median"
              + " removed.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    StretchedHits hits = warp.shared(StretchedHits.OF);
    double[] before = hits.tone(false);
    double[] change = hits.tone(true);
    for (int b = 0; b < change.length; b++) {
      change[b] -= before[b];
    }
    double middle = Statistics.median(change);
    double sum = 0;
    for (double c : change) {
      sum += (c - middle) * (c - middle) / change.length;
    }
    return Reading.of(DECLARATION.id(), Estimate.sure(Math.sqrt(sum)));
  }
}
