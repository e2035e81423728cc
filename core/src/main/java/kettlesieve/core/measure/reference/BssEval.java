package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.SpectrumProducts;

/**
 * The separation evaluation of Vincent, Gribonval &amp; Févotte, "Performance measurement in blind
 * audio source separation", IEEE Trans. Audio, Speech, Lang. Process. 14, 2006: an estimate is
 * split into what filters of 512 taps can make of the wanted source, what they can make of the
 * others (interference), and the rest (artifacts).
 *
 * <p>The normal equations are block-Toeplitz: their entries are correlations of the sources at lags
 * up to 511, worked out through transforms. They are prepared once for a set of sources ({@link
 * BlockToeplitz}), and every estimate costs one correlation and a few more transforms. Estimates
 * that are split together share the transforms of the sources, and so do both forms. Projections
 * are convolved block by block: nothing assumes that a recording fits in memory.
 */
public final class BssEval {
  /** Length of the allowed filters. */
  public static final int TAPS = 512;

  private static final int CONVOLUTION_LENGTH = 1 << 13;
  private static final int CONVOLUTION_STEP = CONVOLUTION_LENGTH - TAPS + 1;

  /** Channels of estimates times lines that are under way at a time: 128 kB each. */
  private static final int MOST_SUMS = 384;

  /** What is filtered. */
  public enum Form {
    /** The downmix of an estimate is made of the downmixes of the sources. */
    SOURCES,
    /**
     * Spatial images: every channel of an estimate may be made of all channels of the sources. Of
     * mono recordings the same as the other.
     */
    IMAGES
  }

  private final SourceLines lines;
  private final Map<Form, FormEquations> equations = new EnumMap<>(Form.class);
  private final Map<Form, String> problems = new EnumMap<>(Form.class);

  /**
   * An estimate.
   *
   * @param audio as long as the sources, with as many channels
   * @param wanted which of the sources it is an estimate of, 0 for the first
   */
  public record Judged(Audio audio, int wanted) {}

  /**
   * Told of the parts of estimates, block by block and in order; the arrays are used again. Several
   * estimates may be told of at a time, each by one thread.
   *
   * @see BssEval#split
   */
  @FunctionalInterface
  public interface Parts {
    /**
     * @param form in which it was split
     * @param judged which estimate
     * @param block what it was split into
     */
    void at(Form form, int judged, Block block);
  }

  /**
   * Samples of one channel.
   *
   * @param channel of the estimate; 0 for downmixes
   * @param from position of the first sample; up to 511 samples after the sources' end come, too
   * @param length number of samples
   * @param estimate the estimate itself
   * @param wanted the source that it is an estimate of
   * @param target the estimate's projection on the wanted source
   * @param all its projection on all sources
   */
  public record Block(
      int channel,
      long from,
      int length,
      float[] estimate,
      float[] wanted,
      float[] target,
      float[] all) {}

  /**
   * The evaluation in some forms. A silent source is left out, and so are silent channels and those
   * that are another of their source at another level: they can make nothing more.
   *
   * @param sources all of one length and as many channels
   * @throws IllegalArgumentException if the lengths differ or all of them are silent
   */
  public BssEval(List<Audio> sources, Form... forms) {
    this.lines = new SourceLines(sources, TAPS);
    for (Form form : forms) {
      try {
        equations.put(form, new FormEquations(lines, form));
      } catch (IllegalArgumentException e) {
        problems.put(form, e.getMessage());
      }
    }
  }

  /** Why nothing can be split in a form; empty if it can. */
  public Optional<String> problem(Form form) {
    return Optional.ofNullable(problems.get(form));
  }

  /** Whether a source holds nothing in a form: it cannot be the wanted one. */
  public boolean silent(Form form, int source) {
    return problem(form).isPresent() || equations.get(form).silent(source);
  }

  /** A channel of an estimate in a form: how it is filtered out of the sources. */
  private static final class Channel {
    private final FormEquations equations;
    private final int wanted;

    /** Transforms of filters: by line that make all, and by line of the wanted source. */
    private final float[][] all;

    private final float[][] target;

    /** By source, the energy of what it has in the projection on all. */
    private final double[] energies;

    private final float[] targetSum = new float[CONVOLUTION_LENGTH];
    private final float[] allSum = new float[CONVOLUTION_LENGTH];

