package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** What a person decided about a version: taste and judgement, kept apart from the figures. */
public enum Decision {
  /** It goes out. */
  USE("Use"),
  /** It goes out where nothing speaks against it. */
  CARE("Use with care"),
  /** It does not go out. */
  NO("Do not use"),
  /** It was looked at, and nothing is decided. */
  UNDECIDED("Undecided");

  private final String title;

  Decision(String title) {
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

  /** The words of a decision and a person's own after them; empty if there are neither. */
  public static String words(Decision decision, String own) {
    if (decision == null) {
      return own;
    }
    return own.isEmpty() ? decision.title : decision.title + ": " + own;
  }
}
