package kettlesieve.core.score.odds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.measure.Estimate;
import org.junit.jupiter.api.Test;

/** A difference in score becomes a chance. */
class OddsTest {
  private static final Validity VALIDITY = new Validity(8, 12, 0.02, 1, 100, "2026-12-01");

  /** A score whose draws scatter, each seed by itself. */
  private static Estimate score(double value, double deviation, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    double[] draws = new double[1000];
    Arrays.setAll(draws, d -> value + deviation * random.nextGaussian());
    return new Estimate(value, draws);
  }

  private static Map<String, Estimate> scores(Object... idsAndScores) {
    Map<String, Estimate> scores = new LinkedHashMap<>();
    for (int i = 0; i < idsAndScores.length; i += 2) {
      scores.put((String) idsAndScores[i], (Estimate) idsAndScores[i + 1]);
    }
    return scores;
  }

  @Test
  void aPairFollowsTheNormalDistribution() {
    // Φ(1) = 0.841345 (Abramowitz & Stegun 1964, table 26.1); ε/2 + (1 − ε)·Φ.
    assertThat(VALIDITY.better(8, 0, false)).isCloseTo(0.01 + 0.98 * 0.841345, within(1e-6));
    // √(6² + 8²) = 10, Φ(2) = 0.977250
    assertThat(VALIDITY.better(20, 6, false)).isCloseTo(0.01 + 0.98 * 0.977250, within(1e-6));
    assertThat(VALIDITY.better(12, 0, true)).isCloseTo(0.01 + 0.98 * 0.841345, within(1e-6));
    assertThat(VALIDITY.better(0, 3, false)).isCloseTo(0.5, within(1e-12));
    assertThat(VALIDITY.better(-8, 0, false) + VALIDITY.better(8, 0, false))
        .isCloseTo(1, within(1e-12));
    assertThat(VALIDITY.better(500, 0, false)).isCloseTo(0.99, within(1e-9));
  }

  @Test
  void deviationIsThatOfTheDraws() {
    assertThat(Odds.deviation(score(50, 5, 1))).isCloseTo(5, within(0.4));
    assertThat(Odds.deviation(new Estimate(50, new double[] {48, Double.NaN, 52})))
        .isCloseTo(Math.sqrt(8), within(1e-12));
    // About the mean of the draws, not about the value.
    assertThat(Odds.deviation(new Estimate(50, new double[] {53, 55})))
        .isCloseTo(Math.sqrt(2), within(1e-12));
    assertThat(Odds.deviation(new Estimate(50, new double[] {53}))).isZero();
  }

  @Test
  void nearIsWithinThreePointsOfTheBest() {
    Validity sharp = new Validity(0.5, 0.5, 0, 1, 1, "");
    Map<String, Odds> odds =
        Odds.of(
            scores("a", Estimate.sure(70), "b", Estimate.sure(68.5), "c", Estimate.sure(64)),
            sharp,
            false);
    assertThat(odds.get("a").near()).isCloseTo(1, within(1e-9));
    assertThat(odds.get("b").near()).isGreaterThan(0.99);
    assertThat(odds.get("c").near()).isLessThan(0.01);
    assertThat(odds.get("a").best()).isBetween(0.97, 1.0);
    // Where scores fail altogether, each is as good a guess as another.
    Validity failing = new Validity(0.5, 0.5, 0.3, 1, 1, "");
    Map<String, Odds> guessed =
        Odds.of(scores("a", Estimate.sure(90), "b", Estimate.sure(10)), failing, false);
    assertThat(guessed.get("a").best()).isCloseTo(0.7 + 0.15, within(1e-9));
    assertThat(guessed.get("b").best()).isCloseTo(0.15, within(1e-9));
    assertThat(guessed.get("b").near()).isCloseTo(0.15, within(1e-9));
  }

  @Test
  void scatterThatWasWidenedCountsLess() {
    Validity half = new Validity(8, 8, 0, 0.5, 1, "");
    // (0.5 · 12)² + 8² = 10²: Φ(1).
    assertThat(half.better(10, 12, false)).isCloseTo(0.841345, within(1e-6));
    Estimate wide = score(70, 40, 5);
    Map<String, Estimate> two = scores("a", wide, "b", Estimate.sure(60));
    assertThat(Odds.of(two, half, false).get("a").best())
        .isGreaterThan(Odds.of(two, VALIDITY, false).get("a").best() + 0.03);
  }

