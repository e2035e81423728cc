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
      LinearPrediction.fill(frame, gaps, missing, model);
    }
  }
}
