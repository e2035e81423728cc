package kettlesieve.core.roundup;

import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.Scoring;

/**
 * What of the versions is looked at.
 *
 * @param what {@link #OVERALL}, the word of a question, or a measure
 * @param role stems: of which role; empty for all together
 */
public record Aspect(String what, String role) {
  /** The overall score. */
  public static final String OVERALL = "overall";

  /** The overall score of all together. */
  public static final Aspect ALL = new Aspect(OVERALL, "");

  /** Whether it is the overall score, which alone has places, odds and ties beyond doubt. */
  public boolean overall() {
    return what.equals(OVERALL);
  }

  /** Whether it is one of the three questions. */
  public boolean question() {
    return !what.equals(Axis.INFO.id()) && ofAxis() != null;
  }

  private Axis ofAxis() {
    for (Axis axis : Axis.values()) {
      if (axis.id().equals(what)) {
        return axis;
      }
    }
    return null;
  }

  /** Whether it is on the scale of scores, 0 to 100. */
  public boolean score() {
    return overall() || question();
  }

  /** Whether there is such a thing in a job. */
  public boolean knownIn(Job job) {
    Declaration d = Measures.declaration(what);
    return score() || d != null && d.jobs().contains(job);
  }

  /** Its name for people. */
  public String title() {
    String own =
        overall() ? "Overall" : question() ? ofAxis().title() : Measures.declaration(what).title();
    return role.isEmpty() ? own : own + ", " + role;
  }

  /** Its unit; empty for scores and bare numbers. */
  public String unit() {
    return score() ? "" : Measures.declaration(what).unit();
  }

  /** The value in some scores; null where there is none. */
  Double of(Scores scores) {
    return overall()
        ? scores.overall()
        : question() ? scores.axes().get(what) : scores.readings().get(what);
  }

  /**
   * 1 where more of it is better, −1 where less is; 0 for what only informs. What is read against
   * the clean recording is better where it is more.
   */
  public int direction(Job job) {
    if (score()) {
      return 1;
    }
    Declaration d = Measures.declaration(what);
    Scale scale = Scoring.shipped().scale(what).orElse(null);
    if (scale != null) {
      Scale own = Scoring.shipped().scale(d, job).orElse(scale);
      return own.full() > own.zero() ? 1 : -1;
    }
    return d.needsReference() ? (d.id().equals("lsd") ? -1 : 1) : 0;
  }
}
