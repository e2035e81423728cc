package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.measure.Reading;

/** What stands against a version: the readings that its overall score loses most by. */
public final class Costliest {
  private Costliest() {}

  /**
   * The reading that costs most and names a place; else the one that costs most. Empty if none
   * costs anything.
   *
   * @param profile whose weights of the three questions count
   */
  public static Optional<Reading> of(Entry entry, Profile profile) {
    List<Card.Part> parts = new ArrayList<>();
    entry
        .card()
        .axes()
        .forEach(
            (axis, score) -> {
              double lost = profile.shortfall(axis.id(), score.value());
              double weight = profile.weight(axis.id());
              for (Card.Part p : entry.card().parts().get(axis)) {
                double cost = p.share() * WorstFirst.cost(lost, weight);
                parts.add(new Card.Part(p.measure(), p.score(), p.weight(), cost));
              }
            });
    parts.sort(Comparator.comparingDouble(p -> -p.share()));
    List<Reading> readings =
        parts.stream()
            .filter(p -> p.share() > 0)
            .flatMap(p -> entry.reading(p.measure()).stream())
            .toList();
    return readings.stream()
        .filter(r -> !r.spots().isEmpty())
        .findFirst()
        .or(() -> readings.stream().findFirst());
  }
}
