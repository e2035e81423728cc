package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import io.soabase.recordbuilder.core.RecordBuilder;
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
 * @param ratio stretch: the length asked of this one over the source's; null for what the
 *     comparison asks
 * @param semitones pitch: the shift asked of this one; null for what the comparison asks
 * @param back stretch and pitch: it was brought back again, and ought to be the source
 */
@RecordBuilder
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
    String verdict,
    Double ratio,
    Double semitones,
    @JsonInclude(JsonInclude.Include.NON_DEFAULT) boolean back)
    implements VersionBuilder.With {
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
    if (ratio != null && !(ratio >= 0.1 && ratio <= 10)) {
      throw new IllegalArgumentException("a length ratio lies between 0.1 and 10");
    }
    if (semitones != null && !(Math.abs(semitones) <= 36)) {
      throw new IllegalArgumentException("a shift is at most 36 semitones");
    }
  }

  private static Map<String, Stem> withoutNulls(Map<String, Stem> stems) {
    Map<String, Stem> map = new LinkedHashMap<>(stems == null ? Map.of() : stems);
    map.values().removeIf(Objects::isNull);
    return Collections.unmodifiableMap(map);
  }

  /** A version of which only the file and a label are known. */
  public static Version of(String id, String label, MediaRef media) {
    return VersionBuilder.builder().id(id).label(label).media(media).build();
  }

  /** A version in stems. */
  public static Version ofStems(String id, String label, Map<String, Stem> stems) {
    return VersionBuilder.builder().id(id).label(label).stems(stems).build();
  }

  /** All its files. */
  @JsonIgnore
  public List<MediaRef> files() {
    return media != null ? List.of(media) : stems.values().stream().map(Stem::media).toList();
  }

  /** Another version made in the same way, from another file. */
  public Version as(String otherId, String otherLabel, MediaRef file) {
    return VersionBuilder.builder(this)
        .id(otherId)
        .label(otherLabel)
        .media(file)
        .stems(Map.of())
        .build();
  }

  /** With one file in place of whatever it had. */
  @Override
  public Version withMedia(MediaRef value) {
    return VersionBuilder.builder(this).media(value).stems(Map.of()).build();
  }

  /** With stems in place of whatever it had. */
  @Override
  public Version withStems(Map<String, Stem> value) {
    return VersionBuilder.builder(this).media(null).stems(value).build();
  }

  /** With one stem set. */
  public Version withStem(String role, Stem stem) {
    Map<String, Stem> map = new LinkedHashMap<>(stems);
    map.put(role, stem);
    return withStems(map);
  }

  /** Decision and words together; empty if there are neither. */
  @JsonIgnore
  public String judgement() {
    return Decision.words(decision, verdict);
  }
}
