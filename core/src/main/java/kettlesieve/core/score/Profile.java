package kettlesieve.core.score;

import java.util.Map;
import kettlesieve.core.measure.Axis;

/**
 * A delivery profile: what matters for the delivery at hand.
 *
 * @param name as in files and on the command line
 * @param title for people
 * @param description one sentence
 * @param weights of the three axes, by their id
 * @param tolerance points of shortfall on an axis that are forgiven, by its id
 */
public record Profile(
    String name,
    String title,
    String description,
    Map<String, Double> weights,
    Map<String, Double> tolerance) {
  public Profile {
    weights = Map.copyOf(weights);
    tolerance = Map.copyOf(tolerance);
  }

  public double weight(Axis axis) {
    return weights.getOrDefault(axis.id(), 1.0);
  }

  /** The shortfall that counts, 0 to 100, of an axis with a score. */
  public double shortfall(Axis axis, double score) {
    double forgiven = tolerance.getOrDefault(axis.id(), 0.0);
    return Math.max(0, 100 - score - forgiven) * 100 / (100 - forgiven);
  }
}