    /**
     * @param products of the estimate with every line at every delay
     * @param filters that make the projection on all
     * @throws ArithmeticException if the wanted source's own channels are too much alike
     */
    Channel(FormEquations equations, int wanted, double[] products, double[] filters) {
      this.equations = equations;
      this.wanted = wanted;
      all = transforms(filters);
      target = transforms(equations.filters(wanted, products));
      energies = equations.energies(filters);
    }

    private static float[][] transforms(double[] coefficients) {
      float[][] filters = new float[coefficients.length / TAPS][CONVOLUTION_LENGTH];
      for (int j = 0; j < filters.length; j++) {
        for (int i = 0; i < TAPS; i++) {
          filters[j][i] = (float) coefficients[j * TAPS + i];
        }
        Fft.forward(filters[j]);
      }
      return filters;
    }

    /** Filters a block of transformed lines; what is valid begins at TAPS − 1. */
    void filter(float[][] transforms) {
      Arrays.fill(targetSum, 0);
      Arrays.fill(allSum, 0);
      int first = equations.first(wanted);
      SpectrumProducts.addProducts(transforms, 0, all, allSum);
      SpectrumProducts.addProducts(transforms, first, target, targetSum);
      Fft.inverse(targetSum);
      Fft.inverse(allSum);
      System.arraycopy(targetSum, TAPS - 1, targetSum, 0, CONVOLUTION_STEP);
      System.arraycopy(allSum, TAPS - 1, allSum, 0, CONVOLUTION_STEP);
    }
  }

  /**
   * Splits estimates, all in one walk over the sources.
   *
   * @param estimates which they are, and of what
   * @param parts told of their parts from the first sample to the last
   * @return by form, estimate and source, the energy of what that source has in the projection on
   *     all, over all channels; no form in which nothing can be split ({@link #problem}), and null
   *     for an estimate of what is silent, or where the sources are too much alike to tell what it
   *     has of each: it is not told of
   */
  public Map<Form, double[][]> split(List<Judged> estimates, Parts parts) {
    Map<Form, double[][]> energies = new EnumMap<>(Form.class);
    equations.keySet().forEach(form -> energies.put(form, new double[estimates.size()][]));
    int most = Math.max(1, MOST_SUMS / (lines.count() * lines.channels()));
    for (int first = 0; first < estimates.size(); first += most) {
      int from = first;
      List<Judged> some = estimates.subList(from, Math.min(estimates.size(), from + most));
      Map<Form, Channel[][]> channels = channels(some);
      channels.forEach(
          (form, all) -> {
            for (int e = 0; e < all.length; e++) {
              energies.get(form)[from + e] = all[e] == null ? null : energies(all[e]);
            }
          });
      new Walk(some, channels, (form, e, block) -> parts.at(form, from + e, block)).walk();
    }
    return energies;
  }

  private static double[] energies(Channel[] channels) {
    double[] sum = new double[channels[0].energies.length];
    for (Channel channel : channels) {
      for (int s = 0; s < sum.length; s++) {
        sum[s] += channel.energies[s];
      }
    }
    return sum;
  }

  /** By form and estimate, all its channels; null for one that is not told of. */
  private Map<Form, Channel[][]> channels(List<Judged> estimates) {
    double[][][][] products = products(estimates);
    Map<Form, Channel[][]> channels = new EnumMap<>(Form.class);
    equations.forEach(
        (form, own) -> {
          double[][][] rights = new double[estimates.size()][][];
          for (int e = 0; e < rights.length; e++) {
            if (!own.silent(estimates.get(e).wanted())) {
              rights[e] = own.rights(products[e]);
            }
          }
          Map<double[], double[]> filters = own.filters(rights);
          Channel[][] all = new Channel[rights.length][];
          SourceLines.sideBySide(
              all.length,
              e -> {
                if (rights[e] != null) {
                  all[e] = channels(own, estimates.get(e).wanted(), rights[e], filters);
                }
              });
          channels.put(form, all);
        });
    return channels;
  }

  /** By estimate, channel, line and tap; channels that hold the same share theirs. */
  private double[][][][] products(List<Judged> estimates) {
    int[][] places = new int[estimates.size()][lines.channels()];
    List<SourceLines.Line> all = new ArrayList<>();
    for (int e = 0; e < places.length; e++) {
      Audio audio = estimates.get(e).audio();
      for (int c = 0; c < places[e].length; c++) {
        if (c > 0 && SourceLines.same(audio, 0, c)) {
          places[e][c] = places[e][0];
        } else {
          places[e][c] = all.size();
          all.add(new SourceLines.Line(audio, c));
        }
      }
    }
    double[][][] products = lines.products(all);
    return Arrays.stream(places)
        .map(of -> Arrays.stream(of).mapToObj(i -> products[i]).toArray(double[][][]::new))
        .toArray(double[][][][]::new);
  }

