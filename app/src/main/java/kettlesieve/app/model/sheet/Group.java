package kettlesieve.app.model.sheet;

import java.util.Locale;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;

/**
 * What stands together in the sheet: the three questions, what informs, and the clean recording.
 */
public enum Group {
  MISSED(Axis.MISSED),
  ADDED(Axis.ADDED),
  LOST(Axis.LOST),
  INFO(Axis.INFO),
  /** Readings against the clean recording, with an order of their own. */
  AGAINST(Axis.INFO);

  private final Axis axis;

  Group(Axis axis) {
    this.axis = axis;
  }

  /** Where a measure stands. */
  static Group of(Declaration declaration, Job job) {
    return declaration.needsReference() ? AGAINST : valueOf(declaration.axis(job).name());
  }

  /** The question, and its colour. */
  public Axis axis() {
    return axis;
  }

  /** Whether its first column is a score of the question. */
  public boolean scored() {
    return axis != Axis.INFO;
  }

  /** The word for people. */
  public String title() {
    return this == AGAINST ? "Against the clean recording" : axis.title();
  }

  /** What it asks. */
  public String question() {
    return this == AGAINST
        ? "How near does it come to the clean recording? Not part of the score."
        : axis.question();
  }

  /** The word in files and names. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
