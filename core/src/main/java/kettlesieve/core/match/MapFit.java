package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.TimeMap;

/**
 * How a time map was found, and how far it can be trusted.
 *
 * @param map from seconds of the source to seconds of the version
 * @param slope of the straight line through it: the ratio of lengths over all
 * @param offset seconds of the version at the line's start
 * @param deviation seconds that the map's knots lie off the line, in order of time
 * @param coverage share of the anchors that were found again, times that of the blocks, 0 to 1
 */
public record MapFit(
    TimeMap map, double slope, double offset, List<Deviation> deviation, double coverage)
    implements Placement {
  /**
   * How far a moment lies off the line.
   *
   * @param seconds of the source
   * @param off seconds of the version, positive for later
   */
  public record Deviation(double seconds, double off) {}

  public MapFit {
    deviation = List.copyOf(deviation);
  }

  /** A map that was found by a line through it. */
  public static MapFit of(TimeMap map, double slope, double offset, double coverage) {
    List<Deviation> off = new ArrayList<>();
    for (TimeMap.Knot knot : map.knots()) {
      off.add(new Deviation(knot.from(), knot.to() - offset - slope * knot.from()));
    }
    return new MapFit(map, slope, offset, off, coverage);
  }

  /** A straight line, of which no more is known. */
  static MapFit line(double offset, double slope, double coverage) {
    return of(TimeMap.line(offset, slope), slope, offset, coverage);
  }

  /** The same with the version's moments later by some seconds. */
  MapFit later(double seconds) {
    return new MapFit(map.later(seconds), slope, offset + seconds, deviation, coverage);
  }
}
