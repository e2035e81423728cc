package kettlesieve.core.score.ears;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.score.RankTests;
import org.hipparchus.distribution.discrete.BinomialDistribution;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Against published examples and SciPy 1.17.1. */
class EarStatisticsTest {

  /** 12 of 16 and 9 of 10 as in every table of the binomial; all by scipy.stats.binomtest. */
  @ParameterizedTest
  @CsvSource({
    "12, 16, 0.0384063720703125, 0.4762291801038724, 0.9273379617471178",
    "9, 10, 0.0107421875, 0.5549838829718047, 0.9974714214555375",
    "14, 16, 0.0020904541015625, 0.6165237631507436, 0.9844863961845862",
    "15, 20, 0.020694732666015625, 0.5089541282920425, 0.9134285308985655",
    "30, 40, 0.0011107168866146822, 0.5880380198484636, 0.8730852010671533",
    "5, 8, 0.36328125, 0.2448632163664999, 0.9147665858624069"
  })
  void abxIsTheExactBinomial(int right, int trials, double p, double low, double high) {
    AbxResult result = new AbxResult(right, trials);
    assertThat(result.p()).isCloseTo(p, within(1e-12));
    assertThat(result.low()).isCloseTo(low, within(1e-9));
    assertThat(result.high()).isCloseTo(high, within(1e-9));
  }

  @Test
  void everyCountAgreesWithTheDistribution() {
    for (int trials = 8; trials <= 40; trials++) {
      BinomialDistribution guessing = new BinomialDistribution(trials, 0.5);
      for (int right = 0; right <= trials; right++) {
        double sum = 0;
        for (int k = right; k <= trials; k++) {
          sum += guessing.probability(k);
        }
        assertThat(new AbxResult(right, trials).p()).isCloseTo(sum, within(1e-10));
        assertThat(new AbxResult(right, trials).heard()).isEqualTo(sum < 0.05);
      }
      assertThat(AbxResult.needed(trials))
          .isEqualTo(guessing.inverseCumulativeProbability(0.95) + 1);
    }
  }

  /**
   * psyphy 0.2-3 for R (K. Knoblauch), {@code dprime.ABX(Pc.unb, method = "IO")}, after Macmillan
   * and Creelman, "Detection Theory", 1991; made by {@code fixtures/make_listening.R}.
   */
  @ParameterizedTest
  @CsvSource({
    "0.55, 0.6862", "0.60, 1.0019", "0.65, 1.2716", "0.70, 1.5287", "0.75, 1.7904",
    "0.80, 2.0726", "0.85, 2.3971", "0.90, 2.8073", "0.95, 3.4327", "0.99, 4.6872"
  })
  void sensitivityIsThatOfTheTable(double share, double expected) {
    int trials = 10_000;
    AbxResult result = new AbxResult((int) Math.round(share * trials), trials);
    assertThat(result.sensitivity()).isCloseTo(expected, within(0.001));
  }

  /** A listener of known sensitivity who compares X with A and with B, many times over. */
  @Test
  void sensitivityIsThatOfAnIndependentlyComparingListener() {
    SplittableRandom random = new SplittableRandom(5);
    for (double d : new double[] {0.5, 1, 2, 3}) {
      int trials = 200_000;
      int right = 0;
      for (int i = 0; i < trials; i++) {
        boolean order = random.nextGaussian() * Math.sqrt(2) + d > 0;
        boolean x = random.nextGaussian() + d / 2 > 0;
        right += order == x ? 1 : 0;
      }
      assertThat(new AbxResult(right, trials).sensitivity()).isCloseTo(d, within(0.03));
    }
    assertThat(new AbxResult(5, 10).sensitivity()).isZero();
    assertThat(new AbxResult(10, 10).sensitivity()).isBetween(2.5, 4.0);
  }

  @Test
  void notHeardIsOnlySaidAfterEnoughTrials() {
    assertThat(new AbxResult(14, 16).sentence("A", "B"))
        .isEqualTo("You told A from B in 14 of 16: you hear it, p = 0.002.");
    assertThat(AbxResult.power(16, 0.75)).isCloseTo(0.6302, within(1e-4));
    assertThat(new AbxResult(8, 16).sentence("A", "B")).contains("too few to say");
    assertThat(new AbxResult(20, 40).sentence("A", "B"))
        .contains("not heard")
        .contains("95 of 100 such rounds");
  }

  /**
   * The baseball season of 1987: A. Agresti, Categorical Data Analysis, 2nd ed. 2002, table 10.10;
   * the estimates as in H. Turner and D. Firth, "Bradley–Terry Models in R", J. Stat. Softw. 48(9),
   * 2012, section 2 (Baltimore is 0).
   */
  @Test
  void worthsAreThoseOfThePublishedExample() {
    double[][] wins = {
      {0, 7, 9, 7, 7, 9, 11},
      {6, 0, 7, 5, 11, 9, 9},
      {4, 6, 0, 7, 7, 8, 12},
      {6, 8, 6, 0, 6, 7, 10},
      {6, 2, 6, 7, 0, 7, 12},
      {4, 4, 5, 6, 6, 0, 6},
      {2, 4, 1, 3, 1, 7, 0}
    };
    double[] logs = Preferences.fit(wins, new double[7][7], 0).logs();
    double[] published = {1.5814, 1.4364, 1.2945, 1.2476, 1.1077, 0.6839};
    for (int i = 0; i < published.length; i++) {
      assertThat(logs[i] - logs[6]).isCloseTo(published[i], within(1e-4));
    }
  }

