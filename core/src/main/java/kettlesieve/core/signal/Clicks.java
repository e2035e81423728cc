package kettlesieve.core.signal;

import java.util.Arrays;

/**
 * Finds clicks: samples that a linear prediction from their past does not foresee by far.
 *
 * <p>Autoregressive residual detector (Godsill &amp; Rayner, "Digital Audio Restoration", Springer
 * 1998, chapter 5): in blocks of 40 ms a model of order 20 is fitted by the autocorrelation method
 * (Levinson–Durbin), and samples are flagged where the residual is more than a number of robust
 * standard deviations.
 */
public final class Clicks {
  private static final int ORDER = 20;

  private Clicks() {}

  /**
   * Marks the frames of a framing in which a click lies.
   *
   * @param channel one channel of the recording
   * @param threshold in robust standard deviations of the residual; speech alone reaches about 12
   */
  public static boolean[] frames(Audio audio, int channel, Framing framing, double threshold) {
    boolean[] marked = new boolean[framing.count()];
    int block = Math.max(8 * ORDER, (int) (0.040 * audio.sampleRate()));
    for (long from = 0; from < audio.frames(); from += block) {
      float[] x = audio.samples(channel, from - ORDER, block + ORDER);
      double[] residual = residual(x);
      double[] magnitudes = Arrays.stream(residual).map(Math::abs).toArray();
      double limit = threshold * 1.4826 * Statistics.median(magnitudes);
      if (!(limit > 0)) {
        continue;
      }
      for (int i = 0; i < magnitudes.length; i++) {
        if (magnitudes[i] > limit) {
          mark(marked, framing, from + i);
        }
      }
    }
    return marked;
  }

  private static void mark(boolean[] marked, Framing framing, long sample) {
    int last = (int) Math.min(marked.length - 1, sample / framing.hop());
    for (int t = last; t >= 0 && (long) t * framing.hop() + framing.length() > sample; t--) {
      marked[t] = true;
    }
  }

  /** Prediction error of all but the first {@code ORDER} samples. */
  private static double[] residual(float[] x) {
    double[] a = prediction(x);
    double[] residual = new double[x.length - ORDER];
    for (int i = ORDER; i < x.length; i++) {
      double sum = x[i];
      for (int k = 1; k <= ORDER; k++) {
        sum += a[k] * x[i - k];
      }
      residual[i - ORDER] = sum;
    }
    return residual;
  }

  private static double[] prediction(float[] x) {
    double[] r = new double[ORDER + 1];
    for (int lag = 0; lag <= ORDER; lag++) {
      double sum = 0;
      for (int i = lag; i < x.length; i++) {
        sum += x[i] * x[i - lag];
      }
      r[lag] = sum;
    }
    double[] a = new double[ORDER + 1];
    a[0] = 1;
    double error = r[0] * (1 + 1e-9) + 1e-20;
    for (int m = 1; m <= ORDER; m++) {
      double sum = r[m];
      for (int k = 1; k < m; k++) {
        sum += a[k] * r[m - k];
      }
      double reflection = -sum / error;
      double[] before = a.clone();
      for (int k = 1; k < m; k++) {
        a[k] = before[k] + reflection * before[m - k];
      }
      a[m] = reflection;
      error *= 1 - reflection * reflection;
    }
    return a;
  }
}
