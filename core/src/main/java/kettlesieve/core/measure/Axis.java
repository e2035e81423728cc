package kettlesieve.core.measure;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** The three questions, and what only informs. */
public enum Axis {
  MISSED("Missed", "What should have been dealt with, and was not?"),
  ADDED("Added", "What is there that was never in the source?"),
  LOST("Lost", "What was wanted, and is gone?"),
  INFO("For information", "Shown, but not part of the score.");

  private final String title;
  private final String question;

  Axis(String title, String question) {
    this.title = title;
    this.question = question;
  }

  public String title() {
    return title;
  }

  public String question() {
    return question;
  }

  /** The word in files. */
  @JsonValue
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
