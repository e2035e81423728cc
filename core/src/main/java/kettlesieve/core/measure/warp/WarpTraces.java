package kettlesieve.core.measure.warp;

import java.util.List;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Warp;

/**
 * What can be drawn of a version in its own time: where its attacks went, how its time strays from
 * an even stretch.
 *
 * @param hits the strong attacks; empty where there are too few
 * @param deviation how far moments lie off an even stretch, seconds of the version
 */
public record WarpTraces(List<WarpHits.Hit> hits, List<MapFit.Deviation> deviation) {
  public WarpTraces {
    hits = List.copyOf(hits);
    deviation = List.copyOf(deviation);
  }

  /** Of a version. */
  public static WarpTraces of(Warp warp) {
    return new WarpTraces(hits(warp), warp.fit().deviation());
  }

  private static List<WarpHits.Hit> hits(Warp warp) {
    try {
      return warp.shared(WarpHits.OF).hits();
    } catch (NotMeasurableException e) {
      return List.of();
    }
  }
}
