package kettlesieve.calibrate.trial;

import java.util.List;
import kettlesieve.calibrate.corpus.BandScene;

/**
 * What the program said of stretched or shifted versions, made in known ways.
 *
 * @param scene where the material is from
 * @param versions each of them
 */
public record StretchTrial(BandScene scene, List<Judged> versions) {
  /**
   * A version.
   *
   * @param material what was stretched: drums, vocals or other
   * @param way how
   * @param amount the ratio, or the semitones
   * @param said what the program says
   */
  public record Judged(String material, String way, double amount, Verdict said) {}
}
