package kettlesieve.core.measure.clip;

import kettlesieve.core.signal.LinearPrediction;

/**
 * Clipped samples as gaps that an autoregressive model fills with the least residual (Janssen,
 * Veldhuis &amp; Vries, IEEE Trans. Acoust., Speech, Signal Process. 34, 1986), overlapping frames
 * added under sin² windows. A second opinion beside {@link SparseTops}.
 */
final class PredictedGaps {
  private static final int ORDER = 48;
  private static final int ITERATIONS = 3;
  private static final float UNSHRINK = 1.1f;

  private PredictedGaps() {}

  /**
   * Estimates what was there.
   *
   * @param source samples, clipped ones included
   * @param polarity 1 or −1 where clipped, 0 where good
   * @param least the least magnitude of a clipped sample
   * @param length of a frame
   */
  static float[] estimate(float[] source, byte[] polarity, float[] least, int length) {
    int hop = length / 2;
    float[] filled = new float[source.length];
    for (int from = -hop; from < source.length; from += hop) {
      double[] frame = new double[length];
      int[] gaps = new int[length];
      int missing = 0;
      for (int i = 0; i < length; i++) {
        int n = from + i;
        if (n >= 0 && n < source.length) {
          frame[i] = source[n];
          if (polarity[n] != 0) {
            gaps[missing++] = i;
          }
        }
      }
      if (missing > 0) {
        fill(frame, gaps, missing);
      }
      for (int i = 0; i < length; i++) {
        int n = from + i;
        if (n >= 0 && n < source.length) {
          double sine = Math.sin(Math.PI * (i + 0.5) / length);
          filled[n] += (float) (sine * sine * frame[i]);
        }
      }
    }
    for (int n = 0; n < source.length; n++) {
      if (polarity[n] == 0) {
        filled[n] = source[n];
      } else {
        float raised = Math.max(least[n], polarity[n] * filled[n]);
        filled[n] = source[n] + UNSHRINK * (polarity[n] * raised - source[n]);
      }
    }
    return filled;
  }

  private static void fill(double[] frame, int[] gaps, int missing) {
    for (int iteration = 0; iteration < ITERATIONS; iteration++) {
      double[] model = LinearPrediction.of(frame, Math.min(ORDER, frame.length / 3));
      if (model == null) {
        return;
      }
      int order = model.length - 1;
      double[] b = new double[order + 1];
      for (int lag = 0; lag <= order; lag++) {
        for (int k = 0; k + lag <= order; k++) {
          b[lag] += model[k] * model[k + lag];
        }
      }
      double[] known = frame.clone();
      for (int g = 0; g < missing; g++) {
        known[gaps[g]] = 0;
      }
      double[] right = new double[missing];
      for (int g = 0; g < missing; g++) {
        int at = gaps[g];
        for (int k = Math.max(0, at - order); k <= Math.min(frame.length - 1, at + order); k++) {
          right[g] -= b[Math.abs(k - at)] * known[k];
        }
      }
      double[] solved = solve(b, gaps, missing, right);
      for (int g = 0; g < missing; g++) {
        frame[gaps[g]] = solved[g];
      }
    }
  }

  /**
   * Solves for the gaps: entry (g, h) of the matrix is b at the distance of the two samples, 0 from
   * the order on, so the Cholesky factor is a narrow band.
   */
  private static double[] solve(double[] b, int[] gaps, int missing, double[] right) {
    int width = b.length;
    double[][] factor = new double[missing][width];
    for (int g = 0; g < missing; g++) {
      for (int h = Math.max(0, g - width + 1); h <= g; h++) {
        int distance = gaps[g] - gaps[h];
        double sum = distance < width ? b[distance] : 0;
        for (int k = Math.max(Math.max(0, g - width + 1), h - width + 1); k < h; k++) {
          sum -= factor[g][g - k] * factor[h][h - k];
        }
        if (h < g) {
          factor[g][g - h] = sum / factor[h][0];
        } else {
          factor[g][0] = Math.sqrt(Math.max(sum, 1e-12 * b[0]));
        }
      }
    }
    double[] x = new double[missing];
    for (int g = 0; g < missing; g++) {
      double sum = right[g];
      for (int k = Math.max(0, g - width + 1); k < g; k++) {
        sum -= factor[g][g - k] * x[k];
      }
      x[g] = sum / factor[g][0];
    }
    for (int g = missing - 1; g >= 0; g--) {
      double sum = x[g];
      for (int k = g + 1; k < Math.min(missing, g + width); k++) {
        sum -= factor[k][k - g] * x[k];
      }
      x[g] = sum / factor[g][0];
    }
    return x;
  }
}
