package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntConsumer;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.SpectrumProducts;
import kettlesieve.core.task.Stop;

/**
 * The channels of the true sources as the separation evaluation walks over them, and what it walks
 * over in each of its forms. Blocks are read and transformed once for both forms: a downmix is a
 * mean of channels, and so are its transforms and its correlations.
 */
final class SourceLines {
  private static final int CORRELATION_LENGTH = 1 << 14;

  /**
   * What is left of a channel once its copy is taken off, 70 dB down, is the rounding of a file.
   */
  private static final double COPY = 1e-7;

  /** A mean of channels that cancel each other is silent this far under them, 120 dB. */
  private static final double CANCELLED = 1e-12;

  private final int taps;
  private final int sources;
  private final int channels;
  private final long frames;
  private final List<Line> lines = new ArrayList<>();

  /** By source and channel, the line that holds it; −1 for a silent one. */
  private final int[][] lineOf;

  /** By pair of lines, the second not before the first: correlations at lags from taps − 1 down. */
  private final double[][][] correlations;

  /** One channel of a recording. */
  record Line(Audio audio, int channel) {}

  /**
   * What a form has of a source: a channel, or the mean of several.
   *
   * @param source which
   * @param lines that it is a mean of
   * @param weights of these
   */
  record Mean(int source, int[] lines, double[] weights) {
    /** Whether it is a line as it stands. */
    boolean isLine() {
      return lines.length == 1 && weights[0] == 1;
    }
  }

  /**
   * @param sources all of one length and as many channels
   * @param taps length of the filters
   * @throws IllegalArgumentException if the lengths differ or all of them are silent
   */
  SourceLines(List<Audio> sources, int taps) {
    this.taps = taps;
    this.sources = sources.size();
    this.channels = sources.get(0).channels();
    this.frames = sources.get(0).frames();
    this.lineOf = new int[this.sources][channels];
    for (int s = 0; s < this.sources; s++) {
      Audio source = sources.get(s);
      if (source.frames() != frames || source.channels() != channels) {
        throw new IllegalArgumentException("all sources must have one length");
      }
      for (int c = 0; c < channels; c++) {
        lineOf[s][c] = line(source, s, c);
      }
    }
    if (lines.isEmpty()) {
      throw new IllegalArgumentException("all of it is silent");
    }
    this.correlations = correlated();
  }

