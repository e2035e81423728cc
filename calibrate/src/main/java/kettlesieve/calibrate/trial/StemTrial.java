package kettlesieve.calibrate.trial;

import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.truth.StemTruth;

/**
 * What the program said of separated stems, beside what is true.
 *
 * @param id the scene
 * @param half where it belongs
 * @param judged every stem of every tool in every set
 * @param pairs of stems of one role in one set
 * @param leaks true stems with known leakage, among other tools
 */
public record StemTrial(
    String id, Half half, List<Judged> judged, List<Pair> pairs, List<Leak> leaks) {
  /**
   * A stem.
   *
   * @param set what sort of set of tools
   * @param group which set: those of one group and role stand beside each other
   * @param tool its tool
   * @param kind what sort of tool that is
   * @param role what it is
   * @param truth what is true of it
   * @param offender what bleeds most into it, as the program says; empty for nothing
   * @param said what the program says
   */
  public record Judged(
      String set,
      int group,
      String tool,
      String kind,
      String role,
      StemTruth truth,
      String offender,
      Verdict said) {}

  /**
   * Two stems of one role.
   *
   * @param clear whether true SDRs differ by over 1 dB and SI-SDR agrees
   * @param better whether the first is better, in truth
   * @param points overall score of the first less that of the other; NaN without one
   * @param sure 1 where the first is surely better as the program says, −1 worse, 0 undecided
   */
  public record Pair(
      String set,
      String role,
      String one,
      String other,
      boolean clear,
      boolean better,
      double points,
      int sure) {}

  /**
   * A true stem with known leakage of each other role.
   *
   * @param db level of each other role in it
   * @param by by offender, what the program says, dB
   */
  public record Leak(boolean byTruth, double db, String role, Map<String, Double> by) {}
}
