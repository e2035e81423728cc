package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;

/**
 * For each role the leading stem, from whichever tool, beside the best tool alone.
 *
 * @param leaders by role, in the order of the roles
 * @param overall mean of the leaders' scores
 * @param alone the tool whose stems of all these roles have the highest mean; empty if none has all
 */
public record BestSet(Map<String, Leader> leaders, double overall, Optional<Alone> alone) {
  /**
   * The stem that leads.
   *
   * @param version id of the version
   * @param label its label
   * @param score its overall score in the role
   * @param tied labels of those that are not told apart from it
   */
  public record Leader(String version, String label, double score, List<String> tied) {}

  /**
   * A tool by itself.
   *
   * @param version id of the version
   * @param label its label
   * @param overall mean of its scores over the roles
   */
  public record Alone(String version, String label, double overall) {}

  public BestSet {
    leaders = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(leaders));
  }

  /** Of a sheet of stems; empty if fewer than two roles have a score. */
  public static Optional<BestSet> of(ScoreSheet sheet) {
    Set<String> roles = new LinkedHashSet<>();
    sheet.ranks().keySet().stream()
        .filter(p -> p.excerpt().isEmpty() && !p.role().isEmpty())
        .forEach(p -> roles.add(p.role()));
    Map<String, Leader> leaders = new LinkedHashMap<>();
    for (String role : roles) {
      sheet.ranked(Part.ofRole(role)).stream()
          .filter(e -> e.card().overall().isPresent())
          .findFirst()
          .ifPresent(e -> leaders.put(role, leader(e)));
    }
    if (leaders.size() < 2) {
      return Optional.empty();
    }
    double overall = leaders.values().stream().mapToDouble(Leader::score).average().orElseThrow();
    List<Alone> alone = new ArrayList<>();
    for (Entry e : sheet.entries()) {
      List<Double> own =
          leaders.keySet().stream()
              .map(role -> sheet.entry(Part.ofRole(role), e.version().id()))
              .flatMap(Optional::stream)
              .map(x -> x.card().overall())
              .flatMap(Optional::stream)
              .map(Estimate::value)
              .toList();
      if (own.size() == leaders.size()) {
        double mean = own.stream().mapToDouble(x -> x).average().orElseThrow();
        alone.add(new Alone(e.version().id(), e.version().label(), mean));
      }
    }
    return Optional.of(
        new BestSet(
            leaders, overall, alone.stream().max(Comparator.comparingDouble(Alone::overall))));
  }

  private static Leader leader(Entry e) {
    return new Leader(
        e.version().id(),
        e.version().label(),
        e.card().overall().orElseThrow().value(),
        e.tiedWith());
  }

  /** What the set gains over the best tool alone, points; 0 if none has all roles. */
  public double gain() {
    return alone.map(a -> overall - a.overall()).orElse(0.0);
  }
}
