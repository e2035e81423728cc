package kettlesieve.calibrate.makers;

import java.util.Arrays;
import kettlesieve.core.signal.Fft;

/**
 * Declipping by sparse spectra in turn with consistency: small cells are taken away, then good
 * samples are put back and clipped ones raised to the ceiling. With hard thresholds that sink step
 * by step, or with soft ones.
 */
final class ConsistentSparse {
  private static final int LENGTH = 1024;
  private static final int HOP = LENGTH / 4;
  private static final int STEPS = 40;

  private ConsistentSparse() {}

  static float[] process(float[] clipped, float ceiling, boolean hard) {
    float[] window = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      double sine = Math.sin(Math.PI * (i + 0.5) / LENGTH);
      window[i] = (float) (sine * sine / Math.sqrt(1.5));
    }
    float[] x = clipped.clone();
    for (int step = 0; step < STEPS; step++) {
      // From 10 % of the strongest cell down to nothing much.
      double threshold = 0.1 * Math.pow(10, -2.5 * step / STEPS);
      x = thresholded(x, window, threshold, hard);
      for (int i = 0; i < x.length; i++) {
        boolean top = Math.abs(clipped[i]) >= 0.999f * ceiling;
        x[i] =
            top
                ? Math.signum(clipped[i]) * Math.max(ceiling, Math.signum(clipped[i]) * x[i])
                : clipped[i];
      }
    }
    return x;
  }

  private static float[] thresholded(float[] x, float[] window, double share, boolean hard) {
    float[] y = new float[x.length];
    float[] frame = new float[LENGTH];
    for (int from = HOP - LENGTH; from < x.length; from += HOP) {
      Arrays.fill(frame, 0);
      for (int i = Math.max(0, -from); i < LENGTH && from + i < x.length; i++) {
        frame[i] = x[from + i] * window[i];
      }
      Fft.forward(frame);
      double most = 0;
      for (int k = 1; k < LENGTH / 2; k++) {
        most = Math.max(most, magnitude(frame, k));
      }
      double limit = share * most;
      for (int k = 1; k < LENGTH / 2; k++) {
        double own = magnitude(frame, k);
        double keep = own < limit ? 0 : hard ? 1 : 1 - limit / own;
        frame[2 * k] *= (float) keep;
        frame[2 * k + 1] *= (float) keep;
      }
      Fft.inverse(frame);
      for (int i = Math.max(0, -from); i < LENGTH && from + i < x.length; i++) {
        y[from + i] += frame[i] * window[i];
      }
    }
    return y;
  }

  private static double magnitude(float[] frame, int bin) {
    double re = frame[2 * bin];
    double im = frame[2 * bin + 1];
    return Math.sqrt(re * re + im * im);
  }
}
