package kettlesieve.core.measure;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.comparison.Job;

/** The three questions, and what only informs. */
public enum Axis {
  /** What should have been dealt with. */
  MISSED("Missed", "What should have been dealt with, and was not?"),
  /** What was never in the source. */
  ADDED("Added", "What is there that was never in the source?"),
  /** What was wanted. */
  LOST("Lost", "What was wanted, and is gone?"),
  /** What is only shown. */
  INFO("For information", "Shown, but not part of the score.");

  private final String title;
  private final String question;
  private final String id;

  Axis(String title, String question) {
    this.title = title;
    this.question = question;
    this.id = name().toLowerCase(Locale.ROOT);
  }

  /** This question in some jobs, as a measure declares it. */
  public Map<Job, Axis> in(Job... jobs) {
    Map<Job, Axis> uses = new EnumMap<>(Job.class);
    for (Job job : jobs) {
      uses.put(job, this);
    }
    return uses;
  }

  /** The word for people. */
  public String title() {
    return title;
  }

  /** The question itself. */
  public String question() {
    return question;
  }

  /** The word in files. */
  @JsonValue
  public String id() {
    return id;
  }
}
