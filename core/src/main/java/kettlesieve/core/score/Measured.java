package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Combined;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;

/**
 * A version with its readings, not yet scored.
 *
 * @param version what it is
 * @param taken the readings of each part that was measured; {@link Part#ALL} is always there
 */
public record Measured(VersionFacts version, Map<Part, Readings> taken) {
  public Measured {
    taken = Collections.unmodifiableMap(new LinkedHashMap<>(taken));
  }

  /** A version of which only the whole was measured. */
  public static Measured of(VersionFacts version, Readings all) {
    return new Measured(version, Map.of(Part.ALL, all));
  }

  /**
   * With the mean over stems weighted. What is read of all stems together only stays as it is.
   *
   * @param weights by role; a stem that is not named counts once, what was formed of stems does not
   *     count; even where all are 0
   */
  public Measured weighted(Map<String, Double> weights) {
    if (version.stems().isEmpty()) {
      return this;
    }
    Map<Part, Readings> all = new LinkedHashMap<>(taken);
    for (Part whole : taken.keySet().stream().filter(p -> p.role().isEmpty()).toList()) {
      List<Readings> stems = new ArrayList<>();
      List<Double> counts = new ArrayList<>();
      for (var part : taken.entrySet()) {
        String role = part.getKey().role();
        double usual = version.stems().containsKey(role) ? 1 : 0;
        double weight = weights.getOrDefault(role, usual);
        if (!role.isEmpty() && part.getKey().excerpt().equals(whole.excerpt()) && weight > 0) {
          stems.add(part.getValue());
          counts.add(weight);
        }
      }
      if (!stems.isEmpty()) {
        all.put(whole, mean(taken.get(whole), Combined.of(stems, counts, "stems")));
      }
    }
    return new Measured(version, all);
  }

  /** The mean of the stems, and what only all of them together have. */
  private Readings mean(Readings before, Readings stems) {
    Set<String> ofStems =
        taken.entrySet().stream()
            .filter(p -> !p.getKey().role().isEmpty())
            .flatMap(p -> p.getValue().readings().stream())
            .map(Reading::measure)
            .collect(Collectors.toSet());
    List<Reading> readings = new ArrayList<>();
    before.readings().stream().filter(r -> !ofStems.contains(r.measure())).forEach(readings::add);
    readings.addAll(stems.readings());
    Set<String> read = readings.stream().map(Reading::measure).collect(Collectors.toSet());
    List<NotMeasured> missing = new ArrayList<>(before.notMeasured());
    stems.notMeasured().stream()
        .filter(n -> missing.stream().noneMatch(m -> m.measure().equals(n.measure())))
        .forEach(missing::add);
    missing.removeIf(n -> read.contains(n.measure()));
    return new Readings(readings, missing);
  }

  /** The readings of a part; none where it was not measured. */
  public Readings of(Part part) {
    return taken.getOrDefault(part, Readings.NOTHING);
  }

  /** The same readings for a version that was renamed or moved, or whose cost was noted since. */
  public Measured as(Version now, Cost cost) {
    return new Measured(version.as(now, cost), taken);
  }
}
