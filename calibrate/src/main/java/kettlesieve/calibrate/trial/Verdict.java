package kettlesieve.calibrate.trial;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;

/**
 * What the program says of a version.
 *
 * @param readings values by measure
 * @param axes scores by axis
 * @param overall the overall score as it stands among the others; NaN without one
 * @param draws every fourth of its bootstrap draws; empty without a score
 */
public record Verdict(
    Map<String, Double> readings, Map<String, Double> axes, double overall, float[] draws) {
  private static final int EVERY = 4;

  /** Without draws. */
  public Verdict(Map<String, Double> readings, Map<String, Double> axes, double overall) {
    this(readings, axes, overall, new float[0]);
  }

  /** Of versions that are judged beside each other, in their order. */
  static List<Verdict> of(List<Readings> taken, Job job) {
    Scoring scoring = Scoring.shipped();
    List<Card> cards =
        Card.placed(
            taken.stream()
                .map(t -> Card.of(t.readings(), scoring, scoring.profileOrDefault(null), job))
                .toList());
    List<Verdict> verdicts = new ArrayList<>();
    for (int i = 0; i < cards.size(); i++) {
      verdicts.add(of(taken.get(i), cards.get(i)));
    }
    return verdicts;
  }

  private static Verdict of(Readings taken, Card card) {
    Map<String, Double> readings = new LinkedHashMap<>();
    taken.readings().forEach(r -> readings.put(r.measure(), r.value()));
    Map<String, Double> axes = new LinkedHashMap<>();
    card.axes().forEach((axis, e) -> axes.put(axis.id(), e.value()));
    return new Verdict(
        readings,
        axes,
        card.overall().map(Estimate::value).orElse(Double.NaN),
        card.overall().map(Verdict::draws).orElse(new float[0]));
  }

  /** Every fourth draw. */
  static float[] draws(Estimate e) {
    float[] kept = new float[e.draws().length / EVERY];
    for (int d = 0; d < kept.length; d++) {
      kept[d] = Math.round(100 * e.draws()[EVERY * d]) / 100f;
    }
    return kept;
  }

  /**
   * 1 if this is surely better than another as the sheet says it, −1 if surely worse, 0 if they are
   * tied or one has no score.
   */
  public int against(Verdict other) {
    return draws.length == 0 || other.draws.length == 0
        ? 0
        : ScoreSheet.compare(estimate(), other.estimate());
  }

  /** The overall score with its kept draws. */
  public Estimate estimate() {
    return estimate(overall, draws);
  }

  static Estimate estimate(double value, float[] draws) {
    double[] all = new double[draws.length];
    for (int d = 0; d < all.length; d++) {
      all[d] = draws[d];
    }
    return new Estimate(value, all);
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
