package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import java.util.stream.IntStream;
import org.jtransforms.fft.DoubleFFT_1D;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Transforms against their definition, and in the layout that everything else reads. */
class FftTest {
  private static double[] noise(int length) {
    return new Random(length).doubles(length, -1, 1).toArray();
  }

  private static float[] floats(double[] x) {
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = (float) x[i];
    }
    return y;
  }

  /** The definition of the discrete Fourier transform: X(k) = Σ x(n)·exp(−2πi·kn/N). */
  private static double[] byDefinition(double[] x) {
    int n = x.length;
    double[] packed = new double[n];
    for (int k = 0; k <= n / 2; k++) {
      double re = 0;
      double im = 0;
      for (int i = 0; i < n; i++) {
        double angle = -2 * Math.PI * ((long) k * i % n) / n;
        re += x[i] * Math.cos(angle);
        im += x[i] * Math.sin(angle);
      }
      packed[k == n / 2 ? 1 : 2 * k] = re;
      if (k > 0 && k < n / 2) {
        packed[2 * k + 1] = im;
      }
    }
    return packed;
  }

  @ParameterizedTest
  @ValueSource(ints = {16, 32, 48, 512, 1000, 2048})
  void isTheSumOfItsDefinition(int length) {
    double[] x = noise(length);
    double[] expected = byDefinition(x);
    double[] doubles = x.clone();
    Fft.forward(doubles);
    assertThat(doubles).containsExactly(expected, within(1e-9));
    float[] floats = floats(x);
    Fft.forward(floats);
    assertThat(floats).containsExactly(floats(expected), within(1e-4f));
  }

  @ParameterizedTest
  @ValueSource(ints = {16, 32, 48, 4096, 65536, 131072})
  void inverseGivesTheInputBack(int length) {
    double[] x = noise(length);
    double[] doubles = x.clone();
    Fft.forward(doubles);
    Fft.inverse(doubles);
    assertThat(doubles).containsExactly(x, within(1e-12));
    float[] floats = floats(x);
    Fft.forward(floats);
    Fft.inverse(floats);
    assertThat(floats).containsExactly(floats(x), within(1e-5f));
  }

  /** Who transforms beside others must not get a part of theirs. */
  @Test
  void threadsDoNotMeet() {
    boolean[] same = new boolean[200];
    IntStream.range(0, same.length)
        .parallel()
        .forEach(
            i -> {
              double[] x = noise(1024);
              x[i] += 1000;
              double[] expected = x.clone();
              new DoubleFFT_1D(1024).realForward(expected);
              double off = 0;
              for (int again = 0; again < 50; again++) {
                double[] y = x.clone();
                Fft.forward(y);
                for (int k = 0; k < y.length; k++) {
                  off = Math.max(off, Math.abs(y[k] - expected[k]));
                }
              }
              same[i] = off < 1e-8;
            });
    for (boolean s : same) {
      assertThat(s).isTrue();
    }
  }
}
