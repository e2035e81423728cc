package kettlesieve.core.measure.reference;

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

/** How far left-over noise lies under the clean recording. */
@AutoService(Measure.class)
public final class Sir implements PairMeasure, SetMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "sir",
          "SIR",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB, Job.STEMS),
          "dB",
          true,
          "How far the noise that is left lies under the clean recording, by what filters "
              + "of 512 taps explain.",
          "Energy of the projection on the clean recording over that of what only the "
              + "unwanted part (source minus clean recording) explains.",
          "Vincent, Gribonval & Févotte, IEEE Trans. Audio, Speech, Lang. Process. 14, " + "2006.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    return SeparationReading.of(DECLARATION.id(), pair, SeparationSums.Kind.SIR);
  }

  /** Of a stem against the true ones. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    return SeparationReading.of(DECLARATION.id(), set, role, SeparationSums.Kind.SIR);
  }
}
