package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.calibrate.truth.Truth;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import org.junit.jupiter.api.Test;

/** What counts as a clear pair, and as right. */
class OrderTest {
  private static Truth truth(double siSdr, double stoi, double fwSegSnr) {
    return new Truth(siSdr, stoi, fwSegSnr, 0, 0, 0, 0, 0);
  }

  private static Trial.Judged version(String maker, Truth truth, double overall) {
    return new Trial.Judged(
        maker,
        Maker.Kind.REAL,
        truth,
        Map.of("pause-noise", new Trial.Figure(-30, -30, -31, -29, -31, -29)),
        Map.of(),
        Map.of(),
        new Trial.Score(overall, overall, overall),
        1,
        1,
        List.of(),
        new float[0]);
  }

  private static Order order(Trial.Judged... versions) {
    Scene scene = new Scene("s", Half.SETTING, "v", "n", "hiss", true, 10, 1);
    return Order.of(
        List.of(new Trial(scene, List.of(), List.of(versions))),
        v -> OptionalDouble.of(v.overall().value()));
  }

  @Test
  void aPairIsClearWhenTwoOfThreeSaySo() {
    assertThat(truth(10, 0.9, 9).against(truth(8, 0.88, 9))).isEqualTo(1);
    assertThat(truth(8, 0.88, 9).against(truth(10, 0.9, 9))).isEqualTo(-1);
    assertThat(truth(10, 0.9, 9).against(truth(8, 0.89, 9))).isZero();
    // Two for, one against: not clear.
    assertThat(truth(10, 0.9, 8).against(truth(8, 0.88, 9))).isZero();
  }

  @Test
  void equalScoresCountHalf() {
    Truth good = truth(12, 0.9, 12);
    Truth bad = truth(6, 0.7, 6);
    assertThat(order(version("a", good, 80), version("b", bad, 60)).share()).isEqualTo(1);
    assertThat(order(version("a", good, 60), version("b", bad, 80)).share()).isZero();
    assertThat(order(version("a", good, 70), version("b", bad, 70)).share()).isEqualTo(0.5);
    assertThat(order(version("a", good, 70), version("b", good, 60)).clear()).isZero();
  }

  @Test
  void equalValuesShareTheirRank() {
    assertThat(Order.ranks(new double[] {3, 1, 3, 2})).containsExactly(2.5, 0, 2.5, 1);
  }

  @Test
  void scoresFromValuesAreThoseOfTheCards() {
    Weighing weighing = Weighing.shipped(Job.DENOISE);
    Trial.Judged v = version("a", truth(1, 1, 1), 0);
    double points = weighing.scales().get("pause-noise").score(-30);
    assertThat(weighing.axes(v)).containsOnlyKeys(Axis.MISSED);
    assertThat(weighing.axes(v).get(Axis.MISSED)).isCloseTo(points, within(1e-9));
    // The others stand on readings that are not there.
    assertThat(weighing.overall(v).orElseThrow()).isCloseTo(points, within(1e-9));
  }
}
