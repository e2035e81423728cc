package kettlesieve.core.score;

import java.nio.file.Path;
import java.util.Map;
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
 * @param roleWeights stems: how much a role counts in the mean over roles, where that is not 1
 */
public record Heading(
    Job job,
    Profile profile,
    Scoring scoring,
    Path sourceFile,
    MediaFacts source,
    Map<String, Double> roleWeights) {
  public Heading {
    roleWeights = Map.copyOf(roleWeights);
  }

  /** All roles alike. */
  public Heading(Job job, Profile profile, Scoring scoring, Path sourceFile, MediaFacts source) {
    this(job, profile, scoring, sourceFile, source, Map.of());
  }

  /** The same with roles weighted otherwise. */
  Heading weighting(Map<String, Double> weights) {
    return new Heading(job, profile, scoring, sourceFile, source, weights);
  }

  /** The same under another profile. */
  public Heading under(Profile other, Scoring scales) {
    return new Heading(job, other, scales, sourceFile, source, roleWeights);
  }
}
