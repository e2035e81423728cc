package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.Locale;

/**
 * A hard limit of a delivery: a reading, or a detail of it, must not lie above or below a value.
 *
 * @param reading id of the measure
 * @param detail key of one of its details; empty for the reading itself
 * @param comparison {@code <=} or {@code >=}
 * @param limit in the reading's own unit
 */
public record Requirement(
    String reading,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) String detail,
    String comparison,
    double limit) {
  private static final String AT_MOST = "<=";
  private static final String AT_LEAST = ">=";

  public Requirement {
    detail = detail == null ? "" : detail;
    if (reading == null
        || !reading.matches("[a-z0-9-]{1,60}")
        || !detail.matches("[^.\\p{C}]{0,60}")) {
      throw new IllegalArgumentException(
          "a requirement names a reading, such as pause-noise, or reading.detail");
    }
    if (!AT_MOST.equals(comparison) && !AT_LEAST.equals(comparison)) {
      throw new IllegalArgumentException("a requirement compares by <= or >=");
    }
    if (!Double.isFinite(limit)) {
      throw new IllegalArgumentException("the limit of a requirement is a number");
    }
  }

  /**
   * A requirement in words, such as {@code pause-noise.dBFS <= -60}.
   *
   * @throws IllegalArgumentException if the words are no requirement, saying why
   */
  public static Requirement parse(String words) {
    String plain = words.trim().replace("≤", AT_MOST).replace("≥", AT_LEAST).replace('−', '-');
    String comparison = plain.contains(AT_MOST) ? AT_MOST : AT_LEAST;
    int at = plain.indexOf(comparison);
    if (at < 1) {
      throw new IllegalArgumentException(
          "a requirement reads like: pause-noise.dBFS <= -60, or bandwidth >= 12000");
    }
    String[] what = plain.substring(0, at).trim().split("\\.", 2);
    try {
      double limit = Double.parseDouble(plain.substring(at + 2).trim());
      return new Requirement(what[0], what.length == 2 ? what[1] : "", comparison, limit);
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException("the limit of a requirement is a number", e);
    }
  }

  /** Whether a value meets it. */
  @JsonIgnore
  public boolean metBy(double value) {
    return comparison.equals(AT_MOST) ? value <= limit : value >= limit;
  }

  /** As {@link #parse} reads it. */
  @JsonIgnore
  public String words() {
    String number =
        limit == Math.rint(limit)
            ? String.format(Locale.ROOT, "%.0f", limit)
            : String.valueOf(limit);
    return (detail.isEmpty() ? reading : reading + "." + detail) + " " + comparison + " " + number;
  }
}
