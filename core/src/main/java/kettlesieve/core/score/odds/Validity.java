package kettlesieve.core.score.odds;

import org.hipparchus.special.Erf;

/**
 * How far overall scores of a job miss the truth where the recording itself is no excuse. Fitted on
 * versions whose truth is known ({@code ./kettle calibrate --odds}) by maximum likelihood over all
 * pairs: P(A is truly better) = ε/2 + (1 − ε) · Φ(d / √((k·s)² + τ²)), d the difference in points,
 * s its paired bootstrap standard deviation.
 *
 * @param tau the validity error τ of a difference, points
 * @param doubtful the same where the program itself warns of the source
 * @param failure ε, the share of cases in which scores fail altogether
 * @param scatter k, the share of the draws' scatter that counts: 1, but where draws were widened on
 *     purpose, as between stems that are not to be told apart
 * @param pairs of how many pairs these numbers are
 * @param fitted when, as yyyy-mm-dd
 * @param lasting ρ, the share of τ² that several recordings do not average out: what the scores get
 *     wrong about a tool on every recording alike; 1 where no trial has told
 * @param caution what trials showed these odds to be worth little for, in words; empty if nothing
 */
public record Validity(
    double tau,
    double doubtful,
    double failure,
    double scatter,
    int pairs,
    String fitted,
    Double lasting,
    String caution) {
  public Validity {
    lasting = lasting == null ? 1 : lasting;
    caution = caution == null ? "" : caution;
  }

  /** With nothing to be careful of. */
  public Validity(
      double tau, double doubtful, double failure, double scatter, int pairs, String fitted) {
    this(tau, doubtful, failure, scatter, pairs, fitted, null, "");
  }

  /** From this chance on, and beyond the interval of the recording, a difference is sure. */
  public static final double SURE = 0.95;

  /** From this chance on one is probably better. */
  public static final double PROBABLE = 0.75;

  /**
   * The validity error.
   *
   * @param doubt whether the program warns of the source
   */
  public double spread(boolean doubt) {
    return doubt ? doubtful : tau;
  }

  /**
   * The chance that the first of two versions is truly better.
   *
   * @param points by which its score is higher
   * @param deviation paired bootstrap standard deviation of that, points
   * @param doubt whether the program warns of the source
   */
  public double better(double points, double deviation, boolean doubt) {
    double spread = Math.hypot(scatter * deviation, spread(doubt));
    return failure / 2 + (1 - failure) * normal(points / spread);
  }

  /**
   * The chance that the first of two tools is truly better over several recordings that both were
   * tried on.
   *
   * @param points by which its mean score is higher
   * @param deviation root mean square of the paired deviations of the single recordings, points
   * @param recordings how many
   * @param doubt whether the program warns of most of the sources
   */
  public double betterOver(double points, double deviation, int recordings, boolean doubt) {
    double own = Math.pow(scatter * deviation, 2) / recordings;
    double spread = Math.sqrt(own + spreadOver(recordings, doubt));
    return failure / 2 + (1 - failure) * normal(points / spread);
  }

  /** The variance that is left of τ² over several recordings, of a difference, points². */
  double spreadOver(int recordings, boolean doubt) {
    double all = Math.pow(spread(doubt), 2);
    return all * (lasting + (1 - lasting) / recordings);
  }

  /** The standard normal distribution function. */
  static double normal(double x) {
    return Erf.erfc(-x / Math.sqrt(2)) / 2;
  }
}
