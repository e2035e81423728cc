package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Intervals hold as often as they say, also where neighbouring seconds depend on each other. */
class BootstrapTest {
  /** How often the interval of a mean of so many blocks holds the true mean, which is 10. */
  private static double coverage(int blocks, double dependence) {
    Bootstrap bootstrap = new Bootstrap(blocks);
    SplittableRandom random = new SplittableRandom(blocks);
    int held = 0;
    int trials = 400;
    for (int n = 0; n < trials; n++) {
      double[] x = new double[blocks];
      double state = random.nextGaussian();
      for (int b = 0; b < blocks; b++) {
        state = dependence * state + Math.sqrt(1 - dependence * dependence) * random.nextGaussian();
        x[b] = 10 + state;
      }
      Estimate mean =
          bootstrap.estimate(
              w -> {
                double sum = 0;
                for (int b = 0; b < blocks; b++) {
                  sum += w[b] * x[b];
                }
                return sum / blocks;
              });
      held += mean.low() <= 10 && mean.high() >= 10 ? 1 : 0;
    }
    return (double) held / trials;
  }

  @Test
  void theTrueValueLiesInsideAsOftenAsPromised() {
    for (int blocks : new int[] {10, 30, 120}) {
      assertThat(coverage(blocks, 0)).as(blocks + " blocks").isBetween(0.92, 1.0);
      assertThat(coverage(blocks, 0.5)).as(blocks + " dependent blocks").isBetween(0.87, 1.0);
    }
  }

  @Test
  void aStatisticThatIsNeverBelowZeroStaysSo() {
    Bootstrap bootstrap = new Bootstrap(12);
    Estimate e = bootstrap.estimate(w -> w[0] * 0.1);
    assertThat(java.util.Arrays.stream(e.draws()).min().orElseThrow()).isGreaterThanOrEqualTo(0);
    assertThat(e.low()).isZero();
  }

  @Test
  void everyDrawCountsAllBlocks() {
    for (int blocks : new int[] {1, 2, 7, 40}) {
      Bootstrap bootstrap = new Bootstrap(blocks);
      Estimate e =
          bootstrap.estimate(
              w -> {
                int sum = 0;
                for (int x : w) {
                  sum += x;
                }
                return sum;
              });
      assertThat(e.draws()).containsOnly(blocks);
      assertThat(e.value()).isCloseTo(blocks, within(0.0));
    }
  }

  /** What varies from stretch to stretch widens an interval, and cancels between versions. */
  @Test
  void aVariationOfItsOwnWidensAndCancels() {
    double[] same = new double[Bootstrap.DRAWS];
    java.util.Arrays.fill(same, 5);
    Estimate one = new Estimate(5, same).varied(1, "hum");
    assertThat(one.value()).isEqualTo(5);
    assertThat(one.low()).isCloseTo(4, within(0.15));
    assertThat(one.high()).isCloseTo(6, within(0.15));
    java.util.Arrays.fill(same, 7);
    Estimate other = new Estimate(7, same.clone()).varied(1, "hum");
    assertThat(other.minus(one).low()).isCloseTo(2, within(1e-9));
    assertThat(other.minus(one).high()).isCloseTo(2, within(1e-9));
    Estimate elsewhere = new Estimate(7, same.clone()).varied(1, "hiss");
    assertThat(elsewhere.minus(one).low()).isLessThan(1);
    Estimate none = new Estimate(0, new double[Bootstrap.DRAWS]).varied(1, "hum");
    assertThat(none.low()).isZero();
    assertThat(none.high()).isCloseTo(1, within(0.15));
  }
}
