package kettlesieve.core.measure;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.comparison.Job;

/**
 * What a measure says of itself; sheets, plots, exports and help are drawn from it.
 *
 * @param id stable identifier, as in exports
 * @param title for people, in sentence case
 * @param uses the question it answers, by job: some readings are scored in one job and inform in
 *     another; a job that is missing has no such reading
 * @param unit unit of its value; empty for a bare number
 * @param needsReference whether it needs the clean recording
 * @param meaning one or two sentences: what it means and how it sounds
 * @param formula how it is computed, in one sentence
 * @param source paper or standard
 */
public record Declaration(
    String id,
    String title,
    Map<Job, Axis> uses,
    String unit,
    boolean needsReference,
    String meaning,
    String formula,
    String source) {
  public Declaration {
    uses = Map.copyOf(uses);
  }

  /** The jobs in which the reading is taken. */
  public Set<Job> jobs() {
    return uses.keySet();
  }

  /** The question it answers in a job; what only informs where the job has no such reading. */
  public Axis axis(Job job) {
    return uses.getOrDefault(job, Axis.INFO);
  }
}
