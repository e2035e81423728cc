package kettlesieve.core.measure.reference;

import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.signal.DotProduct;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.SpectrumProducts;
import kettlesieve.core.task.Stop;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * Symmetric equations whose matrix is made of Toeplitz blocks: the normal equations of filters on
 * several lines at once. Entry (i, a), (j, b) is the correlation of line i delayed by a with line j
 * delayed by b and depends on b − a alone.
 *
 * <p>The predictors of all orders come from the recursion of Whittle 1963 ("On the fitting of
 * multivariate autoregressions, and the approximate canonical factorization of a spectral density
 * matrix", Biometrika 50), which takes the square of the taps and not their third power. Backward
 * predictors and what they leave are the factors of the inverse. In rounded numbers these are near
 * the inverse only, so they serve as the preconditioner of conjugate gradients, which go on until
 * the energy that is left unexplained is 10⁻¹⁴ of what is explained: two or three rounds. (The
 * shorter formula of Gohberg and Semencul for the inverse was tried: it takes the difference of
 * large numbers where the lines are loud, and came to no end for sources without trebles.)
 *
 * <p>Over 400 lines because recursion, preconditioner and gradients share the layout of their
 * arrays.
 */
final class BlockToeplitz {
  static final String TOO_MUCH_ALIKE =
      "what the recording was made of is too much alike to be told apart in it";

  private static final double LEFT = 1e-14;

  /** How much better than asked for a round must promise to be that it is not looked at. */
  private static final double SURE = 1e-3;

  private static final int MOST_ROUNDS = 100;

  private final double ridge;
  private final int lines;
  private final int taps;

  /** Length of transforms: no lag may meet another. */
  private final int length;

  /** By pair of lines, transforms of the matrix. */
  private final double[][][] matrix;

  private final Whittle predictors;

  private BlockToeplitz(double[][][] lags, double ridge, Whittle predictors) {
    this.ridge = ridge;
    this.lines = lags.length;
    this.taps = (lags[0][0].length + 1) / 2;
    this.length = Fft.powerOfTwo(2L * taps);
    this.matrix = new double[lines][lines][length];
    this.predictors = predictors;
    for (int i = 0; i < lines; i++) {
      for (int j = 0; j < lines; j++) {
        // Row a, column b: lag b − a, so the kernel at a − b.
        System.arraycopy(lags[i][j], taps - 1, matrix[i][j], 0, taps);
        System.arraycopy(lags[i][j], 0, matrix[i][j], length - taps + 1, taps - 1);
        Fft.forward(matrix[i][j]);
      }
    }
  }

  /**
   * Prepares equations.
   *
   * @param correlations by two lines, at lags from taps − 1 down to −(taps − 1): of line i at n
   *     with line j at n − lag; the second not before the first
   * @param ridge that is added on the diagonal
   * @return null if the matrix is not positive definite as far as can be told
   */
  static BlockToeplitz of(double[][][] correlations, double ridge) {
    int m = correlations.length;
    int last = correlations[0][0].length - 1;
    double[][][] lags = new double[m][m][];
    for (int i = 0; i < m; i++) {
      for (int j = i; j < m; j++) {
        lags[i][j] = correlations[i][j].clone();
        if (i == j) {
          lags[i][i][last / 2] += ridge;
        } else {
          lags[j][i] = new double[last + 1];
          for (int k = 0; k <= last; k++) {
            lags[j][i][k] = lags[i][j][last - k];
          }
        }
      }
    }
    Whittle predictors = Whittle.of(lags);
    if (predictors == null) {
      return null;
    }
    BlockToeplitz equations = new BlockToeplitz(lags, ridge, predictors);
    return equations.holds() ? equations : null;
  }

  /** Whether rounding left enough of the inverse: tried on a made-up right side. */
  private boolean holds() {
    double[] right = new double[lines * taps];
    SplittableRandom random = new SplittableRandom(1);
    for (int i = 0; i < right.length; i++) {
      right[i] = random.nextDouble() - 0.5;
    }
    return solved(List.of(right)).get(0) != null;
  }

  /**
   * Solves the equations.
   *
   * @param right by line and tap
   * @return by line and tap
   * @throws ArithmeticException if rounding does not let it
   */
  double[] solved(double[] right) {
    double[] x = solved(List.of(right)).get(0);
    if (x == null) {
      throw new ArithmeticException(TOO_MUCH_ALIKE);
    }
    return x;
  }

  /** The square form of the matrix without its ridge: the energy of what filters make of lines. */
  double energy(double[] x) {
    return DotProduct.of(x, times(x), x.length) - ridge * DotProduct.of(x, x, x.length);
  }

  /**
   * Solves the equations for several right sides. The factors of the inverse are fetched once for
   * all of them: to fetch takes longer than to multiply.
   *
   * @param rights each by line and tap
   * @return each by line and tap; null where rounding does not let it
   */
  List<double[]> solved(List<double[]> rights) {
    List<TimeCourse> courses = rights.stream().map(TimeCourse::new).toList();
    List<TimeCourse> going = courses;
    for (int round = 0; round < MOST_ROUNDS && !going.isEmpty(); round++) {
      List<double[]> near = predictors.nearInverse(going.stream().map(c -> c.residual).toList());
      for (int i = 0; i < near.size(); i++) {
        going.get(i).goOn(near.get(i));
      }
      going = going.stream().filter(c -> !c.done).toList();
    }
    return courses.stream().map(c -> c.solved ? c.x : null).toList();
  }

  /** Conjugate gradients of one right side. */
  private final class TimeCourse {
    private final double[] x;
    private final double[] residual;
    private final double[] direction;
    private double left;
    private double whole;
    private boolean begun;
    private boolean done;
    private boolean solved;

    TimeCourse(double[] right) {
      this.x = new double[right.length];
      this.residual = right.clone();
      this.direction = new double[right.length];
    }

    /** A round, with what the inverse makes of the residual. */
    void goOn(double[] near) {
      double now = DotProduct.of(residual, near, residual.length);
      double kept = begun ? now / left : 0;
      for (int i = 0; i < x.length; i++) {
        direction[i] = near[i] + kept * direction[i];
      }
      double shrunk = begun ? Math.abs(now) / left : 1;
      whole = begun ? whole : now;
      left = now;
      begun = true;
      if (!(left >= 0) || left <= LEFT * whole) {
        end(left >= 0);
        return;
      }
      double[] image = times(direction);
      double step = left / DotProduct.of(direction, image, direction.length);
      for (int i = 0; i < x.length; i++) {
        x[i] += step * direction[i];
        residual[i] -= step * image[i];
      }
      if (left <= SURE * LEFT * whole / Math.max(shrunk, Double.MIN_NORMAL)) {
        // A round takes off what the last one did, or more; to look would cost as much as to solve.
        end(true);
      }
    }

    private void end(boolean well) {
      done = true;
      solved = well;
    }
  }

  /** The matrix times a vector. */
  private double[] times(double[] x) {
    double[][] transforms = new double[lines][length];
    for (int j = 0; j < lines; j++) {
      System.arraycopy(x, j * taps, transforms[j], 0, taps);
      Fft.forward(transforms[j]);
    }
    double[] result = new double[x.length];
    for (int i = 0; i < lines; i++) {
      double[] sum = new double[length];
      for (int j = 0; j < lines; j++) {
        SpectrumProducts.addProduct(matrix[i][j], transforms[j], sum);
      }
      Fft.inverse(sum);
      System.arraycopy(sum, 0, result, i * taps, taps);
    }
    return result;
  }

  /** Predictors, forward and backward, and what they leave. */
  private static final class Whittle {
    private final int lines;
    private final int taps;

    /** Lag by lag, so that a sum over taps runs along both arrays. */
    private final double[][][] lags;

    /** By line that is predicted, line that predicts, and tap; the identity at tap 0. */
    private double[][][] forward;

    /** The same, the identity at the last tap. */
    private double[][][] backward;

    private final DMatrixRMaj forwardLeft;
    private final DMatrixRMaj backwardLeft;

    /** By order, the backward predictor, and the inverse of what it leaves. */
    private final double[][][][] factors;

    private final double[][] weights;

    private Whittle(double[][][] lags) {
      this.lags = lags;
      this.lines = lags.length;
      this.taps = (lags[0][0].length + 1) / 2;
      this.forward = new double[lines][lines][taps];
      this.backward = new double[lines][lines][taps];
      this.forwardLeft = new DMatrixRMaj(lines, lines);
      for (int i = 0; i < lines; i++) {
        forward[i][i][0] = 1;
        backward[i][i][0] = 1;
        for (int j = 0; j < lines; j++) {
          forwardLeft.set(i, j, lags[i][j][taps - 1]);
        }
      }
      this.backwardLeft = forwardLeft.copy();
      this.factors = new double[taps][][][];
      this.weights = new double[taps][];
    }

    /** Null if what is left is not positive definite at some order. */
    static Whittle of(double[][][] lags) {
      Whittle predictors = new Whittle(lags);
      for (int order = 0; order < predictors.taps; order++) {
        if (order > 0 && !predictors.raise(order) || !predictors.keep(order)) {
          return null;
        }
      }
      predictors.forward = null;
      predictors.backward = null;
      return predictors;
    }

    private boolean keep(int order) {
      LinearSolverDense<DMatrixRMaj> solver = LinearSolverFactory_DDRM.chol(lines);
      if (!solver.setA(backwardLeft.copy())) {
        return false;
      }
      DMatrixRMaj inverse = new DMatrixRMaj(lines, lines);
      solver.invert(inverse);
      symmetric(inverse);
      weights[order] = inverse.getData();
      factors[order] = new double[lines][lines][];
      for (int i = 0; i < lines; i++) {
        for (int j = 0; j < lines; j++) {
          factors[order][i][j] = Arrays.copyOf(backward[i][j], order + 1);
        }
      }
      return true;
    }

    /** The inverse times vectors, as far as rounding lets it. */
    List<double[]> nearInverse(List<double[]> vectors) {
      // A line in an array of its own: a place that is counted from elsewhere takes half as long
      // again.
      int count = vectors.size();
      double[][][] of = new double[count][lines][];
      double[][][] to = new double[count][lines][taps];
      for (int v = 0; v < count; v++) {
        for (int j = 0; j < lines; j++) {
          of[v][j] = Arrays.copyOfRange(vectors.get(v), j * taps, (j + 1) * taps);
        }
      }
      double[][] errors = new double[count][lines];
      for (int order = 0; order < taps; order++) {
        double[][][] factor = factors[order];
        for (double[] error : errors) {
          Arrays.fill(error, 0);
        }
        for (int line = 0; line < lines; line++) {
          for (int j = 0; j < lines; j++) {
            for (int v = 0; v < count; v++) {
              errors[v][line] += DotProduct.of(factor[line][j], of[v][j], order + 1);
            }
          }
        }
        for (int v = 0; v < count; v++) {
          add(factor, weighted(weights[order], errors[v]), to[v]);
        }
      }
      return Arrays.stream(to).map(this::joined).toList();
    }

    private double[] weighted(double[] weights, double[] errors) {
      double[] weighted = new double[lines];
      for (int line = 0; line < lines; line++) {
        for (int q = 0; q < lines; q++) {
          weighted[line] += weights[line * lines + q] * errors[q];
        }
      }
      return weighted;
    }

    private double[] joined(double[][] byLine) {
      double[] all = new double[lines * taps];
      for (int j = 0; j < lines; j++) {
        System.arraycopy(byLine[j], 0, all, j * taps, taps);
      }
      return all;
    }

    private void add(double[][][] factor, double[] by, double[][] to) {
      for (int j = 0; j < lines; j++) {
        int i = 0;
        for (; i + 1 < lines; i += 2) {
          add(factor[i][j], by[i], factor[i + 1][j], by[i + 1], to[j]);
        }
        if (i < lines) {
          add(factor[i][j], by[i], to[j]);
        }
      }
    }

    private static void add(
        double[] one, double byOne, double[] other, double byOther, double[] to) {
      for (int a = 0; a < one.length; a++) {
        to[a] += byOne * one[a] + byOther * other[a];
      }
    }

    private static void add(double[] factor, double by, double[] to) {
      for (int a = 0; a < factor.length; a++) {
        to[a] += by * factor[a];
      }
    }

    private boolean raise(int order) {
      Stop.checkHere();
      // What the forward predictor leaves at the tap it does not know yet.
      DMatrixRMaj seen = new DMatrixRMaj(lines, lines);
      double[] before = new double[order];
      for (int q = 0; q < lines; q++) {
        for (int j = 0; j < lines; j++) {
          // The correlation at lag order − a stands at tap a.
          System.arraycopy(lags[q][j], taps - 1 - order, before, 0, order);
          for (int i = 0; i < lines; i++) {
            seen.add(i, j, DotProduct.of(forward[i][q], before, order));
          }
        }
      }
      LinearSolverDense<DMatrixRMaj> ofForward = LinearSolverFactory_DDRM.chol(lines);
      LinearSolverDense<DMatrixRMaj> ofBackward = LinearSolverFactory_DDRM.chol(lines);
      if (!ofForward.setA(forwardLeft.copy()) || !ofBackward.setA(backwardLeft.copy())) {
        return false;
      }
      DMatrixRMaj turned = CommonOps_DDRM.transpose(seen, null);
      // (E⁻¹·Δᵀ)ᵀ = Δ·E⁻¹, as E is symmetric.
      DMatrixRMaj toForward = new DMatrixRMaj(lines, lines);
      ofBackward.solve(turned.copy(), toForward);
      DMatrixRMaj toBackward = new DMatrixRMaj(lines, lines);
      ofForward.solve(seen.copy(), toBackward);
      CommonOps_DDRM.multAdd(-1, seen, toForward, forwardLeft);
      CommonOps_DDRM.multAdd(-1, turned, toBackward, backwardLeft);
      symmetric(forwardLeft);
      symmetric(backwardLeft);
      double[][][] nextForward = new double[lines][lines][];
      double[][][] nextBackward = new double[lines][lines][];
      for (int i = 0; i < lines; i++) {
        for (int j = 0; j < lines; j++) {
          double[] a = forward[i][j].clone();
          double[] b = new double[taps];
          System.arraycopy(backward[i][j], 0, b, 1, order);
          for (int q = 0; q < lines; q++) {
            takeLater(a, toForward.get(q, i), backward[q][j], order);
            take(b, toBackward.get(q, i), forward[q][j], order);
          }
          nextForward[i][j] = a;
          nextBackward[i][j] = b;
        }
      }
      forward = nextForward;
      backward = nextBackward;
      return true;
    }

    private static void take(double[] from, double gain, double[] other, int count) {
      for (int a = 0; a < count; a++) {
        from[a] -= gain * other[a];
      }
    }

    private static void takeLater(double[] from, double gain, double[] other, int count) {
      for (int a = 0; a < count; a++) {
        from[a + 1] -= gain * other[a];
      }
    }

    private static void symmetric(DMatrixRMaj matrix) {
      for (int i = 0; i < matrix.numRows; i++) {
        for (int j = 0; j < i; j++) {
          double mean = (matrix.get(i, j) + matrix.get(j, i)) / 2;
          matrix.set(i, j, mean);
          matrix.set(j, i, mean);
        }
      }
    }
  }
}
