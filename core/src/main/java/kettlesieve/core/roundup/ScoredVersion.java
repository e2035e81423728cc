package kettlesieve.core.roundup;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.StretchTarget;

/**
 * A version in a round-up.
 *
 * @param label its name in its comparison
 * @param tool what made it; empty if not said
 * @param setting how; empty if not said
 * @param amount the strength; null if not said
 * @param choice whether a person could choose it: neither the source itself nor brought back
 * @param all of all that was measured together
 * @param roles stems: of each role
 * @param cost what it took to make
 */
public record ScoredVersion(
    String label,
    String tool,
    String setting,
    Double amount,
    boolean choice,
    Scores all,
    Map<String, Scores> roles,
    Cost cost) {
  public ScoredVersion {
    roles = Collections.unmodifiableMap(new LinkedHashMap<>(roles));
  }

  /** Its scores in a role, or of all together for an empty one. */
  public Scores scores(String role) {
    return role.isEmpty() ? all : roles.getOrDefault(role, Scores.NONE);
  }

  /** What it is known by among many comparisons: tool, setting and amount, else its label. */
  public String asVersion() {
    if (tool.isEmpty()) {
      return label;
    }
    return tool
        + (setting.isEmpty() ? "" : " " + setting)
        + (amount == null ? "" : " " + StretchTarget.figure(amount));
  }

  /** The tool, else the label. */
  public String asTool() {
    return tool.isEmpty() ? label : tool;
  }
}
