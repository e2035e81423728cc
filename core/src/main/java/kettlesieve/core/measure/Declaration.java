package kettlesieve.core.measure;

import java.util.Set;
import kettlesieve.core.comparison.Job;

/**
 * What a measure says of itself; sheets, plots, exports and help are drawn from it.
 *
 * @param id stable identifier, as in exports
 * @param title for people, in sentence case
 * @param axis the question it answers
 * @param unit unit of its value; empty for a bare number
 * @param jobs where it applies
 * @param needsReference whether it needs the clean recording
 * @param meaning one or two sentences: what it means and how it sounds
 * @param formula how it is computed, in one sentence
 * @param source paper or standard
 */
public record Declaration(
    String id,
    String title,
    Axis axis,
    String unit,
    Set<Job> jobs,
    boolean needsReference,
    String meaning,
    String formula,
    String source) {
  public Declaration {
    jobs = Set.copyOf(jobs);
  }

  /**
   * The question it answers in a job: some readings are scored in one job and inform in another.
   */
  public Axis axis(Job job) {
    return id.equals("room-tail") && job == Job.DENOISE ? Axis.INFO : axis;
  }
}
