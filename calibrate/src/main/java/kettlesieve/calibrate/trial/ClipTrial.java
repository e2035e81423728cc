package kettlesieve.calibrate.trial;

import java.util.List;
import java.util.Optional;
import kettlesieve.calibrate.corpus.ClipScene;
import kettlesieve.calibrate.makers.Maker;

/**
 * What the program said of a clipped scene, beside what is true.
 *
 * @param scene the scene
 * @param versions its versions
 */
public record ClipTrial(ClipScene scene, List<Judged> versions) {
  /**
   * A version.
   *
   * @param maker its maker's id
   * @param kind its maker's kind
   * @param deltaSdr true gain of the signal-to-distortion ratio on the clipped samples, dB
   * @param deltaSdrOverall the same on all samples, as {@code est-delta-sdr} counts them
   * @param confidenceDb how well the estimates of the original agree; NaN if none was made
   * @param said what the program says
   */
  public record Judged(
      String maker,
      Maker.Kind kind,
      double deltaSdr,
      double deltaSdrOverall,
      double confidenceDb,
      Verdict said) {}

  /** The version of a maker. */
  public Optional<Judged> version(String maker) {
    return versions.stream().filter(v -> v.maker().equals(maker)).findFirst();
  }
}
