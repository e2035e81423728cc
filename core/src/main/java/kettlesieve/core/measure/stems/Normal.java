package kettlesieve.core.measure.stems;

/** Symmetric positive equations of a few unknowns, by Cholesky's factors. */
final class Normal {
  private Normal() {}

  static double[] solve(double[][] a, double[] b) {
    int n = b.length;
    double[][] l = new double[n][n];
    for (int i = 0; i < n; i++) {
      for (int j = 0; j <= i; j++) {
        double sum = a[i][j];
        for (int k = 0; k < j; k++) {
          sum -= l[i][k] * l[j][k];
        }
        l[i][j] = i == j ? Math.sqrt(Math.max(sum, 1e-30)) : sum / l[j][j];
      }
    }
    double[] x = b.clone();
    for (int i = 0; i < n; i++) {
      for (int k = 0; k < i; k++) {
        x[i] -= l[i][k] * x[k];
      }
      x[i] /= l[i][i];
    }
    for (int i = n - 1; i >= 0; i--) {
      for (int k = i + 1; k < n; k++) {
        x[i] -= l[k][i] * x[k];
      }
      x[i] /= l[i][i];
    }
    return x;
  }
}
