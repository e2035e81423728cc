package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;

/** Whether the pitch stayed where it was. */
@AutoService(Measure.class)
public final class PitchDrift implements StretchMeasure {
  private static final double LEAST_PEAK = 0.6;
  private static final Declaration DECLARATION =
      new Declaration(
          "pitch-drift",
          "Pitch drift",
          Axis.MISSED.in(Job.STRETCH),
          "cents",
          false,
          "How far the pitch has moved, 100 cents to a semitone. From about 10 cents on it is out of"
              + " tune beside the source. A version that was played faster or slower is named.",
          "Mean power spectra from 80 to 2,000 Hz on a grid of 10 cents, in dB less their moving"
              + " mean over 410 cents; shift of the highest correlation within ±150 cents of no"
              + " shift, and of the shift of a mere change of speed where that is clearly better"
              + " (by 0.1). A peak under 0.6 tells nothing. Of a single voice the"
              + " median over its voiced frames, by YIN. The magnitude is scored.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    StretchedPitch pitch = warp.shared(StretchedPitch.OF);
    if (!pitch.byVoice() && !(pitch.likeness() >= LEAST_PEAK)) {
      throw new NotMeasurableException("there is too little of a pitch to compare");
    }
    Estimate estimate = pitch.estimate();
    Reading reading =
        Reading.of(DECLARATION.id(), estimate)
            .scoredAs(estimate.map(Math::abs))
            .with("likeness", pitch.likeness(), "");
    return pitch.played()
        ? reading.withNotes(
            List.of(
                String.format(
                    Locale.ROOT,
                    "it was played at another speed: its pitch has moved with its length, by %.0f"
                        + " cents as that asks for",
                    pitch.speed())))
        : reading;
  }
}