  /** With ties the fit must give back what a made-up league of known worths and ν produced. */
  @Test
  void tiesAreFittedToo() {
    double[] logs = {0.8, 0.1, -0.9};
    double ties = 0.6;
    double[][] wins = new double[3][3];
    double[][] drawn = new double[3][3];
    for (int i = 0; i < 3; i++) {
      for (int j = 0; j < 3; j++) {
        if (i != j) {
          double a = Math.exp(logs[i]);
          double b = Math.exp(logs[j]);
          double all = a + b + ties * Math.sqrt(a * b);
          wins[i][j] = 1000 * a / all;
          drawn[i][j] = 1000 * ties * Math.sqrt(a * b) / all;
        }
      }
    }
    Preferences.Fit fit = Preferences.fit(wins, drawn, 0);
    assertThat(fit.logs()).containsExactly(logs, within(1e-6));
    assertThat(fit.ties()).isCloseTo(ties, within(1e-6));
  }

  @Test
  void oneThatAlwaysWinsHasAnEndAndCirclesAreCounted() {
    List<Preferences.Answer> answers = new ArrayList<>();
    for (int n = 0; n < 2; n++) {
      answers.add(new Preferences.Answer(0, 1, 1));
      answers.add(new Preferences.Answer(1, 2, 1));
      answers.add(new Preferences.Answer(2, 0, 1));
      for (int other = 0; other < 3; other++) {
        answers.add(new Preferences.Answer(3, other, 1));
      }
    }
    Preferences found = Preferences.of(List.of("a", "b", "c", "d"), answers, 200, 3);
    assertThat(found.strengths().get(3).value()).isBetween(1.0, 6.0);
    assertThat(found.strengths().get(3).low()).isGreaterThan(found.strengths().get(0).value());
    assertThat(found.circularTriads()).isEqualTo(1);
    // Of four items two circles are the most there can be (Kendall & Babington Smith 1940).
    assertThat(Preferences.consistence(4, 1)).isCloseTo(0.5, within(1e-12));
    assertThat(Preferences.consistence(5, 5)).isCloseTo(0, within(1e-12));
  }

  /** scipy.stats.kendalltau, variant b. */
  @Test
  void tauIsThatOfSciPy() {
    assertThat(EarAgainstFigures.tau(new double[] {12, 2, 1, 12, 2}, new double[] {1, 4, 7, 1, 0}))
        .isCloseTo(-0.4714045207910316, within(1e-12));
    assertThat(
            EarAgainstFigures.tau(
                new double[] {3, 1, 4, 1, 5, 9, 2, 6}, new double[] {2, 7, 1, 8, 2, 8, 1, 8}))
        .isCloseTo(0.16051447078102563, within(1e-12));
    assertThat(EarAgainstFigures.tau(new double[] {1, 1}, new double[] {1, 2})).isNaN();
  }

  /** From scipy.stats.friedmanchisquare over m(n − 1), which is W. */
  @Test
  void agreementIsConcordance() {
    List<double[]> rows =
        List.of(
            new double[] {90, 70, 30, 50},
            new double[] {80, 75, 20, 60},
            new double[] {95, 60, 60, 40});
    assertThat(Ratings.concordance(rows)).isCloseTo(0.8390804597701155, within(1e-12));
    assertThat(Ratings.concordance(rows.subList(0, 1))).isNaN();
  }

  /** scipy.stats.wilcoxon, exact; Holm's correction by hand: ×3, ×2, ×1 and never falling. */
  @Test
  void pairsOfRatingsAreTestedWithHolmsCorrection() {
    double[][] rated = {
      {72, 80, 65, 90, 77, 81, 60, 95},
      {70, 72, 61, 75, 78, 70, 55, 81},
      {30, 44, 41, 37, 52, 29, 33, 58}
    };
    List<Map<String, Double>> sets = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      sets.add(Map.of("a", rated[0][i], "b", rated[1][i], "c", rated[2][i]));
    }
    Ratings ratings = new Ratings(sets);
    List<Ratings.Pairing> pairs = ratings.pairings(List.of("a", "b", "c"));
    assertThat(pairs.get(0).p()).isCloseTo(0.015625, within(1e-9));
    assertThat(pairs.get(1).p()).isCloseTo(0.0078125, within(1e-9));
    assertThat(pairs.get(0).corrected()).isCloseTo(0.0234375, within(1e-9));
    assertThat(pairs.get(1).corrected()).isCloseTo(0.0234375, within(1e-9));
    assertThat(RankTests.holm(new double[] {0.04, 0.01, 0.03}))
        .containsExactly(new double[] {0.06, 0.03, 0.06}, within(1e-12));
    assertThat(ratings.median("a")).isEqualTo(78.5);
  }

  /** ITU-R BS.1534-3, 4.1.2: under 90 for the hidden reference in more than 15 % of the items. */
  @Test
  void whoDoesNotFindTheHiddenReferenceIsSetAside() {
    List<Map<String, Double>> found = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      found.add(Map.of(Round.REFERENCE, i < 3 ? 80.0 : 100.0));
    }
    assertThat(Ratings.setAside(found)).isFalse();
    found.set(3, Map.of(Round.REFERENCE, 89.0));
    assertThat(Ratings.setAside(found)).isTrue();
    assertThat(Ratings.setAside(List.of(Map.of("v1", 10.0)))).isFalse();
  }
}
