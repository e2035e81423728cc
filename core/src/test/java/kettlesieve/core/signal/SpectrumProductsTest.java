package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A pair of lines gives what its two lines give one after the other. */
class SpectrumProductsTest {
  private static final int LENGTH = 64;

  private static double[][] lines(int count, long seed) {
    Random random = new Random(seed);
    double[][] lines = new double[count][];
    for (int i = 0; i < count; i++) {
      lines[i] = random.doubles(LENGTH, -1, 1).toArray();
      Fft.forward(lines[i]);
    }
    return lines;
  }

  private static float[] floats(double[] x) {
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = (float) x[i];
    }
    return y;
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5})
  void crossesOfSeveralLinesAreThoseOfEachAlone(int count) {
    double[] a = lines(1, 1)[0];
    double[][] b = lines(count, 2);
    double[][] together = new double[count][LENGTH];
    SpectrumProducts.addCrosses(a, b, together, 0);
    for (int j = 0; j < count; j++) {
      double[][] alone = new double[1][LENGTH];
      SpectrumProducts.addCrosses(a, new double[][] {b[j]}, alone, 0);
      assertThat(together[j]).containsExactly(alone[0], within(1e-12));
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5})
  void productsOfSeveralLinesAreTheSumOfEachAlone(int count) {
    double[][] a = lines(count + 1, 3);
    double[][] b = lines(count, 4);
    float[][] wide = new float[count + 1][];
    float[][] narrow = new float[count][];
    float[] alone = new float[LENGTH];
    for (int j = 0; j <= count; j++) {
      wide[j] = floats(a[j]);
    }
    for (int j = 0; j < count; j++) {
      narrow[j] = floats(b[j]);
      SpectrumProducts.addProduct(wide[j + 1], narrow[j], alone);
    }
    float[] together = new float[LENGTH];
    SpectrumProducts.addProducts(wide, 1, narrow, together);
    assertThat(together).containsExactly(alone, within(1e-4f));
  }

  /** The correlation theorem: conj(A)·B transforms back into Σ a(n)·b(n + lag). */
  @Test
  void aCrossIsACorrelation() {
    double[] x = new Random(5).doubles(LENGTH, -1, 1).toArray();
    double[] y = new double[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      y[(i + 7) % LENGTH] = x[i];
    }
    Fft.forward(x);
    Fft.forward(y);
    double[] sum = new double[LENGTH];
    SpectrumProducts.addCrosses(x, new double[][] {y}, new double[][] {sum}, 0);
    Fft.inverse(sum);
    int best = 0;
    for (int i = 0; i < LENGTH; i++) {
      best = sum[i] > sum[best] ? i : best;
    }
    assertThat(best).isEqualTo(7);
  }
}