  /** Null if the sources are too much alike to tell what the estimate has of each. */
  private static Channel[] channels(
      FormEquations equations, int wanted, double[][] rights, Map<double[], double[]> filters) {
    Channel[] channels = new Channel[rights.length];
    try {
      for (int c = 0; c < rights.length; c++) {
        if (filters.get(rights[c]) == null) {
          return null;
        }
        channels[c] =
            rights[c] == rights[0] && c > 0
                ? channels[0]
                : new Channel(equations, wanted, rights[c], filters.get(rights[c]));
      }
    } catch (ArithmeticException e) {
      return null;
    }
    return channels;
  }

  /** A walk over the sources, block by block. */
  private final class Walk {
    private final List<Judged> estimates;
    private final Map<Form, Channel[][]> channels;
    private final Parts parts;

    /** By line, samples of a block and their transform. */
    private final float[][] samples = new float[lines.count()][CONVOLUTION_LENGTH];

    private final float[][] transforms = new float[lines.count()][CONVOLUTION_LENGTH];

    /** What each form filters. */
    private final Map<Form, float[][]> filtered = new EnumMap<>(Form.class);

    private Walk(List<Judged> estimates, Map<Form, Channel[][]> channels, Parts parts) {
      this.estimates = estimates;
      this.channels = channels;
      this.parts = parts;
      for (Form form : channels.keySet()) {
        filtered.put(
            form,
            equations.get(form).means().stream()
                .map(m -> m.isLine() ? transforms[m.lines()[0]] : new float[CONVOLUTION_LENGTH])
                .toArray(float[][]::new));
      }
    }

    private void walk() {
      long end = lines.frames() + TAPS - 1;
      for (long at = 0; at < end; at += CONVOLUTION_STEP) {
        long from = at;
        int length = (int) Math.min(CONVOLUTION_STEP, end - from);
        SourceLines.sideBySide(
            samples.length,
            j -> {
              lines.read(j, from - TAPS + 1, samples[j]);
              System.arraycopy(samples[j], 0, transforms[j], 0, CONVOLUTION_LENGTH);
              Fft.forward(transforms[j]);
            });
        filtered.forEach((form, to) -> mix(equations.get(form).means(), to));
        SourceLines.sideBySide(estimates.size(), e -> tell(e, from, length));
      }
    }

    private void mix(List<SourceLines.Mean> means, float[][] to) {
      for (int m = 0; m < to.length; m++) {
        SourceLines.Mean mean = means.get(m);
        for (int i = 0; i < mean.lines().length && !mean.isLine(); i++) {
          if (i == 0) {
            Arrays.fill(to[m], 0);
          }
          add(transforms[mean.lines()[i]], (float) mean.weights()[i], to[m]);
        }
      }
    }

    private void tell(int e, long from, int length) {
      Judged judged = estimates.get(e);
      int count = lines.channels();
      float[][] estimate = new float[count][];
      float[][] wanted = new float[count][length];
      for (int c = 0; c < count; c++) {
        estimate[c] = judged.audio().samples(c, from, length);
        int line = lines.line(judged.wanted(), c);
        if (line >= 0) {
          System.arraycopy(samples[line], TAPS - 1, wanted[c], 0, length);
        }
      }
      channels.forEach(
          (form, all) -> {
            if (all[e] == null) {
              return;
            }
            boolean images = form == Form.IMAGES;
            for (int c = 0; c < all[e].length; c++) {
              Channel own = all[e][c];
              if (c == 0 || own != all[e][0]) {
                own.filter(filtered.get(form));
              }
              float[] of = images ? estimate[c] : mean(estimate, length);
              float[] truth = images ? wanted[c] : mean(wanted, length);
              Block block = new Block(c, from, length, of, truth, own.targetSum, own.allSum);
              parts.at(form, e, block);
            }
          });
    }

    private float[] mean(float[][] channels, int length) {
      if (channels.length == 1) {
        return channels[0];
      }
      float[] mean = new float[length];
      for (float[] channel : channels) {
        add(channel, 1f / channels.length, mean);
      }
      return mean;
    }

    private void add(float[] x, float by, float[] to) {
      for (int i = 0; i < to.length; i++) {
        to[i] += by * x[i];
      }
    }
  }
}
