package kettlesieve.core.signal;

import java.util.Arrays;

/** Linear convolution by the Fourier transform. */
public final class Convolution {
  private Convolution() {}

  /**
   * A signal through a response.
   *
   * @param x samples
   * @param response impulse response
   * @return as long as {@code x}; what rings on after its end is cut off
   */
  public static float[] of(float[] x, double[] response) {
    int size = Math.max(2, Fft.powerOfTwo((long) x.length + response.length));
    double[] a = new double[size];
    for (int i = 0; i < x.length; i++) {
      a[i] = x[i];
    }
    double[] b = Arrays.copyOf(response, size);
    Fft.forward(a);
    Fft.forward(b);
    SpectrumProducts.multiply(a, b);
    Fft.inverse(a);
    float[] y = new float[x.length];
    for (int i = 0; i < y.length; i++) {
      y[i] = (float) a[i];
    }
    return y;
  }
}
