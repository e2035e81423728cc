package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;

/**
 * How far the weight of one question would have to move for the next version to pass one: the
 * weighted squares of two versions' shortfalls are equal there. Of the three questions that which
 * has to move least, as a factor.
 *
 * @param version id of the version that is ahead
 * @param next label of the one that follows
 * @param axis the question; empty if no single weight changes the order
 * @param weight as it is
 * @param needed at which the two are equal
 */
public record WhatIf(
    String version, String next, Optional<Axis> axis, double weight, double needed) {
  private static final List<Axis> AXES = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);

  /** More than this many times a weight is no weight that anybody would give. */
  private static final double MOST = 10;

  /**
   * For the first versions of the ranking that another follows.
   *
   * @param most how many
   */
  public static List<WhatIf> of(ScoreSheet sheet, int most) {
    List<Entry> ranked = sheet.contenders(Part.ALL);
    List<WhatIf> all = new ArrayList<>();
    for (int i = 0; i + 1 < ranked.size() && i < most; i++) {
      all.add(between(ranked.get(i), ranked.get(i + 1), sheet.profile()));
    }
    return all;
  }

  private static WhatIf between(Entry ahead, Entry next, Profile profile) {
    double lead = 0;
    double[] differences = new double[AXES.size()];
    for (int a = 0; a < differences.length; a++) {
      Axis axis = AXES.get(a);
      Estimate own = ahead.card().axes().get(axis);
      Estimate other = next.card().axes().get(axis);
      if (own != null && other != null) {
        differences[a] =
            WorstFirst.cost(profile.shortfall(axis.id(), other.value()), 1)
                - WorstFirst.cost(profile.shortfall(axis.id(), own.value()), 1);
        lead += profile.weight(axis.id()) * differences[a];
      }
    }
    // What lacks an answer stays behind whatever weighs more.
    boolean alike = ahead.card().axes().keySet().equals(next.card().axes().keySet());
    Optional<Axis> found = Optional.empty();
    double weight = 0;
    double needed = 0;
    double least = MOST;
    for (int a = 0; alike && a < differences.length; a++) {
      double now = profile.weight(AXES.get(a).id());
      double then = differences[a] == 0 ? Double.NaN : now - lead / differences[a];
      double factor = now > 0 && then > 0 ? Math.max(then / now, now / then) : Double.NaN;
      if (factor < least) {
        least = factor;
        found = Optional.of(AXES.get(a));
        weight = now;
        needed = then;
      }
    }
    return new WhatIf(ahead.version().id(), next.version().label(), found, weight, needed);
  }

  /** For people. */
  public String words() {
    return axis.map(
            a ->
                String.format(
                    Locale.ROOT,
                    "“%s” would pass it if %s weighed %.2g instead of %.2g.",
                    next,
                    a.title(),
                    needed,
                    weight))
        .orElse("No weight of a single question would let “" + next + "” pass it.");
  }
}
