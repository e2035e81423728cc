package kettlesieve.core.signal;

/** Linear prediction by the autocorrelation method (Levinson 1947, Durbin 1960). */
public final class LinearPrediction {
  private LinearPrediction() {}

  /**
   * Coefficients 1, a1, …, ap of the error filter; null for silence.
   *
   * @param y a stretch of signal
   * @param order p, at least 1
   */
  public static double[] of(double[] y, int order) {
    if (order < 1) {
      return null;
    }
    double[] r = new double[order + 1];
    for (int lag = 0; lag <= order; lag++) {
      for (int i = lag; i < y.length; i++) {
        r[lag] += y[i] * y[i - lag];
      }
    }
    if (!(r[0] > 1e-20)) {
      return null;
    }
    r[0] *= 1 + 1e-9;
    double[] a = new double[order + 1];
    a[0] = 1;
    double error = r[0];
    for (int m = 1; m <= order; m++) {
      double sum = r[m];
      for (int k = 1; k < m; k++) {
        sum += a[k] * r[m - k];
      }
      double reflection = -sum / error;
      double[] next = a.clone();
      for (int k = 1; k < m; k++) {
        next[k] = a[k] + reflection * a[m - k];
      }
      next[m] = reflection;
      a = next;
      error *= 1 - reflection * reflection;
      if (!(error > 0)) {
        break;
      }
    }
    return a;
  }

  /**
   * Prediction error of all but the first p samples, for a model of at least one coefficient.
   *
   * @param a coefficients 1, a1, …, ap
   */
  public static double[] residual(double[] y, double[] a) {
    int order = a.length - 1;
    double[] residual = new double[y.length - order];
    for (int i = order; i < y.length; i++) {
      double sum = y[i];
      for (int k = 1; k <= order; k++) {
        sum += a[k] * y[i - k];
      }
      residual[i - order] = sum;
    }
    return residual;
  }
}
