package kettlesieve.core.measure.reference;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.Sounds;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;
import org.junit.jupiter.api.Test;

/** Against the same equations written out and solved by a general library. */
class BlockToeplitzTest {
  private static final int LENGTH = 4_000;

  /** Correlations of lines that share some of their sound. */
  private static double[][][] correlations(float[][] lines, int taps) {
    double[][][] all = new double[lines.length][lines.length][2 * taps - 1];
    for (int i = 0; i < lines.length; i++) {
      for (int j = i; j < lines.length; j++) {
        for (int l = -(taps - 1); l < taps; l++) {
          for (int n = Math.max(0, l); n < LENGTH && n - l < LENGTH; n++) {
            all[i][j][taps - 1 - l] += (double) lines[i][n] * lines[j][n - l];
          }
        }
      }
    }
    return all;
  }

  private static DMatrixRMaj written(double[][][] correlations, int taps, double ridge) {
    int n = correlations.length * taps;
    DMatrixRMaj matrix = new DMatrixRMaj(n, n);
    for (int i = 0; i < correlations.length; i++) {
      for (int j = i; j < correlations.length; j++) {
        for (int a = 0; a < taps; a++) {
          for (int b = 0; b < taps; b++) {
            double value = correlations[i][j][taps - 1 - (b - a)];
            matrix.set(i * taps + a, j * taps + b, value);
            matrix.set(j * taps + b, i * taps + a, value);
          }
        }
      }
    }
    for (int i = 0; i < n; i++) {
      matrix.add(i, i, ridge);
    }
    return matrix;
  }

  private static double[] right(int n) {
    double[] right = new double[n];
    float[] noise = Sounds.white(n, 5);
    for (int i = 0; i < n; i++) {
      right[i] = noise[i];
    }
    return right;
  }

  private static float[][] lines(int count, int smoothed) {
    float[][] lines = new float[count][];
    float[] common = Sounds.white(LENGTH, 90);
    for (int i = 0; i < count; i++) {
      lines[i] = Sounds.mix(Sounds.white(LENGTH, 91 + i), common, 0.7);
      for (int pass = 0; pass < smoothed; pass++) {
        for (int n = LENGTH - 1; n > 0; n--) {
          lines[i][n] = (lines[i][n] + lines[i][n - 1]) / 2;
        }
      }
    }
    return lines;
  }

  private static double energy(DMatrixRMaj matrix, double[] x) {
    DMatrixRMaj column = new DMatrixRMaj(x.length, 1, true, x);
    DMatrixRMaj image = new DMatrixRMaj(x.length, 1);
    CommonOps_DDRM.mult(matrix, column, image);
    return CommonOps_DDRM.dot(column, image);
  }

  private static double[] solved(DMatrixRMaj matrix, double[] right) {
    LinearSolverDense<DMatrixRMaj> solver = LinearSolverFactory_DDRM.chol(right.length);
    assertThat(solver.setA(matrix.copy())).isTrue();
    DMatrixRMaj x = new DMatrixRMaj(right.length, 1);
    solver.solve(new DMatrixRMaj(right.length, 1, true, right.clone()), x);
    return x.getData();
  }

  @Test
  void solutionsAreThoseOfTheSameEquationsWrittenOut() {
    for (int count : new int[] {1, 2, 5}) {
      int taps = 24;
      double[][][] correlations = correlations(lines(count, 0), taps);
      double[] right = right(count * taps);
      double[] x = BlockToeplitz.of(correlations, 0.5).solved(right);
      double[] expected = solved(written(correlations, taps, 0.5), right);
      for (int i = 0; i < x.length; i++) {
        assertThat(x[i]).isCloseTo(expected[i], within(1e-9));
      }
    }
  }

