package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Fft;

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

  private static final int PANEL = 64;

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

  /** Lower triangle of the normal matrix, row by row. */
  private double[][] gram() {
    double[][][] r = lineCorrelations();
    int n = lines.size() * TAPS;
    double[][] gram = new double[n][];
    for (int j = 0; j < lines.size(); j++) {
      for (int b = 0; b < TAPS; b++) {
        int row = j * TAPS + b;
        gram[row] = new double[row + 1];
        for (int i = 0; i <= j; i++) {
          // Both delayed, by a and b: a correlation at lag b − a.
          double[] lags = r[i][j];
          int end = Math.min(TAPS, row + 1 - i * TAPS);
          for (int a = 0; a < end; a++) {
            gram[row][i * TAPS + a] = lags[TAPS - 1 - (b - a)];
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
  private static double[][] factorised(double[][] gram) {
    double largest = 0;
    for (int i = 0; i < gram.length; i++) {
      largest = Math.max(largest, gram[i][i]);
    }
    for (double ridge = 1e-10; ridge < 1e-3; ridge *= 10) {
      double[][] lower = new double[gram.length][];
      for (int i = 0; i < gram.length; i++) {
        lower[i] = gram[i].clone();
        lower[i][i] += ridge * largest;
      }
      if (cholesky(lower)) {
        return lower;
      }
    }
    throw new IllegalArgumentException("the sources cannot be told apart");
  }

  /**
   * Factorises in place, by panels of 64 columns: first the rows on the diagonal, then all rows
   * below, which do not depend on each other and are shared out among the processors. Four rows by
   * two columns at a time: the sums of eight products share their operands. Several times quicker
   * here than a general library's, and the order of every sum is fixed. The size is a multiple of
   * 64.
   *
   * @return false if the matrix is not positive definite
   */
  private static boolean cholesky(double[][] rows) {
    for (int panel = 0; panel < rows.length; panel += PANEL) {
      int start = panel;
      int end = panel + PANEL;
      for (int i = start; i < end; i += 4) {
        for (int j = start; j < i; j += 2) {
          columns(rows[i], rows[i + 1], rows[i + 2], rows[i + 3], rows[j], rows[j + 1], j);
        }
        if (!diagonal(rows, i)) {
          return false;
        }
      }
      IntStream.range(end / 4, rows.length / 4)
          .parallel()
          .forEach(
              group -> {
                int i = 4 * group;
                for (int j = start; j < end; j += 2) {
                  columns(rows[i], rows[i + 1], rows[i + 2], rows[i + 3], rows[j], rows[j + 1], j);
                }
              });
    }
    return true;
  }

  /** The four by four cells on the diagonal from row i on. */
  private static boolean diagonal(double[][] rows, int i) {
    for (int r = i; r < i + 4; r++) {
      for (int j = i; j <= r; j++) {
        double sum = rows[r][j];
        for (int k = 0; k < j; k++) {
          sum -= rows[r][k] * rows[j][k];
        }
        if (r > j) {
          rows[r][j] = sum / rows[j][j];
        } else if (sum > 0) {
          rows[r][r] = Math.sqrt(sum);
        } else {
          return false;
        }
      }
    }
    return true;
  }

  /** Columns j and j + 1 of four rows, from the rows c and d of these columns. */
  private static void columns(
      double[] r0, double[] r1, double[] r2, double[] r3, double[] c, double[] d, int j) {
    double c0 = r0[j];
    double c1 = r1[j];
    double c2 = r2[j];
    double c3 = r3[j];
    double d0 = r0[j + 1];
    double d1 = r1[j + 1];
    double d2 = r2[j + 1];
    double d3 = r3[j + 1];
    for (int k = 0; k < j; k++) {
      double x = c[k];
      double y = d[k];
      c0 -= r0[k] * x;
      c1 -= r1[k] * x;
      c2 -= r2[k] * x;
      c3 -= r3[k] * x;
      d0 -= r0[k] * y;
      d1 -= r1[k] * y;
      d2 -= r2[k] * y;
      d3 -= r3[k] * y;
    }
    r0[j] = c0 / c[j];
    r1[j] = c1 / c[j];
    r2[j] = c2 / c[j];
    r3[j] = c3 / c[j];
    r0[j + 1] = (d0 - r0[j] * d[j]) / d[j + 1];
    r1[j + 1] = (d1 - r1[j] * d[j]) / d[j + 1];
    r2[j + 1] = (d2 - r2[j] * d[j]) / d[j + 1];
    r3[j + 1] = (d3 - r3[j] * d[j]) / d[j + 1];
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
