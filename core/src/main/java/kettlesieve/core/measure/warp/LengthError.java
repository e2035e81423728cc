package kettlesieve.core.measure.warp;

import com.google.auto.service.AutoService;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Warp;
import kettlesieve.core.measure.WarpMeasure;

/** Whether a version is as long as was asked for. */
@AutoService(Measure.class)
public final class LengthError implements WarpMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "length-error",
          "Length error",
          Axis.MISSED.in(Job.STRETCH, Job.PITCH),
          "%",
          false,
          "How much longer or shorter the sound runs than was asked for. A delay, or silence at the"
              + " ends, is no error of length.",
          "100·(a/r − 1), a the slope of the line through the time map, r the ratio asked for; the"
              + " magnitude is scored.",
          "Kettle Sieve's own definition; the line after Theil 1950 and Sen 1968.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Warp warp) {
    double error = 100 * (warp.fit().slope() / warp.ratio() - 1);
    Estimate estimate = Estimate.sure(error);
    return Reading.of(DECLARATION.id(), estimate)
        .scoredAs(estimate.map(Math::abs))
        .with("ratio", warp.fit().slope(), "")
        .with("offset", 1000 * warp.fit().offset(), "ms");
  }
}
