package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;

/**
 * Single frequencies that sing: in one version ({@link VoiceRinging}), in a stem ({@link
 * StemRinging}).
 */
@AutoService(Measure.class)
public final class Ringing implements PairMeasure, SetMeasure {
  static final String ID = "ringing";

  private static final Declaration DECLARATION =
      new Declaration(
          ID,
          "Ringing",
          Axis.ADDED.in(Job.DENOISE, Job.DEREVERB, Job.STEMS, Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How far one narrow frequency stands out that did not in the source: a "
              + "resonance on the voice, or a whistle in the pauses.",
          "Long-term spectrum over wanted cells (40 or more a bin), version over source; "
              + "highest peak above the median of ±1/3 octave, ±2 bins left out, and no more "
              + "than the bin rose above the source. Whistles: the same over the pauses. The "
              + "larger of the two; details: frequency, whistle. In dereverb above the higher of the "
              + "medians of the lower and the upper third-octave, bins whose gain is over −30 dB, "
              + "and no whistles.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.5 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    return VoiceRinging.of(pair);
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    return StemRinging.of(set, role);
  }
}
