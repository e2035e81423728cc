package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.ToDoubleFunction;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;

/**
 * For each role the leading stem, from whichever tool; and of the roles that one tool divides the
 * mix into, the set of leaders beside the best tool alone.
 *
 * @param leaders by role, of all roles that have a score
 * @param roles those of the set
 * @param overall mean of the set's scores, roles weighted
 * @param alone the tool whose stems of all these roles have the highest mean; empty if none has all
 * @param nulls what sets of stems leave of the mix, as far as that was worked out
 */
public record BestSet(
    Map<String, Leader> leaders,
    List<String> roles,
    double overall,
    Optional<Alone> alone,
    List<SetNull> nulls) {
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
    roles = List.copyOf(roles);
    nulls = List.copyOf(nulls);
  }

  /** Of a sheet of stems; empty if fewer than two roles that go together have a score. */
  public static Optional<BestSet> of(ScoreSheet sheet) {
    Map<String, Leader> leaders = new LinkedHashMap<>();
    for (String role : scoredRoles(sheet)) {
      leaders.put(role, leader(sheet.ranked(Part.ofRole(role)).get(0)));
    }
    List<String> roles = roles(sheet, leaders);
    if (roles.size() < 2) {
      return Optional.empty();
    }
    double overall = mean(sheet, roles, role -> leaders.get(role).score());
    List<Alone> alone = new ArrayList<>();
    for (Entry e : sheet.entries()) {
      if (scored(sheet, e.version().id()).containsAll(roles)) {
        double mean = mean(sheet, roles, r -> score(sheet, r, e.version().id()).orElseThrow());
        alone.add(new Alone(e.version().id(), e.version().label(), mean));
      }
    }
    return Optional.of(
        new BestSet(
            leaders,
            roles,
            overall,
            alone.stream().max(Comparator.comparingDouble(Alone::overall)),
            sheet.nulls()));
  }

  /** Those of which any version has a score: plain roles first. */
  private static List<String> scoredRoles(ScoreSheet sheet) {
    List<String> there =
        sheet.ranks().keySet().stream()
            .filter(p -> p.excerpt().isEmpty() && !p.role().isEmpty())
            .map(Part::role)
            .filter(r -> sheet.entries(Part.ofRole(r)).stream().anyMatch(Entry::scored))
            .toList();
    return Roles.sorted(there).stream().sorted(Comparator.comparing(Roles::composite)).toList();
  }

  /**
   * Roles of which a mix is made without overlap: what one tool gives, all of it scored; of several
   * such divisions that of most tools, then the finest, then the best.
   */
  private static List<String> roles(ScoreSheet sheet, Map<String, Leader> leaders) {
    List<String> best = List.of();
    double[] most = new double[3];
    for (Entry e : sheet.entries()) {
      Set<String> own = given(sheet, e);
      List<String> division = leaders.keySet().stream().filter(own::contains).toList();
      if (division.size() < 2 || division.size() < own.size()) {
        // Something of it has no score: without it the rest is no whole.
        continue;
      }
      long tools = sheet.entries().stream().filter(t -> given(sheet, t).containsAll(own)).count();
      double[] merit = {tools, division.size(), mean(sheet, division, r -> leaders.get(r).score())};
      if (Arrays.compare(merit, most) > 0) {
        most = merit;
        best = division;
      }
    }
    return best;
  }

  /** What a tool divides the mix into. */
  private static Set<String> given(ScoreSheet sheet, Entry e) {
    Set<String> stems = e.version().stems().keySet();
    return stems.isEmpty() ? scored(sheet, e.version().id()) : stems;
  }

  private static Set<String> scored(ScoreSheet sheet, String version) {
    Set<String> roles = new LinkedHashSet<>();
    for (Part part : sheet.ranks().keySet()) {
      boolean role = part.excerpt().isEmpty() && !part.role().isEmpty();
      if (role && score(sheet, part.role(), version).isPresent()) {
        roles.add(part.role());
      }
    }
    return roles;
  }

  private static Optional<Double> score(ScoreSheet sheet, String role, String version) {
    return sheet
        .entry(Part.ofRole(role), version)
        .flatMap(e -> e.card().overall())
        .map(Estimate::value);
  }

  private static double mean(ScoreSheet sheet, List<String> roles, ToDoubleFunction<String> score) {
    Map<String, Double> weights = sheet.heading().roleWeights();
    double sum = 0;
    double all = 0;
    for (String role : roles) {
      double weight = weights.getOrDefault(role, 1.0);
      sum += weight * score.applyAsDouble(role);
      all += weight;
    }
    return all > 0 ? sum / all : roles.stream().mapToDouble(score).average().orElseThrow();
  }

  private static Leader leader(Entry e) {
    return new Leader(
        e.version().id(),
        e.version().label(),
        e.card().overall().orElseThrow().value(),
        e.tiedWith());
  }

  /** Id of the version that each role of the set is taken from. */
  public Map<String, String> stems() {
    Map<String, String> stems = new LinkedHashMap<>();
    roles.forEach(r -> stems.put(r, leaders.get(r).version()));
    return stems;
  }

  /** What the set leaves of the mix, dB; empty if that was not worked out. */
  public OptionalDouble nullDb() {
    return nulls.stream()
        .filter(n -> n.stems().equals(stems()))
        .mapToDouble(SetNull::db)
        .findFirst();
  }

  /** What the set gains over the best tool alone, points; 0 if none has all roles. */
  public double gain() {
    return alone.map(a -> overall - a.overall()).orElse(0.0);
  }
}
