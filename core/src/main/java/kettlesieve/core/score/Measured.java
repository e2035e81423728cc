package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Fairness;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.media.MediaFacts;

/**
 * A version with its readings, not yet scored.
 *
 * @param id the version's id in its comparison
 * @param label its name
 * @param file its file; for stems the first of them
 * @param stems files by role; empty for a version in one file
 * @param facts of {@code file}
 * @param match what was corrected
 * @param readings what was measured
 * @param notMeasured what could not be, and why
 * @param places the readings of each excerpt by itself, where several are measured together
 * @param fairness what was unfair about it, and what was done
 * @param cost what it took to make
 */
public record Measured(
    String id,
    String label,
    Path file,
    Map<String, Path> stems,
    MediaFacts facts,
    Match match,
    List<Reading> readings,
    List<NotMeasured> notMeasured,
    List<Place> places,
    List<Fairness.Item> fairness,
    Cost cost) {

  /**
   * What was read at one excerpt.
   *
   * @param name of the excerpt
   */
  public record Place(String name, List<Reading> readings, List<NotMeasured> notMeasured) {}

  /** The same version with the readings of one excerpt only. */
  public Measured at(Place place) {
    return new Measured(
        id,
        label,
        file,
        stems,
        facts,
        match,
        place.readings(),
        place.notMeasured(),
        List.of(),
        fairness,
        cost);
  }

  /** A version in one file of which nothing further is known. */
  public static Measured of(
      String id,
      String label,
      Path file,
      MediaFacts facts,
      Match match,
      List<Reading> readings,
      List<NotMeasured> notMeasured) {
    return new Measured(
        id,
        label,
        file,
        Map.of(),
        facts,
        match,
        readings,
        notMeasured,
        List.of(),
        List.of(),
        Cost.NONE);
  }

  /** The same readings for a version that was renamed or whose cost was noted since. */
  public Measured as(Version version, Cost newCost) {
    List<Fairness.Item> renamed =
        fairness.stream()
            .map(i -> new Fairness.Item(version.label(), i.matter(), i.found(), i.done()))
            .toList();
    return new Measured(
        version.id(),
        version.label(),
        file,
        stems,
        facts,
        match,
        readings,
        notMeasured,
        places,
        renamed,
        newCost);
  }
}
