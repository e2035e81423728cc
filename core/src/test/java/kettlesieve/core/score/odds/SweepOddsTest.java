package kettlesieve.core.score.odds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.DoubleUnaryOperator;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.report.SweepWords;
import org.junit.jupiter.api.Test;

/** Which amount of a tool is truly best. */
class SweepOddsTest {
  private static final Validity VALIDITY = new Validity(8, 16, 0.02, 1, 1, "");
  private static final SweepOdds.Smooth SMOOTH = new SweepOdds.Smooth(0.5, 0.5);
  private static final List<Double> AMOUNTS =
      List.of(10.0, 20.0, 30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 90.0);

  /** Scores over places from −1 to 1, without scatter. */
  private static List<Estimate> scores(DoubleUnaryOperator f) {
    List<Estimate> scores = new ArrayList<>();
    for (int i = 0; i < AMOUNTS.size(); i++) {
      double value = f.applyAsDouble(2.0 * i / (AMOUNTS.size() - 1) - 1);
      double[] draws = new double[1000];
      Arrays.fill(draws, value);
      scores.add(new Estimate(value, draws));
    }
    return scores;
  }

  private static SweepOdds of(DoubleUnaryOperator f, boolean doubt, SweepOdds.Smooth smooth) {
    return SweepOdds.of(AMOUNTS, scores(f), VALIDITY, doubt, smooth);
  }

  @Test
  void aClearTopIsNamedAndAFlatOneWidens() {
    DoubleUnaryOperator steep = u -> 80 - 60 * u * u;
    DoubleUnaryOperator flat = u -> 80 - 12 * u * u;
    SweepOdds clear = of(steep, false, SMOOTH);
    SweepOdds open = of(flat, false, SMOOTH);
    assertThat(clear.best()).isEqualTo(4);
    assertThat(clear.to() - clear.from()).isLessThan(open.to() - open.from());
    assertThat(clear.from()).isLessThanOrEqualTo(4);
    assertThat(clear.to()).isGreaterThanOrEqualTo(4);
    assertThat(of(steep, true, SMOOTH).to() - of(steep, true, SMOOTH).from())
        .isGreaterThanOrEqualTo(clear.to() - clear.from());
    assertThat(clear.chances().stream().mapToDouble(x -> x).sum()).isCloseTo(1, within(1e-9));
    assertThat(
            clear.chances().subList(clear.from(), clear.to() + 1).stream()
                .mapToDouble(x -> x)
                .sum())
        .isGreaterThanOrEqualTo(SweepOdds.PLATEAU);
  }

  @Test
  void withoutErrorTheBestIsTheHighestScore() {
    SweepOdds sure = of(u -> 80 - 60 * (u - 0.5) * (u - 0.5), false, new SweepOdds.Smooth(0, 0));
    assertThat(sure.chances().get(6)).isCloseTo(1, within(1e-12));
    assertThat(sure.from()).isEqualTo(6);
    assertThat(sure.to()).isEqualTo(6);
    assertThat(SweepWords.plateau(sure))
        .isEqualTo("best at 70; under 70 or over 70 is probably no better");
  }

  @Test
  void aTiltMovesTheBestToAnEndAndABendToBoth() {
    SweepOdds tilted = of(u -> 80, false, new SweepOdds.Smooth(1, 0));
    assertThat(tilted.chances().get(0)).isCloseTo(0.5, within(0.03));
    assertThat(tilted.chances().get(8)).isCloseTo(0.5, within(0.03));
    // Bent upwards the ends are best, both alike; downwards the middle is.
    SweepOdds bent = of(u -> 80, false, new SweepOdds.Smooth(0, 1));
    assertThat(bent.chances().get(4)).isCloseTo(0.5, within(0.03));
    assertThat(bent.chances().get(0)).isCloseTo(0.25, within(0.03));
    assertThat(bent.chances().get(8)).isEqualTo(bent.chances().get(0));
    // A top at 70 of 10 to 90, tilted by an eighth of τ: the neighbours take their share evenly.
    SweepOdds top = of(u -> 80 - 20 * (u - 0.5) * (u - 0.5), false, new SweepOdds.Smooth(0.5, 0));
    assertThat(top.best()).isEqualTo(6);
    assertThat(top.chances().get(5)).isCloseTo(top.chances().get(7), within(0.04));
    assertThat(top.from()).isLessThan(6);
    assertThat(top.to()).isGreaterThan(6);
  }

  @Test
  void theCurveIsTheParabolaThroughAllAmounts() {
    SweepOdds odds = of(u -> 70 + 5 * u - 20 * u * u, false, SMOOTH);
    for (int i = 0; i < AMOUNTS.size(); i++) {
      double u = i / 4.0 - 1;
      assertThat(odds.curve().get(i)).isCloseTo(70 + 5 * u - 20 * u * u, within(1e-9));
    }
  }

  @Test
  void wordsNameThePlateau() {
    SweepOdds odds =
        new SweepOdds(
            List.of(0.003, 0.01, 20.0, 30.0),
            List.of(1.0, 2.0, 3.0, 2.0),
            List.of(0.04, 0.5, 0.42, 0.04),
            1,
            2);
    assertThat(SweepWords.plateau(odds))
        .isEqualTo(
            "anything from 0.01 to 20 is as good; under 0.01 or over 20 is probably no better");
    assertThat(odds.best()).isEqualTo(1);
    assertThat(SweepWords.amount(0.003)).isEqualTo("0.003");
    assertThat(SweepWords.amount(37.482)).isEqualTo("37.5");
    assertThat(SweepWords.amount(100)).isEqualTo("100");
    assertThat(
            SweepWords.plateau(
                new SweepOdds(odds.amounts(), odds.curve(), List.of(.25, .25, .25, .25), 0, 3)))
        .isEqualTo("no amount from 0.003 to 30 can be called better than the others");
  }
}
