package kettlesieve.core.match;

import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.Version;

/**
 * What matching needs to know of a comparison.
 *
 * @param job what was done to the source
 * @param level what levels are matched on
 * @param ratio stretch: the length asked for over the source's; null if not said
 * @param semitones pitch: the shift asked for; null if not said
 */
public record MatchSettings(Job job, LevelMode level, Double ratio, Double semitones) {
  /** Denoise, levels matched on the wanted sound. */
  public static final MatchSettings USUAL =
      new MatchSettings(Job.DENOISE, LevelMode.WANTED, null, null);

  /** Those of a comparison. */
  public static MatchSettings of(Comparison c) {
    return new MatchSettings(c.job(), c.level(), c.ratio(), c.semitones());
  }

  /** Those of one of its versions, of which something else may have been asked. */
  public MatchSettings of(Version version) {
    return new MatchSettings(
        job,
        level,
        version.ratio() != null ? version.ratio() : ratio,
        version.semitones() != null ? version.semitones() : semitones);
  }

  /** Whether versions run on a time of their own. */
  public boolean ownTime() {
    return job.ownTime();
  }

  /** The frequency ratio asked for; 1 where pitch is to stay. */
  public double pitchRatio() {
    return job == Job.PITCH && semitones != null ? Math.pow(2, semitones / 12) : 1;
  }
}
