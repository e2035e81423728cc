package kettlesieve.core.measure;

/**
 * A measured figure.
 *
 * @param estimate the value in the measure's unit, and its distribution
 * @param scored the value that the scale is applied to; the same as {@code estimate} for most
 * @param limit whether the value is only an edge of what can be measured
 */
public record Figure(Estimate estimate, Estimate scored, Limit limit) {
  /** A figure whose scale applies to its value. */
  public static Figure of(Estimate estimate) {
    return new Figure(estimate, estimate, Limit.NONE);
  }

  /**
   * With a variation that the data themselves do not show.
   *
   * @param half half of its 95 % interval, in the unit that is scored
   * @param kind what varies
   */
  Figure varied(double half, String kind) {
    // Where another unit is scored, the variation says nothing of the value that is shown.
    Estimate shown = scored == estimate ? estimate.varied(half, kind) : estimate;
    return new Figure(shown, scored == estimate ? shown : scored.varied(half, kind), limit);
  }

  /** Whether value and scored value are numbers: only such a figure is a reading. */
  public boolean finite() {
    return Double.isFinite(estimate.value()) && Double.isFinite(scored.value());
  }
}
