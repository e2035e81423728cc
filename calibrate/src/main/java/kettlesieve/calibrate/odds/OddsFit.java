package kettlesieve.calibrate.odds;

import java.util.ArrayList;
import java.util.List;
import java.util.function.DoubleUnaryOperator;
import kettlesieve.core.score.odds.Validity;

/**
 * Fits how far scores miss the truth, by maximum likelihood over all pairs. Of pairs whose truth is
 * nearly even the majority of truths is a toss, whatever the scores say; left to itself ε takes
 * that for failure and no difference is ever sure. So ε is the least, and then the scatter the
 * most, that cost no more than {@link #WORTH} of the logarithmic loss.
 */
final class OddsFit {
  private static final double LEAST = 0.5;
  private static final double MOST = 60;
  private static final double[] FAILURES = {0.02, 0.03, 0.04, 0.06, 0.08, 0.1, 0.14, 0.2};
  private static final double[] SCATTERS = {1, 0.75, 0.5, 0.25};
  private static final int FEWEST = 100;
  private static final double WORTH = 0.01;

  private OddsFit() {}

  /** Of the cases of a job. */
  static Validity of(List<OddsCase> cases, String date) {
    List<OddsCase> plain = cases.stream().filter(c -> !c.doubt()).toList();
    List<OddsCase> doubted = cases.stream().filter(OddsCase::doubt).toList();
    List<Validity> all = new ArrayList<>();
    double least = Double.POSITIVE_INFINITY;
    int pairs = cases.stream().mapToInt(c -> c.pairs().size()).sum();
    for (double failure : FAILURES) {
      for (double scatter : SCATTERS) {
        double tau = minimum(t -> loss(plain, new Validity(t, t, failure, scatter, 0, "")));
        // Too few to tell: as certain as the rest.
        boolean few = doubted.stream().mapToInt(c -> c.pairs().size()).sum() < FEWEST;
        double other =
            few ? tau : minimum(t -> loss(doubted, new Validity(t, t, failure, scatter, 0, "")));
        double rounded = Math.round(10 * tau) / 10.0;
        double roundedOther = Math.round(10 * other) / 10.0;
        Validity tried = new Validity(rounded, roundedOther, failure, scatter, pairs, date);
        all.add(tried);
        least = Math.min(least, loss(cases, tried));
      }
    }
    double enough = (1 + WORTH) * least;
    return all.stream().filter(v -> loss(cases, v) <= enough).findFirst().orElseThrow();
  }

  /** Sum of the logarithmic losses, nats. */
  static double loss(List<OddsCase> cases, Validity validity) {
    double loss = 0;
    for (OddsCase c : cases) {
      for (OddsCase.Pair p : c.pairs()) {
        double better = validity.better(p.points(), p.deviation(), c.doubt());
        loss -= Math.log(p.better() ? better : 1 - better);
      }
    }
    return loss;
  }

  /** Where a function with one valley is least, by golden section over logarithms. */
  private static double minimum(DoubleUnaryOperator f) {
    double low = Math.log(LEAST);
    double high = Math.log(MOST);
    double part = (Math.sqrt(5) - 1) / 2;
    while (high - low > 0.005) {
      double a = high - part * (high - low);
      double b = low + part * (high - low);
      if (f.applyAsDouble(Math.exp(a)) < f.applyAsDouble(Math.exp(b))) {
        high = b;
      } else {
        low = a;
      }
    }
    return Math.exp((low + high) / 2);
  }
}
