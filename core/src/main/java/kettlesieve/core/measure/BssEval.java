package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Fft;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.DecompositionFactory_DDRM;
import org.ejml.interfaces.decomposition.CholeskyDecomposition_F64;

/**
 * The separation evaluation of Vincent, Gribonval &amp; Févotte, "Performance measurement in blind
 * audio source separation", IEEE Trans. Audio, Speech, Lang. Process. 14, 2006: an estimate is
 * split into what filters of 512 taps can make of the wanted source, what they can make of the
 * others (interference), and the rest (artifacts).
 *
 * <p>The normal equations are block-Toeplitz: their entries are correlations of the sources at lags
 * up to 511, worked out through transforms. They are factorised once for a set of sources (with the
 * wanted source first, the upper left part of a Cholesky factor is the factor of that part, so the
 * projection on the wanted source alone needs no second one), and every estimate costs one
 * correlation and two triangular solutions. Projections are convolved block by block: nothing
 * assumes that a recording fits in memory.
 */
public final class BssEval {
  /** Length of the allowed filters. */
  public static final int TAPS = 512;

  private static final int CORRELATION_LENGTH = 1 << 15;
  private static final int CORRELATION_STEP = CORRELATION_LENGTH - 2 * TAPS;
  private static final int CONVOLUTION_LENGTH = 1 << 13;
  private static final int CONVOLUTION_STEP = CONVOLUTION_LENGTH - TAPS + 1;

  private final List<Line> lines;
  private final int wanted;
  private final long frames;
  private final double[][] factor;

  /** One channel of one source. */
  private record Line(Audio audio, int channel) {}

  /**
   * Told of the parts of an estimate, block by block and in order; the arrays are used again.
   *
   * @see BssEval#split
   */
  @FunctionalInterface
  public interface Parts {
    /**
     * @param from position of the first sample; up to 511 samples after the sources' end come, too
     * @param estimate the estimate itself
     * @param target its projection on the wanted source
     * @param all its projection on all sources
     * @param length number of samples
     */
    void at(long from, float[] estimate, float[] target, float[] all, int length);
  }

  private BssEval(List<Line> lines, int wanted, long frames) {
    this.lines = lines;
    this.wanted = wanted;
    this.frames = frames;
    this.factor = factorised(gram());
  }

  /**
   * The evaluation of single channels.
   *
   * @param sources one channel each, all of one length, the wanted one first; a silent source is
   *     left out
   */
  public static BssEval ofSources(List<Audio> sources) {
    for (Audio source : sources) {
      if (source.channels() != 1) {
        throw new IllegalArgumentException("sources have one channel here; use images");
      }
    }
    return ofImages(sources);
  }

  /**
   * The evaluation of spatial images: every channel of an estimate may be made of all channels of
   * the sources.
   *
   * @param sources all of one length and as many channels, the wanted one first; silent channels
   *     are left out
   * @throws IllegalArgumentException if the lengths differ
   */
  public static BssEval ofImages(List<Audio> sources) {
    long frames = sources.get(0).frames();
    List<Line> lines = new ArrayList<>();
    int wanted = -1;
    for (Audio source : sources) {
      if (source.frames() != frames) {
        throw new IllegalArgumentException("all sources must have one length");
      }
      for (int c = 0; c < source.channels(); c++) {
        if (sounds(source, c)) {
          lines.add(new Line(source, c));
        }
      }
      wanted = wanted < 0 ? lines.size() : wanted;
    }
    if (wanted == 0) {
      throw new IllegalArgumentException("the wanted source is silent");
    }
    return new BssEval(List.copyOf(lines), wanted, frames);
  }

  private static boolean sounds(Audio audio, int channel) {
    float[] block = new float[1 << 14];
    for (long at = 0; at < audio.frames(); at += block.length) {
      audio.read(channel, at, block, 0, block.length);
      for (float x : block) {
        if (Math.abs(x) > 1e-9) {
          return true;
        }
      }
    }
    return false;
  }

  // --- correlations ---