  private int line(Audio source, int s, int channel) {
    if (!sounds(source, channel)) {
      return -1;
    }
    for (int c = 0; c < channel; c++) {
      if (lineOf[s][c] >= 0 && same(source, c, channel)) {
        return lineOf[s][c];
      }
    }
    lines.add(new Line(source, channel));
    return lines.size() - 1;
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

  /** Whether two channels hold the same, sample by sample. */
  static boolean same(Audio audio, int one, int other) {
    for (long at = 0; at < audio.frames(); at += 1 << 14) {
      if (!Arrays.equals(audio.samples(one, at, 1 << 14), audio.samples(other, at, 1 << 14))) {
        return false;
      }
    }
    return true;
  }

  int count() {
    return lines.size();
  }

  int sources() {
    return sources;
  }

  int channels() {
    return channels;
  }

  long frames() {
    return frames;
  }

  /** The line that holds a channel of a source; −1 for a silent one. */
  int line(int source, int channel) {
    return lineOf[source][channel];
  }

  /**
   * Every channel, but for those that are another of their source at another level, mono that was
   * panned: they can make nothing more.
   */
  List<Mean> images() {
    List<Mean> images = new ArrayList<>();
    for (int s = 0; s < sources; s++) {
      int first = -1;
      for (int line : Arrays.stream(lineOf[s]).filter(l -> l >= 0).distinct().toArray()) {
        first = first < 0 ? line : first;
        if (line == first || !copied(first, line)) {
          images.add(new Mean(s, new int[] {line}, new double[] {1}));
        }
      }
    }
    return images;
  }

  private boolean copied(int first, int line) {
    double own = correlations[line][line][taps - 1];
    double both = correlations[first][line][taps - 1];
    return own - both * both / correlations[first][first][taps - 1] < COPY * own;
  }

  /** The downmix of every source, if it is not silent. */
  List<Mean> downmixes() {
    List<Mean> downmixes = new ArrayList<>();
    for (int s = 0; s < sources; s++) {
      int[] all = Arrays.stream(lineOf[s]).filter(l -> l >= 0).distinct().toArray();
      double[] weights = new double[all.length];
      double parts = 0;
      for (int i = 0; i < all.length; i++) {
        int line = all[i];
        weights[i] = Arrays.stream(lineOf[s]).filter(l -> l == line).count() / (double) channels;
        parts += weights[i] * weights[i] * correlations[line][line][taps - 1];
      }
      Mean mean = new Mean(s, all, weights);
      if (correlation(mean, mean)[taps - 1] > CANCELLED * parts) {
        downmixes.add(mean);
      }
    }
    return downmixes;
  }

  /** Sums over time of one at n times the other at n − l, for l from taps − 1 down to 1 − taps. */
  double[] correlation(Mean one, Mean other) {
    double[] sum = new double[2 * taps - 1];
    for (int i = 0; i < one.lines().length; i++) {
      for (int j = 0; j < other.lines().length; j++) {
        int a = one.lines()[i];
        int b = other.lines()[j];
        double weight = one.weights()[i] * other.weights()[j];
        for (int k = 0; k < sum.length; k++) {
          sum[k] +=
              weight * (a <= b ? correlations[a][b][k] : correlations[b][a][sum.length - 1 - k]);
        }
      }
    }
    return sum;
  }

  /** A block that reaches the filter's length to both sides, transformed. */
  private void wide(int line, long at, double[] to) {
    block(lines.get(line), at - taps + 1, step() + 2 * taps - 2, to);
  }

  private void narrow(Line of, long at, double[] to) {
    block(of, at, step(), to);
  }

  private int step() {
    return CORRELATION_LENGTH - 2 * taps;
  }

  private static void block(Line of, long from, int length, double[] to) {
    float[] x = of.audio().samples(of.channel(), from, length);
    for (int i = 0; i < length; i++) {
      to[i] = x[i];
    }
    Arrays.fill(to, length, to.length, 0);
    Fft.forward(to);
  }

  private double[][][] correlated() {
    int n = lines.size();
    double[][][] sums = new double[n][n][];
    for (int i = 0; i < n; i++) {
      for (int j = i; j < n; j++) {
        sums[i][j] = new double[CORRELATION_LENGTH];
      }
    }
    double[][] wide = new double[n][CORRELATION_LENGTH];
    double[][] narrow = new double[n][CORRELATION_LENGTH];
    for (long at = 0; at < frames; at += step()) {
      long from = at;
      sideBySide(n, j -> wide(j, from, wide[j]));
      sideBySide(
          n,
          i -> {
            narrow(lines.get(i), from, narrow[i]);
            SpectrumProducts.addCrosses(narrow[i], wide, sums[i], i);
          });
    }
    for (int i = 0; i < n; i++) {
      for (int j = i; j < n; j++) {
        Fft.inverse(sums[i][j]);
        sums[i][j] = Arrays.copyOf(sums[i][j], 2 * taps - 1);
      }
    }
    return sums;
  }

  /**
   * Inner products of channels of estimates with every line at every delay.
   *
   * @param estimates as long as the sources
   * @return by channel of an estimate, line and tap
   */
  double[][][] products(List<Line> estimates) {
    int all = estimates.size();
    double[][][] sums = new double[all][lines.size()][CORRELATION_LENGTH];
    double[][] narrow = new double[all][CORRELATION_LENGTH];
    double[][] wide = new double[lines.size()][CORRELATION_LENGTH];
    for (long at = 0; at < frames + taps - 1; at += step()) {
      long from = at;
      sideBySide(wide.length, j -> wide(j, from, wide[j]));
      sideBySide(
          all,
          e -> {
            narrow(estimates.get(e), from, narrow[e]);
            SpectrumProducts.addCrosses(narrow[e], wide, sums[e], 0);
          });
    }
    double[][][] products = new double[all][lines.size()][taps];
    for (int e = 0; e < all; e++) {
      for (int j = 0; j < lines.size(); j++) {
        Fft.inverse(sums[e][j]);
        for (int l = 0; l < taps; l++) {
          products[e][j][l] = sums[e][j][taps - 1 - l];
        }
      }
    }
    return products;
  }

  /** Samples of a line from a position on. */
  void read(int line, long from, float[] into) {
    lines.get(line).audio().read(lines.get(line).channel(), from, into, 0, into.length);
  }

  /** One after the other as far as anyone can tell, on as many processors as there are. */
  static void sideBySide(int count, IntConsumer each) {
    Stop over = Stop.here();
    IntStream.range(0, count)
        .parallel()
        .forEach(
            i ->
                Stop.over(
                    over,
                    () -> {
                      Stop.checkHere();
                      each.accept(i);
                      return i;
                    }));
  }
}
