package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
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

  private static double[] doubles(float[] x) {
    double[] y = new double[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = x[i];
    }
    return y;
  }

  private static double furthestApart(double[] a, double[] b) {
    double off = 0;
    for (int i = 0; i < a.length; i++) {
      off = Math.max(off, Math.abs(a[i] - b[i]));
    }
    return off;
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
    assertThat(furthestApart(doubles, expected)).isLessThan(1e-9);
    float[] floats = floats(x);
    Fft.forward(floats);
    assertThat(furthestApart(doubles(floats), expected)).isLessThan(1e-4);
  }

  @ParameterizedTest
  @ValueSource(ints = {16, 32, 48, 4096, 65536, 131072})
  void inverseGivesTheInputBack(int length) {
    double[] x = noise(length);
    double[] doubles = x.clone();
    Fft.forward(doubles);
    Fft.inverse(doubles);
    assertThat(furthestApart(doubles, x)).isLessThan(1e-12);
    float[] floats = floats(x);
    Fft.forward(floats);
    Fft.inverse(floats);
    assertThat(furthestApart(doubles(floats), x)).isLessThan(1e-5);
  }

  /** Who transforms beside others must not get a part of theirs. */
  @Test
  void threadsDoNotMeet() throws Exception {
    int length = 1 << 14;
    ExecutorService threads = Executors.newFixedThreadPool(4);
    try {
      List<Future<Double>> off = new ArrayList<>();
      for (int thread = 0; thread < 4; thread++) {
        double[] x = noise(length);
        x[thread] += 1000;
        double[] expected = x.clone();
        new DoubleFFT_1D(length).realForward(expected);
        off.add(threads.submit(() -> furthest(x, expected)));
      }
      for (Future<Double> one : off) {
        assertThat(one.get()).isLessThan(1e-8);
      }
    } finally {
      threads.shutdownNow();
    }
  }

  private static double furthest(double[] x, double[] expected) {
    double off = 0;
    for (int again = 0; again < 300; again++) {
      double[] y = x.clone();
      Fft.forward(y);
      off = Math.max(off, furthestApart(y, expected));
    }
    return off;
  }
}
