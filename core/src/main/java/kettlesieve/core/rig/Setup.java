package kettlesieve.core.rig;

import kettlesieve.core.comparison.Comparison;

/**
 * How a tool is to process.
 *
 * @param amount strength from 0 (nothing changes) to 100
 * @param ratio stretch: the length asked for over the source's
 * @param semitones pitch: the shift asked for
 * @param own whether length or shift are other than the comparison asks
 * @param back whether the result is to be brought back again by the same tool
 */
public record Setup(double amount, double ratio, double semitones, boolean own, boolean back) {
  /** As the comparison asks, one way. */
  public Setup(double amount, double ratio, double semitones) {
    this(amount, ratio, semitones, false, false);
  }

  public Setup {
    if (!(amount >= 0 && amount <= 100)) {
      throw new IllegalArgumentException("the amount is a number from 0 to 100");
    }
    if (!(ratio >= 0.1 && ratio <= 10)) {
      throw new IllegalArgumentException("a length ratio lies between 0.1 and 10");
    }
    if (!(Math.abs(semitones) <= 36)) {
      throw new IllegalArgumentException("a shift is at most 36 semitones");
    }
  }

  /** An amount alone. */
  public static Setup of(double amount) {
    return new Setup(amount, 1, 0);
  }

  /** The same with a length or shift of its own. */
  public Setup asking(double ownRatio, double ownSemitones) {
    return new Setup(amount, ownRatio, ownSemitones, true, back);
  }

  /** The same, and back again. */
  public Setup andBack() {
    return new Setup(amount, ratio, semitones, own, true);
  }

  /** What brings the result back. */
  Setup inverse() {
    return new Setup(amount, 1 / ratio, -semitones, own, false);
  }

  /** An amount, with what the comparison asks for. */
  public static Setup of(Comparison comparison, double amount) {
    return new Setup(
        amount,
        comparison.ratio() == null ? 1 : comparison.ratio(),
        comparison.semitones() == null ? 0 : comparison.semitones());
  }
}
