package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.measure.Timeline;

/** Whether a version is as long as was asked for. */
@AutoService(Measure.class)
public final class LengthError implements StretchMeasure {
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
              + " magnitude is scored. Its interval: the least-squares slope of the places found again,"
              + " about what all of them give.",
          "Kettle Sieve's own definition; the line after Theil 1950 and Sen 1968.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    TimingDrift.checkFound(warp);
    Timeline timeline = warp.source().timeline();
    List<MapFit.Deviation> places = warp.fit().deviation();
    int[] blocks = places.stream().mapToInt(d -> timeline.block(warp.frame(d.seconds()))).toArray();
    int[] once = new int[timeline.blocks()];
    Arrays.fill(once, 1);
    double all = tilt(places, blocks, once);
    Estimate slope =
        warp.source().bootstrap().estimate(w -> warp.fit().slope() + tilt(places, blocks, w) - all);
    Estimate estimate = slope.map(a -> 100 * (a / warp.ratio() - 1));
    return Reading.of(DECLARATION.id(), estimate)
        .scoredAs(estimate.map(Math::abs))
        .with("ratio", warp.fit().slope(), "")
        .with("offset", 1000 * warp.fit().offset(), "ms");
  }

  /** Slope of what lies off the line, by least squares; places of a block count by its weight. */
  private static double tilt(List<MapFit.Deviation> places, int[] blocks, int[] weights) {
    double n = 0;
    double t = 0;
    double y = 0;
    double tt = 0;
    double ty = 0;
    for (int i = 0; i < blocks.length; i++) {
      double w = weights[blocks[i]];
      double seconds = places.get(i).seconds();
      double off = places.get(i).off();
      n += w;
      t += w * seconds;
      y += w * off;
      tt += w * seconds * seconds;
      ty += w * seconds * off;
    }
    double spread = n * tt - t * t;
    return spread > 1e-9 ? (n * ty - t * y) / spread : 0;
  }
}
