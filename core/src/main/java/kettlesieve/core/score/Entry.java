package kettlesieve.core.score;

import java.util.List;
import java.util.Optional;
import kettlesieve.core.measure.Reading;

/**
 * A version in the sheet.
 *
 * @param measured its readings
 * @param card its scores
 * @param rank 1 for the best: one more than the number of versions that are better beyond the
 *     uncertainty; 0 without an overall score
 * @param tiedWith labels of the versions whose difference is within the uncertainty
 */
public record Entry(Measured measured, Card card, int rank, List<String> tiedWith) {

  /** The reading of a measure, if there is one. */
  public Optional<Reading> reading(String measure) {
    return measured.readings().stream().filter(r -> r.measure().equals(measure)).findFirst();
  }

  /** Why a measure has no reading; empty if it has one or does not apply. */
  public Optional<String> reasonNotMeasured(String measure) {
    return measured.notMeasured().stream()
        .filter(n -> n.measure().equals(measure))
        .map(n -> n.reason())
        .findFirst();
  }
}
