package kettlesieve.core.measure.stretch;

import java.util.List;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.StretchedPair;

/**
 * What can be drawn of a version in its own time: where its attacks went, how its time strays from
 * an even stretch.
 *
 * @param hits the strong attacks; empty where there are too few
 * @param deviation how far moments lie off an even stretch, seconds of the version
 */
public record StretchedTraces(List<StretchedHits.Hit> hits, List<MapFit.Deviation> deviation) {
  public StretchedTraces {
    hits = List.copyOf(hits);
    deviation = List.copyOf(deviation);
  }

  /** Of a version. */
  public static StretchedTraces of(StretchedPair warp) {
    return new StretchedTraces(hits(warp), warp.fit().deviation());
  }

  private static List<StretchedHits.Hit> hits(StretchedPair warp) {
    try {
      return warp.shared(StretchedHits.OF).hits();
    } catch (NotMeasurableException e) {
      return List.of();
    }
  }
}
