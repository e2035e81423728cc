package kettlesieve.core.measure.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/** What is filtered in a form of the evaluation, and the equations for the filters. */
final class FormEquations {
  private static final int TAPS = BssEval.TAPS;

  /** Right sides are solved together in so many parts, each by one thread. */
  private static final int AT_ONCE = 2;

  private final BssEval.Form form;
  private final List<SourceLines.Mean> means;

  /** By source its first line, and the number of all lines at the end. */
  private final int[] starts;

  private final BlockToeplitz onAll;

  /** By source; null for a silent one. */
  private final BlockToeplitz[] onOne;

  FormEquations(SourceLines lines, BssEval.Form form) {
    this.form = form;
    means = form == BssEval.Form.IMAGES ? lines.images() : lines.downmixes();
    if (means.isEmpty()) {
      throw new IllegalArgumentException("all of it is silent");
    }
    starts = new int[lines.sources() + 1];
    for (int s = 0; s < lines.sources(); s++) {
      int source = s;
      starts[s + 1] = (int) means.stream().filter(m -> m.source() <= source).count();
    }
    double[][][] correlations = new double[means.size()][means.size()][];
    for (int i = 0; i < means.size(); i++) {
      for (int j = i; j < means.size(); j++) {
        correlations[i][j] = lines.correlation(means.get(i), means.get(j));
      }
    }
    onAll = of(correlations, 0, means.size());
    onOne = new BlockToeplitz[lines.sources()];
    for (int s = 0; s < onOne.length; s++) {
      onOne[s] = silent(s) ? null : of(correlations, starts[s], starts[s + 1] - starts[s]);
    }
  }

  /**
   * Of some lines, with a trace of white noise 100 dB down: sources that are filtered copies of
   * each other would be singular.
   */
  private static BlockToeplitz of(double[][][] correlations, int first, int count) {
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

  boolean silent(int source) {
    return starts[source] == starts[source + 1];
  }

  /**
   * The filters that make the projections on all sources.
   *
   * @param rights by estimate and channel, null where none is wanted
   * @return by right side; none where rounding does not let it
   */
  Map<double[], double[]> filters(double[][][] rights) {
    Map<double[], double[]> filters = new IdentityHashMap<>();
    List<double[]> all = new ArrayList<>();
    for (double[][] channels : rights) {
      for (double[] right : channels == null ? new double[0][] : channels) {
        if (!filters.containsKey(right)) {
          filters.put(right, null);
          all.add(right);
        }
      }
    }
    List<List<double[]>> parts = new ArrayList<>();
    int each = (all.size() + AT_ONCE - 1) / AT_ONCE;
    for (int from = 0; from < all.size(); from += each) {
      parts.add(all.subList(from, Math.min(all.size(), from + each)));
    }
    List<List<double[]>> solved = parts.parallelStream().map(onAll::solved).toList();
    for (int p = 0; p < parts.size(); p++) {
      for (int i = 0; i < parts.get(p).size(); i++) {
        filters.put(parts.get(p).get(i), solved.get(p).get(i));
      }
    }
    return filters;
  }

  /** What is filtered. */
  List<SourceLines.Mean> means() {
    return means;
  }

  /** Which line is the first of a source. */
  int first(int source) {
    return starts[source];
  }

  /**
   * The filters that make the projection on one source.
   *
   * @param right of all lines
   * @throws ArithmeticException if its own channels are too much alike
   */
  double[] filters(int source, double[] right) {
    return onOne[source].solved(ofSource(source, right));
  }

  /** By source, the energy of what filters make of its lines. */
  double[] energies(double[] filters) {
    double[] energies = new double[onOne.length];
    for (int s = 0; s < energies.length; s++) {
      energies[s] = silent(s) ? 0 : onOne[s].energy(ofSource(s, filters));
    }
    return energies;
  }

  /** The part of a vector that belongs to the lines of a source. */
  private double[] ofSource(int source, double[] all) {
    return Arrays.copyOfRange(all, starts[source] * TAPS, starts[source + 1] * TAPS);
  }

  /** By channel of a form; channels that hold the same share theirs. */
  double[][] rights(double[][][] products) {
    double[][][] of = form == BssEval.Form.IMAGES ? products : new double[][][] {mean(products)};
    double[][] rights = new double[of.length][];
    for (int c = 0; c < of.length; c++) {
      rights[c] = of[c] == of[0] && c > 0 ? rights[0] : right(of[c]);
    }
    return rights;
  }

  private static double[][] mean(double[][][] products) {
    double[][] mean = new double[products[0].length][TAPS];
    for (double[][] channel : products) {
      for (int j = 0; j < mean.length; j++) {
        for (int l = 0; l < TAPS; l++) {
          mean[j][l] += channel[j][l] / products.length;
        }
      }
    }
    return mean;
  }

  /** Products with what a form filters, by line and tap. */
  private double[] right(double[][] products) {
    double[] right = new double[means.size() * TAPS];
    for (int m = 0; m < means.size(); m++) {
      SourceLines.Mean mean = means.get(m);
      for (int i = 0; i < mean.lines().length; i++) {
        double[] of = products[mean.lines()[i]];
        for (int l = 0; l < TAPS; l++) {
          right[m * TAPS + l] += mean.weights()[i] * of[l];
        }
      }
    }
    return right;
  }
}
