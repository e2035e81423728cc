package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonAnyGetter;
import com.fasterxml.jackson.annotation.JsonAnySetter;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.Map;

/**
 * One processed version of the source.
 *
 * @param id stays the same for as long as the version is in its comparison
 * @param label its name for people, unique in its comparison
 * @param tool what made it; empty if not said
 * @param setting how; empty if not said
 * @param amount the strength, 0 to 100; null if not said
 * @param media its file
 * @param match what was fixed by hand
 * @param verdict the person's judgement; empty if none
 * @param extra fields that this version of the program does not know
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Version(
    String id,
    String label,
    String tool,
    String setting,
    Double amount,
    MediaRef media,
    MatchOverride match,
    String verdict,
    @JsonAnySetter @JsonAnyGetter Map<String, Object> extra) {
  public Version {
    if (id == null || label == null || media == null) {
      throw new IllegalArgumentException("a version needs an id, a label and a file");
    }
    tool = tool == null ? "" : tool;
    setting = setting == null ? "" : setting;
    match = match == null ? MatchOverride.NONE : match;
    verdict = verdict == null ? "" : verdict;
    extra = extra == null ? Map.of() : Map.copyOf(extra);
  }

  /** A version of which only the file and a label are known. */
  public static Version of(String id, String label, MediaRef media) {
    return new Version(id, label, "", "", null, media, MatchOverride.NONE, "", Map.of());
  }

  public Version withLabel(String value) {
    return new Version(id, value, tool, setting, amount, media, match, verdict, extra);
  }

  public Version withTool(String value) {
    return new Version(id, label, value, setting, amount, media, match, verdict, extra);
  }

  public Version withSetting(String value) {
    return new Version(id, label, tool, value, amount, media, match, verdict, extra);
  }

  public Version withAmount(Double value) {
    return new Version(id, label, tool, setting, value, media, match, verdict, extra);
  }

  public Version withMedia(MediaRef value) {
    return new Version(id, label, tool, setting, amount, value, match, verdict, extra);
  }

  public Version withMatch(MatchOverride value) {
    return new Version(id, label, tool, setting, amount, media, value, verdict, extra);
  }

  public Version withVerdict(String value) {
    return new Version(id, label, tool, setting, amount, media, match, value, extra);
  }
}
