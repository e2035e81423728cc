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

/** How far artifacts lie under what was recorded. */
@AutoService(Measure.class)
public final class Sar implements PairMeasure, SetMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "sar",
          "SAR",
          Axis.INFO.in(Job.DENOISE, Job.DEREVERB, Job.STEMS),
          "dB",
          true,
          "How far artifacts lie under everything that stems from the recording: what "
              + "neither the clean recording nor the noise explains was made by the tool.",
          "Energy of the projection on clean recording and unwanted part together over "
              + "that of the rest.",
          "Vincent, Gribonval & Févotte, IEEE Trans. Audio, Speech, Lang. Process. 14, " + "2006.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    return SeparationReading.of(DECLARATION.id(), pair, SeparationSums.Kind.SAR);
  }

  /** Of a stem against the true ones. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    return SeparationReading.of(DECLARATION.id(), set, role, SeparationSums.Kind.SAR);
  }
}