  /** Transforms of one block of every line, each reaching the filter's length to both sides. */
  private double[] wide(Audio audio, int channel, long at) {
    float[] x = audio.samples(channel, at - TAPS + 1, CORRELATION_STEP + 2 * TAPS - 2);
    double[] y = new double[CORRELATION_LENGTH];
    for (int i = 0; i < x.length; i++) {
      y[i] = x[i];
    }
    Fft.forward(y);
    return y;
  }

  private static double[] narrow(Audio audio, int channel, long at) {
    float[] x = audio.samples(channel, at, CORRELATION_STEP);
    double[] y = new double[CORRELATION_LENGTH];
    for (int i = 0; i < x.length; i++) {
      y[i] = x[i];
    }
    Fft.forward(y);
    return y;
  }

  /** Adds conj(a)·b in the packed layout of {@link Fft}. */
  private static void addCross(double[] a, double[] b, double[] sum) {
    sum[0] += a[0] * b[0];
    sum[1] += a[1] * b[1];
    for (int k = 2; k < a.length; k += 2) {
      sum[k] += a[k] * b[k] + a[k + 1] * b[k + 1];
      sum[k + 1] += a[k] * b[k + 1] - a[k + 1] * b[k];
    }
  }

  /**
   * Sums over time of x_i at n times x_j at n − l, for l from 511 down to −511, of all pairs of
   * lines.
   */
  private double[][][] lineCorrelations() {
    int n = lines.size();
    double[][][] sums = new double[n][n][CORRELATION_LENGTH];
    for (long at = 0; at < frames; at += CORRELATION_STEP) {
      double[][] wide = new double[n][];
      for (int j = 0; j < n; j++) {
        wide[j] = wide(lines.get(j).audio(), lines.get(j).channel(), at);
      }
      for (int i = 0; i < n; i++) {
        double[] narrow = narrow(lines.get(i).audio(), lines.get(i).channel(), at);
        for (int j = i; j < n; j++) {
          addCross(narrow, wide[j], sums[i][j]);
        }
      }
    }
    for (int i = 0; i < n; i++) {
      for (int j = i; j < n; j++) {
        Fft.inverse(sums[i][j]);
      }
    }
    return sums;
  }

  private DMatrixRMaj gram() {
    double[][][] r = lineCorrelations();
    int n = lines.size() * TAPS;
    DMatrixRMaj gram = new DMatrixRMaj(n, n);
    for (int i = 0; i < lines.size(); i++) {
      for (int j = i; j < lines.size(); j++) {
        for (int a = 0; a < TAPS; a++) {
          for (int b = 0; b < TAPS; b++) {
            // Both delayed, by a and b: a correlation at lag b − a.
            double value = r[i][j][TAPS - 1 - (b - a)];
            gram.unsafe_set(i * TAPS + a, j * TAPS + b, value);
            gram.unsafe_set(j * TAPS + b, i * TAPS + a, value);
          }
        }
      }
    }
    return gram;
  }

  /**
   * Lower triangle of the Cholesky factor, with a trace of white noise 100 dB down: sources that
   * are filtered copies of each other, as the channels of a mono recording in stereo, would be
   * singular.
   */
  private static double[][] factorised(DMatrixRMaj gram) {
    int n = gram.getNumRows();
    double largest = 0;
    for (int i = 0; i < n; i++) {
      largest = Math.max(largest, gram.get(i, i));
    }
    for (double ridge = 1e-10; ridge < 1e-3; ridge *= 10) {
      DMatrixRMaj copy = gram.copy();
      for (int i = 0; i < n; i++) {
        copy.add(i, i, ridge * largest);
      }
      CholeskyDecomposition_F64<DMatrixRMaj> cholesky = DecompositionFactory_DDRM.chol(n, true);
      if (cholesky.decompose(copy)) {
        DMatrixRMaj lower = cholesky.getT(null);
        double[][] rows = new double[n][];
        for (int i = 0; i < n; i++) {
          rows[i] = Arrays.copyOfRange(lower.data, i * n, i * n + i + 1);
        }
        return rows;
      }
    }
    throw new IllegalArgumentException("the sources cannot be told apart");
  }

