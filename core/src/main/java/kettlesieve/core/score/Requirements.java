package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Reading;

/** Whether versions keep to the hard limits of a delivery profile. */
public final class Requirements {
  private Requirements() {}

  /**
   * What became of one limit.
   *
   * @param requirement the limit
   * @param value what was measured; empty if it could not be
   * @param bound whether that value is only an edge of what can be measured
   * @param meets whether it is kept to; empty if that cannot be told, as of a floor that may lie on
   *     either side of the limit
   */
  public record Outcome(
      Requirement requirement, Optional<Double> value, Limit bound, Optional<Boolean> meets) {
    /** By how much it fails, in the reading's unit; 0 if it does not. */
    public double by() {
      return meets.orElse(true) ? 0 : Math.abs(value.orElseThrow() - requirement.limit());
    }
  }

  /** All limits of a profile, in its order. */
  public static List<Outcome> of(Entry entry, Profile profile) {
    List<Outcome> outcomes = new ArrayList<>();
    for (Requirement r : profile.requirements()) {
      Optional<Double> value = value(entry, r);
      Limit bound = bound(entry, r);
      // Where the truth lies anywhere on one side, only what holds on all of that side is told.
      double end =
          switch (bound) {
            case NONE -> Double.NaN;
            case AT_OR_BELOW -> Double.NEGATIVE_INFINITY;
            case AT_OR_ABOVE -> Double.POSITIVE_INFINITY;
          };
      Optional<Boolean> meets =
          value.map(r::metBy).filter(m -> Double.isNaN(end) || m == r.metBy(end));
      outcomes.add(new Outcome(r, value, bound, meets));
    }
    return outcomes;
  }

  private static Optional<Double> value(Entry entry, Requirement r) {
    Optional<Reading> reading = entry.reading(r.reading());
    if (r.detail().isEmpty()) {
      return reading.map(Reading::value).filter(Double::isFinite);
    }
    return reading.flatMap(
        x ->
            x.details().stream()
                .filter(d -> d.key().equals(r.detail()))
                .map(Detail::value)
                .filter(Double::isFinite)
                .findFirst());
  }

  private static Limit bound(Entry entry, Requirement r) {
    return entry
        .reading(r.reading())
        .map(x -> r.detail().isEmpty() ? x.limit() : x.limit(r.detail()))
        .orElse(Limit.NONE);
  }

  /** In a word: all kept to, some not, or not all can be told; empty where nothing is asked. */
  public static Optional<String> word(List<Outcome> outcomes) {
    if (outcomes.isEmpty()) {
      return Optional.empty();
    }
    long failed = outcomes.stream().filter(o -> !o.meets().orElse(true)).count();
    if (failed > 0) {
      return Optional.of(failed == 1 ? "1 limit not kept" : failed + " limits not kept");
    }
    boolean told = outcomes.stream().allMatch(o -> o.meets().isPresent());
    return Optional.of(told ? "limits kept" : "not all limits can be told");
  }
}
