package kettlesieve.core.measure.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Errors of known energy, of stems that are made of random cells: a role, the rest of a mix. */
class ThreeCorneredHatTest {
  private static final int CELLS = 20_000;

  /** Real and imaginary parts, one after the other. */
  private final double[] role = noise(1, 1);

  private final double[] rest = noise(2, 1);
  private final double[] mix = sum(role, rest, 1);

  private static double[] noise(long seed, double rms) {
    SplittableRandom random = new SplittableRandom(seed);
    double[] x = new double[CELLS];
    for (int i = 0; i < CELLS; i++) {
      x[i] = rms * random.nextGaussian();
    }
    return x;
  }

  private static double[] sum(double[] a, double[] b, double gain) {
    double[] x = new double[CELLS];
    for (int i = 0; i < CELLS; i++) {
      x[i] = a[i] + gain * b[i];
    }
    return x;
  }

  private static double product(double[] a, double[] b) {
    double sum = 0;
    for (int i = 0; i < CELLS; i++) {
      sum += a[i] * b[i];
    }
    return sum;
  }

  /** The mix times the role's share of a cell's power, known wrongly by so many decibels. */
  private double[] masked(double errorDb, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    double[] x = new double[CELLS];
    for (int i = 0; i < CELLS; i += 2) {
      double own = power(role, i) * Math.pow(10, errorDb * random.nextGaussian() / 10);
      double mask = own / (own + power(rest, i));
      x[i] = mask * mix[i];
      x[i + 1] = mask * mix[i + 1];
    }
    return x;
  }

  private static double power(double[] x, int i) {
    return x[i] * x[i] + x[i + 1] * x[i + 1];
  }

  private ThreeCorneredHat.Known known(double[]... stems) {
    int n = stems.length;
    double[][] products = new double[n][n];
    double[] withMix = new double[n];
    double[] beyond = new double[n];
    double[] quadrature = new double[n];
    for (int i = 0; i < n; i++) {
      for (int j = 0; j < n; j++) {
        products[i][j] = product(stems[i], stems[j]);
      }
      withMix[i] = product(stems[i], mix);
      beyond[i] = Math.max(0, withMix[i] - products[i][i]);
      for (int k = 0; k < CELLS; k += 2) {
        double turned = stems[i][k + 1] * mix[k] - stems[i][k] * mix[k + 1];
        quadrature[i] += turned * turned / power(mix, k);
      }
    }
    double[] cancelled = new double[n];
    Arrays.fill(cancelled, 1);
    return new ThreeCorneredHat.Known(
        products, withMix, product(mix, mix), beyond, quadrature, cancelled, new double[n]);
  }

  private double truth(double[] stem) {
    double[] error = sum(stem, role, -1);
    return 10 * Math.log10(product(role, role) / product(error, error));
  }

  /** Three clocks (Gray &amp; Allan 1974): errors of their own, each is found. */
  @Test
  void errorsThatHaveNothingToDoWithEachOtherAreFound() {
    double[][] stems = {
      sum(role, noise(11, 1), 0.3),
      sum(role, noise(12, 1), 0.5),
      sum(role, noise(13, 1), 0.7),
      sum(role, noise(14, 1), 0.4)
    };
    ThreeCorneredHat.Found found = ThreeCorneredHat.solve(known(stems));
    for (int i = 0; i < stems.length; i++) {
      // Each leans on its own cue, too, so that two tools alone rest on something.
      assertThat(found.sdr(i)).as("tool " + i).isCloseTo(truth(stems[i]), within(4.0));
    }
    assertThat(found.sdr(0)).isGreaterThan(found.sdr(3));
    assertThat(found.sdr(3)).isGreaterThan(found.sdr(1));
    assertThat(found.sdr(1)).isGreaterThan(found.sdr(2));
    assertThat(found.independent()).isGreaterThan(3);
  }

  /** Masks keep the mix's phase and so share an error, which their differences do not show. */
  @Test
  void whatMasksHaveInCommonIsAdded() {
    double[][] stems = {masked(2, 21), masked(4, 22), masked(7, 23)};
    ThreeCorneredHat.Found found = ThreeCorneredHat.solve(known(stems));
    assertThat(found.mask()).containsOnly(1.0);
    for (int i = 0; i < stems.length; i++) {
      assertThat(found.sdr(i)).as("mask " + i).isCloseTo(truth(stems[i]), within(2.0));
    }
    assertThat(found.sdr(0)).isGreaterThan(found.sdr(1)).isGreaterThan(found.sdr(2));
  }

  @Test
  void aNearlyTrueStemAmongMasksIsFarAhead() {
    double[][] stems = {sum(role, noise(31, 1), 0.1), masked(2, 21), masked(4, 22), masked(7, 23)};
    ThreeCorneredHat.Found found = ThreeCorneredHat.solve(known(stems));
    assertThat(found.mask()[0]).isLessThan(0.1);
    assertThat(found.sdr(0)).isGreaterThan(found.sdr(1) + 3);
  }

  /** One at the double level: its level is not its error. */
  @Test
  void aLevelIsTakenOutFirst() {
    double[] one = sum(role, noise(41, 1), 0.3);
    double[] loud = Arrays.stream(sum(role, noise(42, 1), 0.3)).map(x -> 2 * x).toArray();
    double[] other = sum(role, noise(43, 1), 0.3);
    ThreeCorneredHat.Found found = ThreeCorneredHat.solve(known(one, loud, other));
    assertThat(found.gain()[1] / found.gain()[0]).isCloseTo(2, within(0.05));
    assertThat(found.sdr(1)).isCloseTo(found.sdr(0), within(1.5));
  }

  @Test
  void kinCountAsOne() {
    double[] one = masked(5, 51);
    double[] again = sum(one, noise(52, 1), 0.02);
    double[] third = sum(one, noise(53, 1), 0.02);
    double[] other = sum(role, noise(54, 1), 0.3);
    ThreeCorneredHat.Found found = ThreeCorneredHat.solve(known(one, again, third, other));
    assertThat(found.independent()).isBetween(1.8, 2.5);
    assertThat(found.alone()[0]).isGreaterThan(2.5);
    assertThat(found.alone()[3]).isLessThan(1.3);
  }

  /** The wrong role, or one upside down, is solved without and lies behind the others. */
  @Test
  void whatHasNothingToDoWithTheOthersIsSetApart() {
    double[] turned = Arrays.stream(role).map(x -> -x).toArray();
    ThreeCorneredHat.Found found =
        ThreeCorneredHat.solve(
            known(
                sum(role, noise(61, 1), 0.3),
                sum(role, noise(62, 1), 0.4),
                sum(role, noise(63, 1), 0.5),
                rest,
                turned));
    assertThat(found.apart()).containsExactly(false, false, false, true, true);
    for (int i = 3; i < 5; i++) {
      assertThat(found.sdr(i)).isLessThan(0);
    }
    assertThat(found.sdr(0)).isGreaterThan(7);
  }
}
