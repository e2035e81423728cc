package kettlesieve.core.rig;

import kettlesieve.core.comparison.Comparison;

/**
 * How a tool is to process.
 *
 * @param amount strength from 0 (nothing changes) to 100
 * @param ratio stretch: the length asked for over the source's
 * @param semitones pitch: the shift asked for
 */
public record Setup(double amount, double ratio, double semitones) {
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

  /** An amount, with what the comparison asks for. */
  public static Setup of(Comparison comparison, double amount) {
    return new Setup(
        amount,
        comparison.ratio() == null ? 1 : comparison.ratio(),
        comparison.semitones() == null ? 0 : comparison.semitones());
  }
}
