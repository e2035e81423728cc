package kettlesieve.core.ownership;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.ground.CellMask;

/**
 * Whose each time–frequency cell of a mix is. A cell belongs to a role that holds nearly all of its
 * power; most cells of dense music belong to none. Never told by the stems that are judged where
 * anything else is at hand, and always saying by what.
 */
public final class RoleCells {
  /** What tells whose a cell is. */
  public enum By {
    /** The stems the mix was made of. */
    TRUE_STEMS("the true stems"),
    /** What the other tools agree on. */
    OTHERS("what the other tools agree on"),
    /** The stems that are judged: there was nothing else. */
    OWN_STEMS("the tool's own stems, as there is no other to ask");

    private final String words;

    By(String words) {
      this.words = words;
    }

    /** For people. */
    public String words() {
      return words;
    }
  }

  private final By by;
  private final Map<String, CellMask> cells;
  private final Map<String, Map<String, float[]>> content;
  private final int bands;

  RoleCells(
      By by, Map<String, CellMask> cells, Map<String, Map<String, float[]>> content, int bands) {
    this.by = by;
    this.bands = bands;
    this.cells = Collections.unmodifiableMap(new LinkedHashMap<>(cells));
    this.content = content;
  }

  /**
   * Why a role cannot be judged; empty if it can.
   *
   * @param role of a stem
   */
  public Optional<String> problem(String role) {
    if (by == By.OWN_STEMS) {
      return Optional.of(
          "no other tool gives these stems and the true ones are not known: a tool is no judge of"
              + " its own. Add another tool, or true stems");
    }
    return cells.containsKey(role)
        ? Optional.empty()
        : Optional.of("nothing tells what belongs to " + role + ": no other tool gives it");
  }

  /** What told it. */
  public By by() {
    return by;
  }

  /** The roles that own cells. */
  public List<String> owners() {
    return List.copyOf(cells.keySet());
  }

  /** The cells of a role, over all channels together; null if nothing tells of it. */
  public CellMask cells(String role) {
    return cells.get(role);
  }

  /**
   * What a role has of its own in the cells of another, as a share of the mix's power there.
   *
   * @param slot of a tenth of a second, see {@link Ownership#slotFrames}
   * @param band third-octave
   */
  public double content(String owner, String role, int slot, int band) {
    float[] own = content.getOrDefault(owner, Map.of()).get(role);
    return own == null ? 0 : own[slot * bands + band];
  }

  /** The roles that can bleed into one: those that do not hold it themselves. */
  public List<String> offenders(String role) {
    List<String> others = Roles.without(role);
    if (!others.isEmpty()) {
      return others.stream().filter(cells::containsKey).toList();
    }
    List<String> parts = Roles.parts(role);
    List<String> plain =
        owners().stream()
            .filter(o -> !Roles.composite(o) && !parts.contains(o))
            .filter(o -> !o.equals(role))
            .toList();
    String rest = Roles.EVERYTHING_BUT + role;
    return plain.isEmpty() && cells.containsKey(rest) ? List.of(rest) : plain;
  }
}
