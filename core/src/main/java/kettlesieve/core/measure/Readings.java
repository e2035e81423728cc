package kettlesieve.core.measure;

import java.util.List;
import java.util.Optional;

/**
 * The readings of a part of a version, and what could not be read.
 *
 * @param readings what was measured
 * @param notMeasured what could not be, and why
 */
public record Readings(List<Reading> readings, List<NotMeasured> notMeasured) {
  /** Nothing was asked for. */
  public static final Readings NOTHING = new Readings(List.of(), List.of());

  /** No reading of some measures, all for the same reason. */
  public static Readings none(List<? extends Measure> measures, String reason) {
    return new Readings(
        List.of(),
        measures.stream().map(m -> new NotMeasured(m.declaration().id(), reason)).toList());
  }

  public Readings {
    readings = List.copyOf(readings);
    notMeasured = List.copyOf(notMeasured);
  }

  /** The reading of a measure, if there is one. */
  public Optional<Reading> reading(String measure) {
    return readings.stream().filter(r -> r.measure().equals(measure)).findFirst();
  }

  /** Why a measure has no reading; empty if it has one or does not apply. */
  public Optional<String> reasonNotMeasured(String measure) {
    return notMeasured.stream()
        .filter(n -> n.measure().equals(measure))
        .map(NotMeasured::reason)
        .findFirst();
  }
}