  /** What is asked together gets the same answers, to the last digit, as what is asked alone. */
  @Test
  void rightSidesKnowNothingOfEachOther() {
    int taps = 24;
    BlockToeplitz equations = BlockToeplitz.of(correlations(lines(3, 4), taps), 0.5);
    double[] one = right(3 * taps);
    double[] other = new double[one.length];
    other[7] = 1;
    List<double[]> together = equations.solved(List.of(one, other, one));
    assertThat(together.get(0)).isEqualTo(equations.solved(one));
    assertThat(together.get(1)).isEqualTo(equations.solved(other));
    assertThat(together.get(2)).isEqualTo(together.get(0));
  }

  @Test
  void linesWithoutTreblesAreExplainedAsFarAsTheyCanBe() {
    // Sixteen means of neighbours leave −130 dB at the upper end: the equations are nearly
    // singular.
    int taps = 64;
    double[][][] correlations = correlations(lines(4, 16), taps);
    double ridge = 1e-10 * correlations[0][0][taps - 1];
    DMatrixRMaj matrix = written(correlations, taps, ridge);
    // What filters make of them in the end, as an estimate would ask for it, and noise.
    double[] made = new double[4 * taps];
    made[5] = 1;
    made[2 * taps + 9] = -0.5;
    DMatrixRMaj asked = new DMatrixRMaj(made.length, 1);
    CommonOps_DDRM.mult(matrix, new DMatrixRMaj(made.length, 1, true, made), asked);
    BlockToeplitz equations = BlockToeplitz.of(correlations, ridge);
    for (double[] right : List.of(asked.getData(), right(4 * taps))) {
      double possible = product(solved(matrix, right), right);
      double explained = product(equations.solved(right), right);
      // Twelve of a double's sixteen digits are lost to such equations either way: 0.00004 dB.
      assertThat(explained / possible).isCloseTo(1, within(1e-5));
    }
  }

  private static double product(double[] a, double[] b) {
    double sum = 0;
    for (int i = 0; i < a.length; i++) {
      sum += a[i] * b[i];
    }
    return sum;
  }

  @Test
  void whatRoundingLeavesOfTheFactorsIsTakenUpAgain() {
    // Loud in the bass, nearly nothing above, and three lines almost the same.
    int taps = 64;
    float[][] lines = lines(4, 16);
    for (int i = 0; i < lines.length; i++) {
      float sum = 0;
      for (int n = 0; n < LENGTH; n++) {
        sum = 0.99f * sum + lines[i][n];
        lines[i][n] = i > 1 ? lines[1][n] + 1e-3f * sum : sum;
      }
    }
    double[][][] correlations = correlations(lines, taps);
    double ridge = 1e-10 * correlations[0][0][taps - 1];
    DMatrixRMaj matrix = written(correlations, taps, ridge);
    double[] made = right(4 * taps);
    DMatrixRMaj asked = new DMatrixRMaj(made.length, 1);
    CommonOps_DDRM.mult(matrix, new DMatrixRMaj(made.length, 1, true, made), asked);
    double[] wrong = BlockToeplitz.of(correlations, ridge).solved(asked.getData().clone());
    for (int i = 0; i < wrong.length; i++) {
      wrong[i] -= made[i];
    }
    assertThat(energy(matrix, wrong) / energy(matrix, made)).isLessThan(1e-13);
  }

  @Test
  void theEnergyIsThatOfTheLinesWithoutTheRidge() {
    int taps = 16;
    double[][][] correlations = correlations(lines(2, 1), taps);
    double[] x = right(2 * taps);
    double energy = BlockToeplitz.of(correlations, 3).energy(x);
    assertThat(energy / energy(written(correlations, taps, 0), x)).isCloseTo(1, within(1e-9));
  }

  @Test
  void whatIsNotPositiveDefiniteIsRefused() {
    // A correlation that is larger at a lag than at none belongs to no sound.
    assertThat(BlockToeplitz.of(new double[][][] {{{0, 2, 1, 2, 0}}}, 0)).isNull();
  }
}
