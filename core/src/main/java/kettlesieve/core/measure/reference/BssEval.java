package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Fft;

/**
 * The separation evaluation of Vincent, Gribonval &amp; Févotte, "Performance measurement in blind
 * audio source separation", IEEE Trans. Audio, Speech, Lang. Process. 14, 2006: an estimate is
 * split into what filters of 512 taps can make of the wanted source, what they can make of the
 * others (interference), and the rest (artifacts).
 *
 * <p>The normal equations are block-Toeplitz: their entries are correlations of the sources at lags
 * up to 511, worked out through transforms. They are prepared once for a set of sources ({@link
 * BlockToeplitz}), and every estimate costs one correlation and a few more transforms. Estimates
 * that are split together share the transforms of the sources. Projections are convolved block by
 * block: nothing assumes that a recording fits in memory.
 */
public final class BssEval {
  /** Length of the allowed filters. */
  public static final int TAPS = 512;

  private static final int CORRELATION_LENGTH = 1 << 14;
  private static final int CORRELATION_STEP = CORRELATION_LENGTH - 2 * TAPS;
  private static final int CONVOLUTION_LENGTH = 1 << 13;
  private static final int CONVOLUTION_STEP = CONVOLUTION_LENGTH - TAPS + 1;

  /**
   * What is left of a channel once its copy is taken off, 70 dB down, is the rounding of a file.
   */
  private static final double COPY = 1e-7;

  private final List<Line> lines;

  /** By source its first line, and the number of all lines at the end. */
  private final int[] starts;

  private final long frames;

  /** By pair of lines, the second not before the first: correlations at lags from 511 to −511. */
  private final double[][][] correlations;

  private final BlockToeplitz onAll;

  /** By source; null for a silent one. */
  private final BlockToeplitz[] onOne;

  /** One channel of one source. */
  private record Line(Audio audio, int channel) {}

  /**
   * A channel of an estimate.
   *
   * @param audio as long as the sources
   * @param channel of it
   * @param wanted which of the sources it is an estimate of, 0 for the first
   */
  public record Judged(Audio audio, int channel, int wanted) {}

  /**
   * Told of the parts of estimates, block by block and in order; the arrays are used again.
   *
   * @see BssEval#split
   */
  @FunctionalInterface
  public interface Parts {
    /**
     * @param judged which estimate
     * @param from position of the first sample; up to 511 samples after the sources' end come, too
     * @param estimate the estimate itself
     * @param target its projection on the wanted source
     * @param all its projection on all sources
     * @param length number of samples
     */
    void at(int judged, long from, float[] estimate, float[] target, float[] all, int length);
  }

  private BssEval(List<Line> lines, int[] starts, long frames) {
    this.lines = lines;
    this.starts = starts;
    this.frames = frames;
    this.correlations = lineCorrelations();
    this.onAll = equations(0, lines.size());
    this.onOne = new BlockToeplitz[starts.length - 1];
    for (int s = 0; s < onOne.length; s++) {
      onOne[s] = silent(s) ? null : equations(starts[s], starts[s + 1] - starts[s]);
    }
  }

  /**
   * The evaluation of single channels.
   *
   * @param sources one channel each, all of one length; a silent source is left out
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
   * @param sources all of one length and as many channels; silent channels are left out, and those
   *     that are another of their source at another level: they can make nothing more
   * @throws IllegalArgumentException if the lengths differ or all of them are silent
   */
  public static BssEval ofImages(List<Audio> sources) {
    long frames = sources.get(0).frames();
    List<Line> lines = new ArrayList<>();
    int[] starts = new int[sources.size() + 1];
    for (int s = 0; s < sources.size(); s++) {
      Audio source = sources.get(s);
      if (source.frames() != frames) {
        throw new IllegalArgumentException("all sources must have one length");
      }
      for (int c = 0; c < source.channels(); c++) {
        if (sounds(source, c) && !copied(source, c)) {
          lines.add(new Line(source, c));
        }
      }
      starts[s + 1] = lines.size();
    }
    if (lines.isEmpty()) {
      throw new IllegalArgumentException("all of it is silent");
    }
    return new BssEval(List.copyOf(lines), starts, frames);
  }

