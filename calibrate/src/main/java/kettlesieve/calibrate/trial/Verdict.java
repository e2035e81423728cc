package kettlesieve.calibrate.trial;

import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;

/**
 * What the program says of a version.
 *
 * @param readings values by measure
 * @param axes scores by axis
 * @param overall the overall score; NaN without one
 */
public record Verdict(Map<String, Double> readings, Map<String, Double> axes, double overall) {
  static Verdict of(Readings taken, Job job) {
    Scoring scoring = Scoring.shipped();
    Card card = Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), job);
    Map<String, Double> readings = new LinkedHashMap<>();
    taken.readings().forEach(r -> readings.put(r.measure(), r.value()));
    Map<String, Double> axes = new LinkedHashMap<>();
    card.axes().forEach((axis, e) -> axes.put(axis.id(), e.value()));
    return new Verdict(readings, axes, card.overall().map(Estimate::value).orElse(Double.NaN));
  }

  /** A reading; NaN without one. */
  public double reading(String id) {
    return readings.getOrDefault(id, Double.NaN);
  }

  /** The score of an axis; NaN without one. */
  public double axis(String id) {
    return axes.getOrDefault(id, Double.NaN);
  }
}
