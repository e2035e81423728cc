package kettlesieve.calibrate.trial;

import java.util.List;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.truth.Truth;

/**
 * What the program said of denoisers from too little to far too much, beside what is true.
 *
 * @param scene the scene
 * @param notices what the program told of the source
 * @param sweeps by processor
 */
public record SweepTrial(Scene scene, List<String> notices, List<Sweep> sweeps) {
  /**
   * A processor, from the least to the most.
   *
   * @param processor which
   * @param steps one an amount
   */
  public record Sweep(String processor, List<Step> steps) {}

  /**
   * An amount.
   *
   * @param truth what is true of it
   * @param said what the program says, among the others of its sweep
   */
  public record Step(Truth truth, Verdict said) {}
}
