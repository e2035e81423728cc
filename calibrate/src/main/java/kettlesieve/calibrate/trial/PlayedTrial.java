package kettlesieve.calibrate.trial;

import java.util.List;
import kettlesieve.calibrate.corpus.ScoreScene;
import kettlesieve.calibrate.truth.PlayedTruth;

/**
 * What the program said of stretched or shifted versions of something that was also played at that
 * tempo or pitch.
 *
 * @param scene what was played
 * @param versions each of them
 */
public record PlayedTrial(ScoreScene scene, List<Judged> versions) {
  /** The way of a version that was played, not made. */
  public static final String TRUE = "true";

  /**
   * A version.
   *
   * @param way what made it
   * @param amount the ratio, or the semitones
   * @param truth how far it is from what was played
   * @param said what the program says
   */
  public record Judged(String way, double amount, PlayedTruth truth, Verdict said) {}
}
