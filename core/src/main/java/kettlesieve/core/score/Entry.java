package kettlesieve.core.score;

import java.util.List;
import java.util.Optional;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;

/**
 * A row of the sheet: one part of one version.
 *
 * @param version what it is
 * @param part what of it
 * @param taken its readings
 * @param ranked its scores and its place
 */
public record Entry(VersionFacts version, Part part, Readings taken, Ranked ranked) {
  /** The reading of a measure, if there is one. */
  public Optional<Reading> reading(String measure) {
    return taken.reading(measure);
  }

  /** Why a measure has no reading; empty if it has one or does not apply. */
  public Optional<String> reasonNotMeasured(String measure) {
    return taken.reasonNotMeasured(measure);
  }

  /** Whether it has an overall score. */
  public boolean scored() {
    return card().overall().isPresent();
  }

  /** Its scores. */
  public Card card() {
    return ranked.card();
  }

  /** The best place that the uncertainty allows; 0 without an overall score. */
  public int rank() {
    return ranked.rank();
  }

  /** The worst place that the uncertainty allows. */
  public int rankTo() {
    return ranked.rankTo();
  }

  /** Labels of the versions whose difference is within the uncertainty. */
  public List<String> tiedWith() {
    return ranked.tiedWith();
  }
}
