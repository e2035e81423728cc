package kettlesieve.core.measure.reference;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.StemSet;

/**
 * What the separation evaluation says of a stem against the true ones, in the images form for
 * stereo, where mono has the sources form; but for the stem's level, which is told by itself: a
 * stem that is only quieter has lost nothing.
 *
 * @param target energy of the true stem at the stem's level
 * @param filtering energy of what filtering it explains beyond that
 * @param interference energy of what the other true stems explain beyond both
 * @param artifacts energy of what nothing explains
 * @param levelDb of the stem against the true one
 * @param sdr target to all three, dB
 * @param isr target to filtering, dB
 * @param sir to interference, dB
 * @param sar of what true stems explain to artifacts, dB
 * @param leaked energy of what each other true stem has in it, by role
 */
public record StemTruth(
    double target,
    double filtering,
    double interference,
    double artifacts,
    double levelDb,
    Estimate sdr,
    Estimate isr,
    Estimate sir,
    Estimate sar,
    Map<String, Double> leaked) {
  public StemTruth {
    leaked = Collections.unmodifiableMap(new LinkedHashMap<>(leaked));
  }

  /** Whether a role's true stem is known. */
  public static boolean knows(StemSet set, String role) {
    return set.together().truth().size() >= 2 && set.together().truth().containsKey(role);
  }

  /**
   * Of the stem of a role.
   *
   * @throws NotMeasurableException if its true stem is not known, or silent, or the true stems are
   *     too many or too much alike
   */
  public static StemTruth of(StemSet set, String role) throws NotMeasurableException {
    StemSeparation told = StemSeparation.of(set);
    SeparationSums sums = told.sums(BssEval.Form.IMAGES, role);
    double[] all = sums.energies();
    return new StemTruth(
        wanted(all),
        filtering(all),
        all[3],
        all[5],
        10 * Math.log10(Math.max(1e-12, wanted(all) / all[0])),
        sums.estimate(s -> ratio(wanted(s), filtering(s) + s[3] + s[5])),
        sums.estimate(s -> ratio(wanted(s), filtering(s))),
        sums.estimate(SeparationSums.Kind.SIR),
        sums.estimate(SeparationSums.Kind.SAR),
        told.energies(BssEval.Form.IMAGES, role));
  }

  private static double wanted(double[] sums) {
    // Upside down it is no stem of that role.
    double along = Math.max(0, sums[7]);
    return sums[0] > 0 ? along * along / sums[0] : 0;
  }

  private static double filtering(double[] sums) {
    return Math.max(0, sums[2] - wanted(sums));
  }

  private static double ratio(double of, double to) {
    double ratio = SeparationSums.ratioDb(of, to);
    return Double.isNaN(ratio) ? -100 : ratio;
  }
}
