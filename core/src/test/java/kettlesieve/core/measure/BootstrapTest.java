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
}
