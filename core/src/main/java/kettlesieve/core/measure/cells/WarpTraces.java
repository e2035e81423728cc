package kettlesieve.core.measure.cells;

import java.util.List;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Warp;

/**
 * What can be drawn of a version in its own time: where its attacks went, how its pitch runs, how
 * its time strays from an even stretch.
 *
 * @param hits the strong attacks; empty where there are too few
 * @param voices the moments at which the source is voiced; empty where there is no single voice
 * @param deviation how far moments lie off an even stretch, seconds of the version
 * @param pitch the frequency ratio that was asked for
 */
public record WarpTraces(
    List<WarpHits.Hit> hits,
    List<WarpVoices.Frame> voices,
    List<MapFit.Deviation> deviation,
    double pitch) {
  public WarpTraces {
    hits = List.copyOf(hits);
    voices = List.copyOf(voices);
    deviation = List.copyOf(deviation);
  }

  /** Of a version. */
  public static WarpTraces of(Warp warp) {
    return new WarpTraces(hits(warp), voices(warp), warp.fit().deviation(), warp.pitch());
  }

  private static List<WarpHits.Hit> hits(Warp warp) {
    try {
      return warp.shared(WarpHits.OF).hits();
    } catch (NotMeasurableException e) {
      return List.of();
    }
  }

  private static List<WarpVoices.Frame> voices(Warp warp) {
    try {
      return warp.shared(WarpVoices.OF).frames();
    } catch (NotMeasurableException e) {
      return List.of();
    }
  }
}
