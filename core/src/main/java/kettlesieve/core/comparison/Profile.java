package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * A delivery profile: what matters for the delivery at hand. Some ship with the program; a person's
 * own are kept in the comparison, so that it scores the same wherever it is opened.
 *
 * @param name as in files and on the command line: lower-case letters, digits and hyphens
 * @param title for people
 * @param description one sentence
 * @param weights of the three axes, by their id; not below 0, not all 0
 * @param tolerance points of shortfall on an axis that are forgiven, by its id; from 0 to 90
 * @param requirements hard limits beside the scores
 */
public record Profile(
    String name,
    String title,
    String description,
    Map<String, Double> weights,
    Map<String, Double> tolerance,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Requirement> requirements) {
  private static final int MOST_REQUIREMENTS = 40;
  private static final List<String> AXES = List.of("missed", "added", "lost");

  public Profile {
    if (name == null || !name.matches("[a-z0-9][a-z0-9-]{0,59}")) {
      throw new IllegalArgumentException(
          "the short name of a profile has letters, digits and hyphens");
    }
    title = title == null || title.isBlank() ? name : title;
    description = description == null ? "" : description;
    weights = checked(weights, 100);
    tolerance = checked(tolerance, 90);
    if (requirements != null && requirements.stream().anyMatch(java.util.Objects::isNull)) {
      throw new IllegalArgumentException("a requirement of a profile is empty");
    }
    requirements = requirements == null ? List.of() : List.copyOf(requirements);
    if (requirements.size() > MOST_REQUIREMENTS) {
      throw new IllegalArgumentException(
          "a profile has up to " + MOST_REQUIREMENTS + " requirements");
    }
    boolean some = false;
    for (String axis : AXES) {
      some |= weights.getOrDefault(axis, 1.0) > 0;
    }
    if (!some) {
      throw new IllegalArgumentException("one of the three questions must have a weight over 0");
    }
  }

  private static Map<String, Double> checked(Map<String, Double> values, double largest) {
    Map<String, Double> sorted = new TreeMap<>(values == null ? Map.of() : values);
    sorted.forEach(
        (axis, value) -> {
          if (!AXES.contains(axis) || value == null || !(value >= 0 && value <= largest)) {
            throw new IllegalArgumentException(
                "weights and tolerances are numbers from 0 to " + (int) largest);
          }
        });
    return java.util.Collections.unmodifiableMap(sorted);
  }

  /** The weight of an axis. */
  public double weight(String axis) {
    return weights.getOrDefault(axis, 1.0);
  }

  /** The points of an axis that are forgiven. */
  public double tolerance(String axis) {
    return tolerance.getOrDefault(axis, 0.0);
  }

  /** The shortfall that counts, 0 to 100, of an axis with a score. */
  public double shortfall(String axis, double score) {
    double forgiven = tolerance(axis);
    return Math.max(0, 100 - score - forgiven) * 100 / (100 - forgiven);
  }

  /** A copy under another name. */
  @JsonIgnore
  public Profile named(String newName, String newTitle) {
    return new Profile(newName, newTitle, description, weights, tolerance, requirements);
  }
}
