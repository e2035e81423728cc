package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;

/** Whether time runs evenly in a version. */
@AutoService(Measure.class)
public final class TimingDrift implements StretchMeasure {
  private static final int FEWEST = 5;
  private static final double LEAST_COVERAGE = 0.5;
  private static final Declaration DECLARATION =
      new Declaration(
          "timing-drift",
          "Timing drift",
          Axis.MISSED.in(Job.STRETCH, Job.PITCH),
          "ms",
          false,
          "How far moments stray from where an even stretch would put them. From about 20 ms on a"
              + " rhythm limps.",
          "95th percentile of the distance of the time map's knots from its own line; a place of"
              + " the source that cannot be told from what sounds 20 ms away (correlation over 0.75)"
              + " is no knot.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    checkFound(warp);
    List<MapFit.Deviation> knots = warp.fit().deviation();
    if (knots.size() < FEWEST) {
      throw new NotMeasurableException(
          "too few places of the source can be told from what lies beside them to follow the timing");
    }
    BlockHistograms off = new BlockHistograms(warp.source().timeline(), 0, 500, 0.25);
    PlaceGrid places =
        PlaceGrid.ofTime(
            warp.source().timeline(), 50, warp.source().source().framing().sampleRate() / 2.0);
    for (MapFit.Deviation knot : knots) {
      int frame = warp.frame(knot.seconds());
      double ms = 1000 * Math.abs(knot.off());
      off.add(warp.source().timeline().block(frame), ms, 1);
      places.add(frame, 0, ms, 1);
    }
    Estimate estimate = warp.source().bootstrap().estimate(w -> off.quantile(w, 0.95));
    return Reading.of(DECLARATION.id(), estimate)
        .with("coverage", 100 * warp.fit().coverage(), "%")
        .with("places", knots.size(), "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(10, 0.8 * estimate.value()), 1));
  }

  /**
   * Where less than half of the source was found again, the line that was asked for is all there
   * is: neither length nor timing can be told from it.
   */
  static void checkFound(StretchedPair warp) throws NotMeasurableException {
    if (warp.fit().coverage() < LEAST_COVERAGE) {
      throw new NotMeasurableException(
          String.format(
              Locale.ROOT,
              "only %.0f %% of the source could be placed in it: it is another recording, or sounds"
                  + " on with little to hold on to",
              100 * warp.fit().coverage()));
    }
  }
}