  @Test
  void ofTwoTheChanceToBeBestIsThatToBeBetter() {
    Map<String, Odds> odds =
        Odds.of(scores("a", score(70, 3, 1), "b", score(62, 3, 2)), VALIDITY, false);
    assertThat(odds.get("a").best()).isCloseTo(odds.get("a").better().get("b"), within(0.015));
    assertThat(odds.get("a").best() + odds.get("b").best()).isCloseTo(1, within(1e-9));
    assertThat(odds.get("a").better()).containsOnlyKeys("b");
  }

  @Test
  void copiesSplitOneChanceAndLeaveTheOthersTheirs() {
    Estimate a = score(70, 3, 1);
    Estimate b = score(66, 3, 2);
    Estimate c = score(60, 3, 3);
    Map<String, Odds> before = Odds.of(scores("a", a, "b", b, "c", c), VALIDITY, false);
    Estimate copy = new Estimate(b.value(), b.draws().clone());
    Map<String, Odds> after =
        Odds.of(scores("copy", copy, "a", a, "b", b, "c", c), VALIDITY, false);
    assertThat(after.get("b").best()).isEqualTo(after.get("copy").best());
    assertThat(after.get("b").best()).isCloseTo(before.get("b").best() / 2, within(1e-9));
    assertThat(after.get("a").best()).isCloseTo(before.get("a").best(), within(1e-9));
    assertThat(after.get("c").best()).isCloseTo(before.get("c").best(), within(1e-9));
    assertThat(after.get("b").better().get("copy")).isCloseTo(0.5, within(1e-12));
    for (String one : before.keySet()) {
      before
          .get(one)
          .better()
          .forEach((other, p) -> assertThat(after.get(one).better().get(other)).isEqualTo(p));
    }
    // Each of the two is as near to the best as the one was.
    assertThat(after.get("copy").near()).isGreaterThan(after.get("copy").best() * 1.9);
  }

  @Test
  void theChancesOfManySumToOneAndFollowTheScores() {
    Map<String, Estimate> all = new LinkedHashMap<>();
    for (int i = 0; i < 16; i++) {
      all.put("v" + i, score(80 - 2 * i, 2, 40 + i));
    }
    Map<String, Odds> odds = Odds.of(all, VALIDITY, false);
    assertThat(odds.values().stream().mapToDouble(Odds::best).sum()).isCloseTo(1, within(1e-9));
    assertThat(odds.get("v0").best())
        .isGreaterThan(odds.get("v4").best())
        .isBetween(0.2, 0.5)
        .isGreaterThan(Odds.of(all, VALIDITY, true).get("v0").best());
    assertThat(Odds.of(all, VALIDITY, false)).isEqualTo(odds);
  }

  @Test
  void wordsHaveTenthsAndNoMore() {
    assertThat(OddsWords.tenths(0.72)).isEqualTo("7 in 10");
    assertThat(OddsWords.tenths(0.97)).isEqualTo("over 9 in 10");
    assertThat(OddsWords.tenths(0.951)).isEqualTo("over 9 in 10");
    assertThat(OddsWords.tenths(0.949)).isEqualTo("9 in 10");
    assertThat(OddsWords.tenths(0.01)).isEqualTo("under 1 in 10");
    assertThat(OddsWords.tenths(0.95)).isEqualTo("9 in 10");
    assertThat(OddsWords.tenths(0.05)).isEqualTo("1 in 10");
    assertThat(OddsWords.better(0.95, true)).isEqualTo("surely");
    assertThat(OddsWords.better(0.75, true)).isEqualTo("probably (8 in 10)");
    assertThat(OddsWords.ofTen(0.01)).isEqualTo("< 1 of 10");
    assertThat(OddsWords.better(0.96, true)).isEqualTo("surely");
    assertThat(OddsWords.better(0.96, false)).isEqualTo("probably (over 9 in 10)");
    assertThat(OddsWords.better(0.8, true)).isEqualTo("probably (8 in 10)");
    assertThat(OddsWords.better(0.74, true)).isEqualTo("open");
  }
}
