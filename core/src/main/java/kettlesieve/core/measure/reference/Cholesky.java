package kettlesieve.core.measure.reference;

import java.util.stream.IntStream;

/** The Cholesky factor of large symmetric matrices, as the rows of the lower triangle. */
final class Cholesky {
  private static final int PANEL = 64;
  private static final int TILE = 512;

  /**
   * Columns that are taken in one go over a row: the fewer goes, the less is fetched and put back.
   */
  private static final int AT_ONCE = 8;

  private Cholesky() {}

  /**
   * Factorises in place, by panels of 64 columns: the rows on the diagonal, then all rows below,
   * then what the panel takes from the rest. The latter is nearly all of the work; it runs along
   * rows, which do not depend on each other and are shared out among the processors, and which the
   * compiler turns into vector operations. Several times quicker here than a general library's, and
   * the order of every sum is fixed. The size is a multiple of 64.
   *
   * @return false if the matrix is not positive definite
   */
  static boolean factorise(double[][] rows) {
    int n = rows.length;
    for (int start = 0; start < n; start += PANEL) {
      int end = start + PANEL;
      for (int i = start; i < end; i++) {
        solvePanel(rows, i, start, i);
        double left = rows[i][i] - squares(rows[i], start, i);
        if (!(left > 0)) {
          return false;
        }
        rows[i][i] = Math.sqrt(left);
      }
      int from = start;
      IntStream.range(end, n).parallel().forEach(i -> solvePanel(rows, i, from, end));
      double[][] columns = new double[PANEL][n - end];
      for (int i = end; i < n; i++) {
        for (int k = 0; k < PANEL; k++) {
          columns[k][i - end] = rows[i][start + k];
        }
      }
      IntStream.range(0, (n - end) / PANEL)
          .parallel()
          .forEach(group -> take(rows, end + group * PANEL, from, end, columns));
    }
    return true;
  }

  private static double squares(double[] row, int from, int to) {
    double sum = 0;
    for (int k = from; k < to; k++) {
      sum += row[k] * row[k];
    }
    return sum;
  }

  /** Columns of a panel in one row, up to the diagonal. */
  private static void solvePanel(double[][] rows, int i, int start, int end) {
    double[] row = rows[i];
    for (int j = start; j < end; j++) {
      double[] other = rows[j];
      double sum = row[j];
      for (int k = start; k < j; k++) {
        sum -= row[k] * other[k];
      }
      row[j] = sum / other[j];
    }
  }

  /** Takes what a panel explains from the cells right of it in 64 rows, by tiles that stay near. */
  private static void take(double[][] rows, int group, int start, int first, double[][] columns) {
    double[] part = new double[TILE];
    double[][] near = new double[PANEL][TILE];
    for (int tile = first; tile < group + PANEL; tile += TILE) {
      int width = Math.min(TILE, group + PANEL - tile);
      for (int k = 0; k < PANEL; k++) {
        System.arraycopy(columns[k], tile - first, near[k], 0, width);
      }
      for (int i = Math.max(group, tile); i < group + PANEL; i++) {
        double[] row = rows[i];
        int n = Math.min(TILE, i + 1 - tile);
        System.arraycopy(row, tile, part, 0, n);
        for (int k = 0; k < PANEL; k += AT_ONCE) {
          take(part, n, row, start + k, near, k);
        }
        System.arraycopy(part, 0, row, tile, n);
      }
    }
  }

  private static void take(double[] y, int n, double[] row, int at, double[][] near, int first) {
    double a = row[at];
    double b = row[at + 1];
    double c = row[at + 2];
    double d = row[at + 3];
    double e = row[at + 4];
    double f = row[at + 5];
    double g = row[at + 6];
    double h = row[at + 7];
    double[] s = near[first];
    double[] t = near[first + 1];
    double[] u = near[first + 2];
    double[] v = near[first + 3];
    double[] w = near[first + 4];
    double[] x = near[first + 5];
    double[] p = near[first + 6];
    double[] q = near[first + 7];
    for (int j = 0; j < n; j++) {
      double four = a * s[j] + b * t[j] + c * u[j] + d * v[j];
      y[j] -= four + (e * w[j] + f * x[j] + g * p[j] + h * q[j]);
    }
  }

  /** Solves equations whose matrix was factorised. */
  static double[] solved(double[][] factor, double[] right) {
    return backward(factor, forward(factor, right));
  }

  private static double[] forward(double[][] factor, double[] right) {
    double[] y = new double[right.length];
    for (int i = 0; i < y.length; i++) {
      double[] row = factor[i];
      double sum = right[i];
      for (int k = 0; k < i; k++) {
        sum -= row[k] * y[k];
      }
      y[i] = sum / row[i];
    }
    return y;
  }

  private static double[] backward(double[][] factor, double[] y) {
    double[] x = y.clone();
    for (int i = x.length - 1; i >= 0; i--) {
      x[i] /= factor[i][i];
      double[] row = factor[i];
      for (int k = 0; k < i; k++) {
        x[k] -= row[k] * x[i];
      }
    }
    return x;
  }
}
