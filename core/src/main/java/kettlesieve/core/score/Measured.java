package kettlesieve.core.score;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Taken;

/**
 * A version with its readings, not yet scored.
 *
 * @param version what it is
 * @param taken the readings of each part that was measured; {@link Part#ALL} is always there
 */
public record Measured(VersionFacts version, Map<Part, Taken> taken) {
  public Measured {
    taken = Collections.unmodifiableMap(new LinkedHashMap<>(taken));
  }

  /** A version of which only the whole was measured. */
  public static Measured of(VersionFacts version, Taken all) {
    return new Measured(version, Map.of(Part.ALL, all));
  }

  /** The readings of a part; none where it was not measured. */
  public Taken of(Part part) {
    return taken.getOrDefault(part, Taken.NOTHING);
  }

  /** The same readings for a version that was renamed or moved, or whose cost was noted since. */
  public Measured as(Version now, Cost cost) {
    return new Measured(version.as(now, cost), taken);
  }
}
