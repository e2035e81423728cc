package kettlesieve.calibrate.trial;

import java.util.List;
import kettlesieve.calibrate.corpus.BandScene;
import kettlesieve.calibrate.truth.StemTruth;

/**
 * What the program said of separated stems, beside what is true.
 *
 * @param scene the scene
 * @param stems every stem of every separator, told by what the others agree on
 * @param leaks true stems with known leakage, told by the true stems
 */
public record StemTrial(BandScene scene, List<Judged> stems, List<Leak> leaks) {
  /**
   * A stem.
   *
   * @param maker id of the separator
   * @param role what it is
   * @param truth what is true of it
   * @param said what the program says
   */
  public record Judged(String maker, String role, StemTruth truth, Verdict said) {}

  /**
   * A stem with known leakage.
   *
   * @param db level of each other role in it; negative infinity for none
   * @param role what it is
   * @param bleed what the program says, dB
   * @param floor under which it says nothing, dB
   * @param said scores and readings
   */
  public record Leak(double db, String role, double bleed, double floor, Verdict said) {}
}
