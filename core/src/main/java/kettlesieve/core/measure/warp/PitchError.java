package kettlesieve.core.measure.warp;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Warp;
import kettlesieve.core.measure.WarpMeasure;
import kettlesieve.core.measure.cells.PitchProfile;

/** Whether the pitch moved by what was asked for. */
@AutoService(Measure.class)
public final class PitchError implements WarpMeasure {
  private static final double LEAST_PEAK = 0.5;
  private static final Declaration DECLARATION =
      new Declaration(
          "pitch-error",
          "Pitch error",
          Axis.MISSED.in(Job.PITCH),
          "cents",
          false,
          "How far the pitch lies from what was asked for, 100 cents to a semitone. From about 10"
              + " cents on it is out of tune.",
          "As pitch-drift, around the shift asked for, or around none where that is clearly better"
              + " (by 0.1); less the shift asked for. A peak under 0.5 tells nothing; the magnitude"
              + " is scored.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Warp warp) throws NotMeasurableException {
    PitchProfile source = new PitchProfile(warp.source().source().audio().downmix());
    PitchProfile version = new PitchProfile(warp.version().audio().downmix());
    double asked = 1200 * Math.log(warp.pitch()) / Math.log(2);
    PitchProfile.Shift found = source.likelier(version, asked, 0);
    if (!(found.likeness() >= LEAST_PEAK)) {
      throw new NotMeasurableException("there is too little of a pitch to compare");
    }
    Estimate error = Estimate.sure(found.cents() - asked);
    return Reading.of(DECLARATION.id(), error)
        .scoredAs(error.map(Math::abs))
        .with("moved", found.cents(), "cents")
        .with("likeness", found.likeness(), "");
  }
}
