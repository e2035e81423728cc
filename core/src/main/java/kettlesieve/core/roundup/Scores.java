package kettlesieve.core.roundup;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What was found of a version, or of one of its stems, in numbers of six decimals.
 *
 * @param overall 0 to 100; null without one
 * @param axes scores by the word of the question
 * @param readings values by measure, each in its unit
 * @param rank best place in its comparison; 0 without one
 * @param rankTo worst place
 * @param tiedWith labels of versions that are neither surely better nor surely worse
 * @param deviations paired standard deviation of the difference to other versions, by label, points
 */
public record Scores(
    Double overall,
    Map<String, Double> axes,
    Map<String, Double> readings,
    int rank,
    int rankTo,
    List<String> tiedWith,
    Map<String, Double> deviations) {
  /** Nothing was found. */
  public static final Scores NONE = new Scores(null, Map.of(), Map.of(), 0, 0, List.of(), Map.of());

  public Scores {
    axes = Collections.unmodifiableMap(new LinkedHashMap<>(axes));
    readings = Collections.unmodifiableMap(new LinkedHashMap<>(readings));
    tiedWith = List.copyOf(tiedWith);
    deviations = Collections.unmodifiableMap(new LinkedHashMap<>(deviations));
  }
}
