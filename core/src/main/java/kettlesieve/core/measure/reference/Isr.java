package kettlesieve.core.measure.reference;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;

/** How little of a stem's error is a matter of filtering and place. */
@AutoService(Measure.class)
public final class Isr implements SetMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "isr",
          "ISR",
          Axis.INFO.in(Job.STEMS),
          "dB",
          true,
          "How far what filtering or another place in stereo has changed lies under the true stem:"
              + " a stem that is only dull, late or moved to a side has a low one.",
          "Energy of the true stem over that of what filters of 512 taps make of all its channels"
              + " beyond it; details: the median over windows of a second.",
          "Vincent, Sawada, Bofill, Makino & Rosca, \"First stereo audio source separation"
              + " evaluation campaign\", ICA 2007.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    return SeparationReading.of(DECLARATION.id(), set, role, SeparationSums.Kind.ISR);
  }
}
