package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** What versions are brought to the source's level by. */
public enum LevelMode {
  /** The level of the wanted sound; for declip, of the samples that were never clipped. */
  WANTED("Wanted sound"),
  /** Integrated loudness, ITU-R BS.1770-5. */
  LOUDNESS("Loudness"),
  /** The highest sample. */
  PEAK("Peak"),
  /** As delivered. */
  OFF("Off");

  private final String title;

  LevelMode(String title) {
    this.title = title;
  }

  /** The words for people. */
  public String title() {
    return title;
  }

  /** The word in files. */
  @JsonValue
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * The mode of a word.
   *
   * @throws IllegalArgumentException if there is none
   */
  @JsonCreator
  public static LevelMode of(String id) {
    for (LevelMode mode : values()) {
      if (mode.id().equals(id)) {
        return mode;
      }
    }
    throw new IllegalArgumentException("there is no level mode called " + id);
  }
}
