package kettlesieve.core.score.ears;

import java.util.Locale;
import kettlesieve.core.comparison.Round;
import org.hipparchus.analysis.solvers.BrentSolver;
import org.hipparchus.distribution.continuous.BetaDistribution;
import org.hipparchus.distribution.continuous.NormalDistribution;
import org.hipparchus.distribution.discrete.BinomialDistribution;

/**
 * What ABX trials say: the exact binomial test against guessing (one-sided), the interval of
 * Clopper and Pearson (Biometrika 26, 1934), and the sensitivity d′ of a listener who compares X
 * with A and B independently (Macmillan &amp; Creelman, Detection Theory, 2nd ed. 2005, chapter 9).
 *
 * @param right trials in which X was told
 * @param trials that were answered, over 0
 */
public record AbxResult(int right, int trials) {
  /** What is unlikelier than this by guessing was heard. */
  public static final double SIGNIFICANT = 0.05;

  /** A test that finds a listener this often has had trials enough. */
  public static final double ENOUGH_POWER = 0.8;

  /** Of a listener who hears it every second time and guesses else. */
  public static final double HEARD_EVERY_SECOND_TIME = 0.75;

  private static final NormalDistribution NORMAL = new NormalDistribution();
  private static final double LARGEST = 12;

  public AbxResult {
    if (trials < 1 || right < 0 || right > trials) {
      throw new IllegalArgumentException("so many right of so many trials cannot be");
    }
  }

  /** Of a round; unanswered trials are left out. */
  public static AbxResult of(Round round) {
    int right = 0;
    int trials = 0;
    for (Round.Trial t : round.trials()) {
      if (t.answered()) {
        trials++;
        right += t.x().equals(t.answer()) ? 1 : 0;
      }
    }
    return new AbxResult(right, trials);
  }

  /** Probability of at least as many right by guessing. */
  public double p() {
    return atLeast(right, trials, 0.5);
  }

  private static double atLeast(int right, int trials, double chance) {
    return right == 0
        ? 1
        : new BinomialDistribution(trials, 1 - chance).cumulativeProbability(trials - right);
  }

  /** Lower end of the 95 % interval of the share of right answers. */
  public double low() {
    return right == 0
        ? 0
        : new BetaDistribution(right, trials - right + 1).inverseCumulativeProbability(0.025);
  }

  /** Its upper end. */
  public double high() {
    return right == trials
        ? 1
        : new BetaDistribution(right + 1, trials - right).inverseCumulativeProbability(0.975);
  }

  /** Whether this was more than guessing. */
  public boolean heard() {
    return p() < SIGNIFICANT;
  }

  /** How many must be right for it to be more than guessing; one more than all if none suffice. */
  public static int needed(int trials) {
    int right = 0;
    while (right <= trials && atLeast(right, trials, 0.5) >= SIGNIFICANT) {
      right++;
    }
    return right;
  }

  /** How surely so many trials find a listener who is right so often. */
  public static double power(int trials, double share) {
    int needed = needed(trials);
    return needed > trials ? 0 : atLeast(needed, trials, share);
  }

  /** Whether "not heard" can be said: the trials would have found one who hears every second. */
  public boolean enough() {
    return power(trials, HEARD_EVERY_SECOND_TIME) >= ENOUGH_POWER;
  }

  /**
   * Sensitivity of the listener. All or none right would be without bounds: half a trial is taken
   * off (common practice). Not below 0.
   */
  public double sensitivity() {
    double share = Math.min(right, trials - 0.5) / trials;
    if (share <= 0.5) {
      return 0;
    }
    return new BrentSolver(1e-9).solve(200, d -> shareRight(d) - share, 0, LARGEST);
  }

  /** Share of right answers at a sensitivity: X is compared with A and with B independently. */
  static double shareRight(double d) {
    double one = NORMAL.cumulativeProbability(d / Math.sqrt(2));
    double other = NORMAL.cumulativeProbability(d / 2);
    return one * other + (1 - one) * (1 - other);
  }

  /**
   * The result in a sentence.
   *
   * @param first label of A
   * @param second label of B
   */
  public String sentence(String first, String second) {
    String told =
        String.format(
            Locale.ROOT, "You told %s from %s in %d of %d: ", first, second, right, trials);
    if (heard()) {
      return told + "you hear it, " + chance() + ".";
    }
    if (enough()) {
      return told
          + String.format(
              Locale.ROOT,
              "not heard, %s. Whoever hears it every second time would have been found out in"
                  + " %.0f of 100 such rounds.",
              chance(),
              100 * power(trials, HEARD_EVERY_SECOND_TIME));
    }
    return told
        + "that is no more than guessing, "
        + chance()
        + ", but "
        + trials
        + " trials are too few to say that it cannot be heard.";
  }

  private String chance() {
    double p = p();
    return p < 0.0005
        ? "p < 0.001"
        : String.format(Locale.ROOT, p < 0.1 ? "p = %.3f" : "p = %.2f", p);
  }
}