  // --- projections ---

  /** Inner products of an estimate with every line at every delay. */
  private double[] products(Audio estimate, int channel) {
    double[][] sums = new double[lines.size()][CORRELATION_LENGTH];
    for (long at = 0; at < frames + TAPS - 1; at += CORRELATION_STEP) {
      double[] narrow = narrow(estimate, channel, at);
      for (int j = 0; j < lines.size(); j++) {
        addCross(narrow, wide(lines.get(j).audio(), lines.get(j).channel(), at), sums[j]);
      }
    }
    double[] products = new double[lines.size() * TAPS];
    for (int j = 0; j < lines.size(); j++) {
      Fft.inverse(sums[j]);
      for (int l = 0; l < TAPS; l++) {
        products[j * TAPS + l] = sums[j][TAPS - 1 - l];
      }
    }
    return products;
  }

  private double[] forward(double[] right) {
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

  /** Coefficients of the first {@code n} unknowns when the others are left out. */
  private double[] backward(double[] y, int n) {
    double[] x = Arrays.copyOf(y, n);
    for (int i = n - 1; i >= 0; i--) {
      x[i] /= factor[i][i];
      double[] row = factor[i];
      for (int k = 0; k < i; k++) {
        x[k] -= row[k] * x[i];
      }
    }
    return x;
  }

  /**
   * Splits a channel of an estimate.
   *
   * @param estimate as long as the sources
   * @param parts told of its parts from the first sample to the last
   */
  public void split(Audio estimate, int channel, Parts parts) {
    double[] y = forward(products(estimate, channel));
    double[][] all = filters(backward(y, y.length));
    double[][] target = filters(backward(y, wanted * TAPS));
    float[] estimateBlock = new float[CONVOLUTION_STEP];
    float[] targetBlock = new float[CONVOLUTION_STEP];
    float[] allBlock = new float[CONVOLUTION_STEP];
    double[] x = new double[CONVOLUTION_LENGTH];
    float[] read = new float[CONVOLUTION_LENGTH];
    for (long at = 0; at < frames + TAPS - 1; at += CONVOLUTION_STEP) {
      double[] targetSum = new double[CONVOLUTION_LENGTH];
      double[] allSum = new double[CONVOLUTION_LENGTH];
      for (int j = 0; j < lines.size(); j++) {
        Line line = lines.get(j);
        line.audio().read(line.channel(), at - TAPS + 1, read, 0, read.length);
        for (int i = 0; i < x.length; i++) {
          x[i] = read[i];
        }
        Fft.forward(x);
        addProduct(x, all[j], allSum);
        if (j < wanted) {
          addProduct(x, target[j], targetSum);
        }
      }
      Fft.inverse(targetSum);
      Fft.inverse(allSum);
      int n = (int) Math.min(CONVOLUTION_STEP, frames + TAPS - 1 - at);
      estimate.read(channel, at, estimateBlock, 0, n);
      for (int i = 0; i < n; i++) {
        targetBlock[i] = (float) targetSum[TAPS - 1 + i];
        allBlock[i] = (float) allSum[TAPS - 1 + i];
      }
      parts.at(at, estimateBlock, targetBlock, allBlock, n);
    }
  }

  private static double[][] filters(double[] coefficients) {
    double[][] filters = new double[coefficients.length / TAPS][CONVOLUTION_LENGTH];
    for (int j = 0; j < filters.length; j++) {
      System.arraycopy(coefficients, j * TAPS, filters[j], 0, TAPS);
      Fft.forward(filters[j]);
    }
    return filters;
  }

  private static void addProduct(double[] a, double[] b, double[] sum) {
    sum[0] += a[0] * b[0];
    sum[1] += a[1] * b[1];
    for (int k = 2; k < a.length; k += 2) {
      sum[k] += a[k] * b[k] - a[k + 1] * b[k + 1];
      sum[k + 1] += a[k] * b[k + 1] + a[k + 1] * b[k];
    }
  }
}
