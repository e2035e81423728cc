package kettlesieve.core.score;

import java.nio.file.Path;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.media.MediaFacts;

/**
 * What a sheet is of.
 *
 * @param job what was done to the source
 * @param profile the delivery profile of the scores
 * @param scoring the scales they were made with
 * @param sourceFile the source's file
 * @param source facts of the source's file
 */
public record Heading(
    Job job, Profile profile, Scoring scoring, Path sourceFile, MediaFacts source) {
  /** The same under another profile. */
  public Heading under(Profile other, Scoring scales) {
    return new Heading(job, other, scales, sourceFile, source);
  }
}
