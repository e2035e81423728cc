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

  /**
   * Puts those values in place of missing samples that make the squared prediction error least
   * (Janssen, Veldhuis &amp; Vries, IEEE Trans. ASSP 34, 1986). Where the equations are not
   * definite, the pivot is raised to a trace of the diagonal.
   *
   * @param frame samples; what stands at the gaps does not matter, and is overwritten
   * @param gaps places of missing samples, rising
   * @param missing how many of {@code gaps} count
   * @param a coefficients 1, a1, …, ap
   */
  public static void fill(double[] frame, int[] gaps, int missing, double[] a) {
    int order = a.length - 1;
    double[] b = new double[order + 1];
    for (int lag = 0; lag <= order; lag++) {
      for (int k = 0; k + lag <= order; k++) {
        b[lag] += a[k] * a[k + lag];
      }
    }
    for (int g = 0; g < missing; g++) {
      frame[gaps[g]] = 0;
    }
    double[] right = new double[missing];
    for (int g = 0; g < missing; g++) {
      int at = gaps[g];
      for (int k = Math.max(0, at - order); k <= Math.min(frame.length - 1, at + order); k++) {
        right[g] -= b[Math.abs(k - at)] * frame[k];
      }
    }
    double[] solved = solve(b, gaps, missing, right);
    for (int g = 0; g < missing; g++) {
      frame[gaps[g]] = solved[g];
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
