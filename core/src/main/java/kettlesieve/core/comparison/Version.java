package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * One processed version of the source: one file, or for stems one file a role.
 *
 * @param id stays the same for as long as the version is in its comparison
 * @param label its name for people, unique in its comparison
 * @param tool what made it; empty if not said
 * @param setting how; empty if not said
 * @param amount the strength, 0 to 100; null if not said
 * @param media its file, perhaps one that was never named; null for a version in stems
 * @param stems its stems by role; empty for a version in one file
 * @param cost what it cost to make
 * @param match what was fixed by hand
 * @param decision what the person decided; null if nothing yet
 * @param verdict the person's words on it; empty if none
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Version(
    String id,
    String label,
    String tool,
    String setting,
    Double amount,
    MediaRef media,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, Stem> stems,
    Cost cost,
    MatchOverride match,
    Decision decision,
    String verdict) {
  public Version {
    stems = withoutNulls(stems);
    if (id == null || label == null) {
      throw new IllegalArgumentException("a version needs an id and a label");
    }
    media = media == null && stems.isEmpty() ? MediaRef.NONE : media;
    tool = tool == null ? "" : tool;
    setting = setting == null ? "" : setting;
    cost = cost == null ? Cost.NONE : cost;
    match = match == null ? MatchOverride.NONE : match;
    verdict = verdict == null ? "" : verdict;
  }

  private static Map<String, Stem> withoutNulls(Map<String, Stem> stems) {
    Map<String, Stem> map = new LinkedHashMap<>(stems == null ? Map.of() : stems);
    map.values().removeIf(Objects::isNull);
    return Collections.unmodifiableMap(map);
  }

  /** A version of which only the file and a label are known. */
  public static Version of(String id, String label, MediaRef media) {
    return new Version(
        id, label, "", "", null, media, Map.of(), null, MatchOverride.NONE, null, "");
  }

  /** A version in stems. */
  public static Version ofStems(String id, String label, Map<String, Stem> stems) {
    return new Version(id, label, "", "", null, null, stems, null, MatchOverride.NONE, null, "");
  }

  /** All its files. */
  @JsonIgnore
  public List<MediaRef> files() {
    return media != null ? List.of(media) : stems.values().stream().map(Stem::media).toList();
  }

  /** The same with another id. */
  public Version withId(String value) {
    return new Version(
        value, label, tool, setting, amount, media, stems, cost, match, decision, verdict);
  }

  /** The same with another label. */
  public Version withLabel(String value) {
    return new Version(
        id, value, tool, setting, amount, media, stems, cost, match, decision, verdict);
  }

  /** The same with another tool. */
  public Version withTool(String value) {
    return new Version(
        id, label, value, setting, amount, media, stems, cost, match, decision, verdict);
  }

  /** The same with another setting. */
  public Version withSetting(String value) {
    return new Version(
        id, label, tool, value, amount, media, stems, cost, match, decision, verdict);
  }

  /** The same with another amount. */
  public Version withAmount(Double value) {
    return new Version(
        id, label, tool, setting, value, media, stems, cost, match, decision, verdict);
  }

  /** With one file in place of whatever it had. */
  public Version withMedia(MediaRef value) {
    return new Version(
        id, label, tool, setting, amount, value, Map.of(), cost, match, decision, verdict);
  }

  /** With stems in place of whatever it had. */
  public Version withStems(Map<String, Stem> value) {
    return new Version(
        id, label, tool, setting, amount, null, value, cost, match, decision, verdict);
  }

  /** With one stem set. */
  public Version withStem(String role, Stem stem) {
    Map<String, Stem> map = new LinkedHashMap<>(stems);
    map.put(role, stem);
    return withStems(map);
  }

  /** The same with another cost. */
  public Version withCost(Cost value) {
    return new Version(
        id, label, tool, setting, amount, media, stems, value, match, decision, verdict);
  }

  /** The same with another match. */
  public Version withMatch(MatchOverride value) {
    return new Version(
        id, label, tool, setting, amount, media, stems, cost, value, decision, verdict);
  }

  /** The same with another verdict. */
  public Version withVerdict(String value) {
    return new Version(
        id, label, tool, setting, amount, media, stems, cost, match, decision, value);
  }

  /** The same with another decision; null takes it back. */
  public Version withDecision(Decision value) {
    return new Version(id, label, tool, setting, amount, media, stems, cost, match, value, verdict);
  }

  /** Decision and words together; empty if there are neither. */
  @JsonIgnore
  public String judgement() {
    return Decision.words(decision, verdict);
  }
}