  /** Whether a source holds nothing: it cannot be the wanted one. */
  public boolean silent(int source) {
    return starts[source] == starts[source + 1];
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

  /** Whether a channel is the first of its source, at another level: mono that was panned. */
  private static boolean copied(Audio audio, int channel) {
    if (channel == 0 || !sounds(audio, 0)) {
      return false;
    }
    float[] first = new float[1 << 14];
    float[] own = new float[1 << 14];
    double[] sums = new double[3];
    for (long at = 0; at < audio.frames(); at += own.length) {
      int n = (int) Math.min(own.length, audio.frames() - at);
      audio.read(0, at, first, 0, n);
      audio.read(channel, at, own, 0, n);
      for (int i = 0; i < n; i++) {
        sums[0] += (double) first[i] * first[i];
        sums[1] += (double) first[i] * own[i];
        sums[2] += (double) own[i] * own[i];
      }
    }
    return sums[2] - sums[1] * sums[1] / sums[0] < COPY * sums[2];
  }

  // --- correlations ---

  /** A block that reaches the filter's length to both sides, transformed. */
  private static void wide(Audio audio, int channel, long at, double[] to) {
    block(audio, channel, at - TAPS + 1, CORRELATION_STEP + 2 * TAPS - 2, to);
  }

  private static void narrow(Audio audio, int channel, long at, double[] to) {
    block(audio, channel, at, CORRELATION_STEP, to);
  }

  private static void block(Audio audio, int channel, long from, int length, double[] to) {
    float[] x = audio.samples(channel, from, length);
    for (int i = 0; i < length; i++) {
      to[i] = x[i];
    }
    Arrays.fill(to, length, to.length, 0);
    Fft.forward(to);
  }

  /**
   * Sums over time of x_i at n times x_j at n − l, for l from 511 down to −511, of all pairs of
   * lines.
   */
  private double[][][] lineCorrelations() {
    int n = lines.size();
    double[][][] sums = new double[n][n][];
    for (int i = 0; i < n; i++) {
      for (int j = i; j < n; j++) {
        sums[i][j] = new double[CORRELATION_LENGTH];
      }
    }
    double[][] wide = new double[n][CORRELATION_LENGTH];
    double[] narrow = new double[CORRELATION_LENGTH];
    for (long at = 0; at < frames; at += CORRELATION_STEP) {
      for (int j = 0; j < n; j++) {
        wide(lines.get(j).audio(), lines.get(j).channel(), at, wide[j]);
      }
      for (int i = 0; i < n; i++) {
        narrow(lines.get(i).audio(), lines.get(i).channel(), at, narrow);
        for (int j = i; j < n; j++) {
          Fft.addCross(narrow, wide[j], sums[i][j]);
        }
      }
    }
    for (int i = 0; i < n; i++) {
      for (int j = i; j < n; j++) {
        Fft.inverse(sums[i][j]);
        sums[i][j] = Arrays.copyOf(sums[i][j], 2 * TAPS - 1);
      }
    }
    return sums;
  }

  /**
   * Normal equations of some lines, with a trace of white noise 100 dB down: sources that are
   * filtered copies of each other, as the channels of a mono recording in stereo, would be
   * singular.
   */
  private BlockToeplitz equations(int first, int count) {
    double[][][] some = new double[count][count][];
    double largest = 0;
    for (int i = 0; i < count; i++) {
      for (int j = i; j < count; j++) {
        some[i][j] = correlations[first + i][first + j];
      }
      largest = Math.max(largest, some[i][i][TAPS - 1]);
    }
    for (double ridge = 1e-10; ridge < 1e-3; ridge *= 10) {
      BlockToeplitz equations = BlockToeplitz.of(some, ridge * largest);
      if (equations != null) {
        return equations;
      }
    }
    throw new IllegalArgumentException("the sources cannot be told apart");
  }

  // --- projections ---

  /** Inner products of estimates with every line at every delay. */
  private double[][] products(List<Judged> estimates) {
    double[][][] sums = new double[estimates.size()][lines.size()][CORRELATION_LENGTH];
    double[][] narrow = new double[estimates.size()][CORRELATION_LENGTH];
    double[] wide = new double[CORRELATION_LENGTH];
    for (long at = 0; at < frames + TAPS - 1; at += CORRELATION_STEP) {
      for (int e = 0; e < narrow.length; e++) {
        narrow(estimates.get(e).audio(), estimates.get(e).channel(), at, narrow[e]);
      }
      for (int j = 0; j < lines.size(); j++) {
        wide(lines.get(j).audio(), lines.get(j).channel(), at, wide);
        for (int e = 0; e < narrow.length; e++) {
          Fft.addCross(narrow[e], wide, sums[e][j]);
        }
      }
    }
    double[][] products = new double[estimates.size()][lines.size() * TAPS];
    for (int e = 0; e < products.length; e++) {
      for (int j = 0; j < lines.size(); j++) {
        Fft.inverse(sums[e][j]);
        for (int l = 0; l < TAPS; l++) {
          products[e][j * TAPS + l] = sums[e][j][TAPS - 1 - l];
        }
      }
    }
    return products;
  }

  /** Filters that make of a source alone what is most like an estimate. */
  private double[] onOne(int source, double[] products) {
    if (silent(source)) {
      throw new IllegalArgumentException("the wanted source is silent");
    }
    return onOne[source].solved(ofSource(source, products));
  }

  /** The part of a vector that belongs to the lines of a source. */
  private double[] ofSource(int source, double[] all) {
    return Arrays.copyOfRange(all, starts[source] * TAPS, starts[source + 1] * TAPS);
  }

  /**
   * Splits channels of estimates, all in one walk over the sources.
   *
   * @param estimates which they are, and of what
   * @param parts told of their parts from the first sample to the last
   * @return by estimate and source, the energy of what that source has in the projection on all
   * @throws ArithmeticException if the sources are too much alike to tell what an estimate has of
   *     each
   */
  public double[][] split(List<Judged> estimates, Parts parts) {
    int n = estimates.size();
    double[][] products = products(estimates);
    float[][][] all = new float[n][][];
    float[][][] target = new float[n][][];
    double[][] energies = new double[n][starts.length - 1];
    for (int e = 0; e < n; e++) {
      double[] filters = this.onAll.solved(products[e]);
      all[e] = filters(filters);
      target[e] = filters(onOne(estimates.get(e).wanted(), products[e]));
      for (int s = 0; s < energies[e].length; s++) {
        energies[e][s] = silent(s) ? 0 : onOne[s].energy(ofSource(s, filters));
      }
    }
    float[] estimateBlock = new float[CONVOLUTION_STEP];
    float[] targetBlock = new float[CONVOLUTION_STEP];
    float[] allBlock = new float[CONVOLUTION_STEP];
    float[] x = new float[CONVOLUTION_LENGTH];
    float[][] targetSum = new float[n][CONVOLUTION_LENGTH];
    float[][] allSum = new float[n][CONVOLUTION_LENGTH];
    for (long at = 0; at < frames + TAPS - 1; at += CONVOLUTION_STEP) {
      for (int e = 0; e < n; e++) {
        Arrays.fill(targetSum[e], 0);
        Arrays.fill(allSum[e], 0);
      }
      for (int j = 0; j < lines.size(); j++) {
        Line line = lines.get(j);
        line.audio().read(line.channel(), at - TAPS + 1, x, 0, x.length);
        Fft.forward(x);
        for (int e = 0; e < n; e++) {
          int wanted = estimates.get(e).wanted();
          Fft.addProduct(x, all[e][j], allSum[e]);
          if (j >= starts[wanted] && j < starts[wanted + 1]) {
            Fft.addProduct(x, target[e][j - starts[wanted]], targetSum[e]);
          }
        }
      }
      int length = (int) Math.min(CONVOLUTION_STEP, frames + TAPS - 1 - at);
      for (int e = 0; e < n; e++) {
        Fft.inverse(targetSum[e]);
        Fft.inverse(allSum[e]);
        Judged judged = estimates.get(e);
        judged.audio().read(judged.channel(), at, estimateBlock, 0, length);
        System.arraycopy(targetSum[e], TAPS - 1, targetBlock, 0, length);
        System.arraycopy(allSum[e], TAPS - 1, allBlock, 0, length);
        parts.at(e, at, estimateBlock, targetBlock, allBlock, length);
      }
    }
    return energies;
  }

  private static float[][] filters(double[] coefficients) {
    float[][] filters = new float[coefficients.length / TAPS][CONVOLUTION_LENGTH];
    for (int j = 0; j < filters.length; j++) {
      for (int i = 0; i < TAPS; i++) {
        filters[j][i] = (float) coefficients[j * TAPS + i];
      }
      Fft.forward(filters[j]);
    }
    return filters;
  }
}
