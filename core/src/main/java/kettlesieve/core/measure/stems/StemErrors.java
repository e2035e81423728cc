package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.pass.StemSums;

/**
 * What the stems of all tools are off, told from how far they lie from each other ({@link
 * ThreeCorneredHat}), and what of that is leakage of another role, what is lacking of the own, and
 * what is neither: artifacts. A tool is never measured against what it gave itself.
 */
final class StemErrors {
  private static final double RIDGE = 0.05;
  private static final int FEW = 5;

  /** 80 dB under the mix. */
  private static final double SILENT = 1e-8;

  private static final int FEWEST_TO_LEAVE = 4;
  private static final double QUARTILE = 0.1;

  /** The sums, which are put in when the cells were told. */
  static final StemsTogether.OfAll<StemSums> SUMS =
      all -> {
        throw new IllegalStateException("stems are seen, all at once, before measuring");
      };

  /** Of all tools that are measured beside each other. */
  static final StemsTogether.OfAll<StemErrors> OF =
      all -> {
        StemSums every = all.shared(SUMS);
        int[] tools = java.util.stream.IntStream.range(0, all.tools().size()).toArray();
        return new StemErrors(tools.length == every.tools() ? every : every.of(tools));
      };

  private final StemSums sums;
  private final Map<String, OfRole> roles = new LinkedHashMap<>();

  /** Of all tools that give a role; tools in the order of {@link StemSums}. */
  final class OfRole {
    final String role;

    /** Which tools they are, and the numbers of their stems. */
    final int[] tools;

    final int[] signals;
    final ThreeCorneredHat.Found found;

    /** Power of the median stem over that of the mix. */
    final double shareOfMix;

    /** By tool: what leaked of each other role, and how loud that role is. */
    final List<Map<String, Leak>> leaks = new ArrayList<>();

    /** By tool, energies. */
    final double[] missing;

    final double[] leaked;

    private OfRole(String role, int[] tools) {
      this.role = role;
      this.tools = tools;
      this.signals = Arrays.stream(tools).map(t -> sums.signal(t, role)).toArray();
      this.found = ThreeCorneredHat.solve(known(everything()));
      this.missing = new double[tools.length];
      this.leaked = new double[tools.length];
      double[] powers = new double[tools.length];
      for (int i = 0; i < powers.length; i++) {
        powers[i] = total(signals[i], signals[i], everything());
      }
      this.shareOfMix =
          kettlesieve.core.signal.Statistics.median(powers)
              / Math.max(1e-30, total(0, 0, everything()));
    }

    /** Estimated signal-to-distortion ratios by draw and place; made when first asked for. */
    private double[][] drawn;

    /**
     * Estimated signal-to-distortion ratio of a tool, over draws of blocks and of which of the
     * other tools are asked: in each draw one other is left out where there are enough.
     */
    Estimate sdr(int place, Bootstrap bootstrap) {
      double[][] all = drawn(bootstrap);
      int[] draw = {0};
      return bootstrap.estimate(w -> all[draw[0]++][place]);
    }

    private synchronized double[][] drawn(Bootstrap bootstrap) {
      if (drawn == null) {
        List<double[]> all = new ArrayList<>();
        bootstrap.estimate(
            w -> {
              all.add(all.isEmpty() ? sdrs(found) : sdrs(w, all.size()));
              return 0;
            });
        drawn = all.toArray(double[][]::new);
      }
      return drawn;
    }

    /** In order, what has nothing to do with the others last. */
    private double[] sdrs(ThreeCorneredHat.Found of) {
      double[] sdrs = new double[of.error().length];
      double worst = Double.POSITIVE_INFINITY;
      for (int i = 0; i < sdrs.length; i++) {
        sdrs[i] = of.sdr(i);
        worst = of.apart()[i] ? worst : Math.min(worst, sdrs[i]);
      }
      for (int i = 0; i < sdrs.length; i++) {
        sdrs[i] = of.apart()[i] ? Math.min(sdrs[i], worst - 1) : sdrs[i];
      }
      return sdrs;
    }

    private double[] sdrs(int[] weights, int draw) {
      ThreeCorneredHat.Known known = known(weights);
      int n = tools.length;
      if (n < FEWEST_TO_LEAVE) {
        return sdrs(ThreeCorneredHat.solve(known));
      }
      int left = draw % (n + 1);
      int next = (left + 1) % n;
      double[] sdrs = new double[n];
      double[] without = left == n ? sdrs(ThreeCorneredHat.solve(known)) : without(known, left);
      double[] other = left == n ? without : without(known, next);
      for (int i = 0; i < n; i++) {
        sdrs[i] = i == left ? other[i] : without[i];
      }
      return sdrs;
    }

    /** As if one had not been there; NaN for that one. */
    private double[] without(ThreeCorneredHat.Known known, int left) {
      double[] some = sdrs(ThreeCorneredHat.solve(known.without(left)));
      double[] all = new double[tools.length];
      for (int i = 0; i < all.length; i++) {
        all[i] = i == left ? Double.NaN : some[i < left ? i : i - 1];
      }
      return all;
    }

    /** Sums over all bands by block, so that draws are quick. */
    private ThreeCorneredHat.Known[] ofBlocks;

    private ThreeCorneredHat.Known known(int[] weights) {
      if (ofBlocks == null) {
        ofBlocks = new ThreeCorneredHat.Known[sums.blocks()];
        for (int b = 0; b < ofBlocks.length; b++) {
          ofBlocks[b] = known(new Span(b, b + 1, 0, sums.bands()));
        }
      }
      return ThreeCorneredHat.Known.sum(ofBlocks, weights);
    }

    /** Energies of what is wrong in a stem, by block and band. */
    double[][] errors(int place) {
      double[][] errors = new double[sums.blocks()][sums.bands()];
      for (int block = 0; block < errors.length; block++) {
        for (int band = 0; band < errors[block].length; band++) {
          errors[block][band] = parts()[block][band].error()[place];
        }
      }
      return errors;
    }

    /** Energies of the role, by block and band. */
    double[][] powers() {
      double[][] powers = new double[sums.blocks()][sums.bands()];
      for (int block = 0; block < powers.length; block++) {
        for (int band = 0; band < powers[block].length; band++) {
          powers[block][band] = parts()[block][band].signal();
        }
      }
      return powers;
    }

    /** What was found in each block and band; made when first asked for. */
    private ThreeCorneredHat.Found[][] parts;

    private synchronized ThreeCorneredHat.Found[][] parts() {
      if (parts == null) {
        parts = new ThreeCorneredHat.Found[sums.blocks()][sums.bands()];
        for (int block = 0; block < sums.blocks(); block++) {
          for (int band = 0; band < sums.bands(); band++) {
            Span cell = new Span(block, block + 1, band, band + 1);
            parts[block][band] = ThreeCorneredHat.part(known(cell), found);
          }
        }
      }
      return parts;
    }

    /** Which of the tools that give the role one is; −1 for none. */
    int place(int tool) {
      for (int i = 0; i < tools.length; i++) {
        if (tools[i] == tool) {
          return i;
        }
      }
      return -1;
    }

    /** What the hat needs, of a part of time and frequency. */
    private ThreeCorneredHat.Known known(Span span) {
      int n = tools.length;
      double[][] products = new double[n][n];
      double[] withMix = new double[n];
      double[] beyond = new double[n];
      double[] quadrature = new double[n];
      double[] cancelled = new double[n];
      double[] left = new double[n];
      double mix = total(0, 0, span);
      for (int i = 0; i < n; i++) {
        for (int j = 0; j <= i; j++) {
          products[i][j] = total(signals[i], signals[j], span);
          products[j][i] = products[i][j];
        }
        withMix[i] = total(signals[i], 0, span);
        beyond[i] = over(sums::beyond, signals[i], span);
        quadrature[i] = over(sums::quadrature, signals[i], span);
        double turned = 0;
        double rest = mix;
        List<Integer> own = stems(tools[i]);
        for (int a : own) {
          turned += over(sums::quadrature, a, span);
          rest -= 2 * total(a, 0, span);
          for (int b : own) {
            rest += total(a, b, span);
          }
        }
        boolean whole = whole(tools[i]);
        double together = over(sums::together, tools[i], span);
        cancelled[i] = !whole ? 1 : turned > 0 ? Math.max(0, 1 - together / turned) : 0;
        left[i] = whole ? Math.max(0, rest) / own.size() : 0;
      }
      return new ThreeCorneredHat.Known(
          products, withMix, mix, beyond, quadrature, cancelled, left);
    }
  }

  /**
   * What leaked of a role.
   *
   * @param energy of it in the stem
   * @param of the role's own energy
   * @param perBand the same by band
   * @param ofBand energy of the role by band
   */
  record Leak(double energy, double of, double[] perBand, double[] ofBand) {
    /** How far the role is down in the stem, as a power. */
    double gain() {
      return of > 0 ? energy / of : 0;
    }
  }

  private final Set<String> plain = new LinkedHashSet<>();

  /** Products over all blocks, by band and two signals; made when first asked for. */
  private double[][][] bands;

  StemErrors(StemSums sums) {
    this.sums = sums;
    Set<String> all = new LinkedHashSet<>();
    for (int t = 0; t < sums.tools(); t++) {
      all.addAll(sums.roles(t));
    }
    all.stream().filter(r -> !Roles.composite(r)).forEach(plain::add);
    for (String role : all) {
      int[] tools =
          java.util.stream.IntStream.range(0, sums.tools())
              .filter(t -> sums.signal(t, role) >= 0)
              .filter(t -> !silent(t, role))
              .toArray();
      if (tools.length >= 2) {
        roles.put(role, new OfRole(role, tools));
      }
    }
    for (OfRole role : roles.values()) {
      split(role);
    }
  }

  /** Whether there is nothing in a tool's stem, to speak of. */
  boolean silent(int tool, String role) {
    int signal = sums.signal(tool, role);
    return signal >= 0 && total(signal, signal, everything()) <= SILENT * total(0, 0, everything());
  }

  /** Of a role that two tools or more give; null for others. */
  OfRole role(String role) {
    return roles.get(role);
  }

  private List<Integer> stems(int tool) {
    List<Integer> stems = new ArrayList<>();
    for (String role : sums.roles(tool)) {
      if (!Roles.composite(role)) {
        stems.add(sums.signal(tool, role));
      }
    }
    return stems;
  }

  /** Whether a tool gives all roles there are, so that its stems should add up to the mix. */
  private boolean whole(int tool) {
    return sums.roles(tool).containsAll(plain);
  }

  /** A part of time and frequency: blocks and bands from, to before. */
  private record Span(int fromBlock, int toBlock, int fromBand, int toBand) {}

  private Span everything() {
    return new Span(0, sums.blocks(), 0, sums.bands());
  }

  private Span band(int band) {
    return new Span(0, sums.blocks(), band, band + 1);
  }

  private double total(int i, int j, Span span) {
    double sum = 0;
    for (int block = span.fromBlock(); block < span.toBlock(); block++) {
      for (int band = span.fromBand(); band < span.toBand(); band++) {
        sum += sums.product(i, j, block, band);
      }
    }
    return sum;
  }

  private interface Sum {
    double at(int index, int block, int band);
  }

  private double over(Sum what, int index, Span span) {
    double sum = 0;
    for (int block = span.fromBlock(); block < span.toBlock(); block++) {
      for (int band = span.fromBand(); band < span.toBand(); band++) {
        sum += what.at(index, block, band);
      }
    }
    return sum;
  }

  /** Splits the errors of a role's stems, band by band. */
  private void split(OfRole own) {
    List<OfRole> basis =
        roles.values().stream()
            .filter(r -> r == own || plain.contains(r.role) && apart(own.role, r.role))
            .toList();
    int at = basis.indexOf(own);
    for (int i = 0; i < own.tools.length; i++) {
      double[][] parts = new double[basis.size()][];
      for (int q = 0; q < parts.length; q++) {
        parts[q] = weights(basis.get(q), own.tools[i]);
      }
      double[][] excess = new double[basis.size()][sums.bands()];
      double[][] energies = new double[basis.size()][sums.bands()];
      for (int band = 0; band < sums.bands(); band++) {
        split(own, i, basis, parts, band, excess, energies);
      }
      own.leaks.add(new LinkedHashMap<>());
      for (int q = 0; q < parts.length; q++) {
        double energy = Arrays.stream(excess[q]).sum();
        if (q == at) {
          own.missing[i] = energy;
        } else {
          own.leaked[i] += energy;
          double of = Arrays.stream(energies[q]).sum();
          own.leaks.get(i).put(basis.get(q).role, new Leak(energy, of, excess[q], energies[q]));
        }
      }
    }
  }

  /** How much more of each role, or less of its own, a stem has in a band than the tools have. */
  private void split(
      OfRole own,
      int judged,
      List<OfRole> basis,
      double[][] parts,
      int band,
      double[][] excess,
      double[][] energies) {
    int n = own.tools.length;
    double[][] a = normal(basis, parts, band);
    if (a == null) {
      return;
    }
    double[][] gains = new double[n][];
    for (int j = 0; j < n; j++) {
      if (j == judged || !own.found.apart()[j]) {
        gains[j] = Normal.solve(a, along(own, j, basis, parts, band));
      }
    }
    for (int q = 0; q < parts.length; q++) {
      energies[q][band] = a[q][q] / (1 + RIDGE);
      double sign = basis.get(q) == own ? -1 : 1;
      double[] values = new double[n];
      int known = 0;
      for (int j = 0; j < n; j++) {
        if (gains[j] != null) {
          values[known++] = sign * gains[j][q];
        }
      }
      // What the ridge takes off is put back.
      double over = (1 + RIDGE) * (sign * gains[judged][q] - least(Arrays.copyOf(values, known)));
      excess[q][band] = over > 0 ? over * over * energies[q][band] : 0;
    }
  }

  /** Whether a plain role is no part of another. */
  static boolean apart(String role, String plain) {
    List<String> without = Roles.without(role);
    return without.isEmpty() ? !Roles.parts(role).contains(plain) : without.contains(plain);
  }

  /** Leakage goes one way: what the least leaking tools have is what all have by likeness. */
  private static double least(double[] values) {
    Arrays.sort(values);
    return values.length < FEW
        ? values[0]
        : kettlesieve.core.signal.Statistics.quantiles(values, QUARTILE)[0];
  }

  /**
   * Products of the roles' consensus with each other, with a ridge; null where there is nothing.
   */
  private double[][] normal(List<OfRole> basis, double[][] parts, int band) {
    int m = parts.length;
    double[][] a = new double[m][m];
    double most = 0;
    for (int p = 0; p < m; p++) {
      for (int q = 0; q <= p; q++) {
        for (int i = 0; i < parts[p].length; i++) {
          for (int j = 0; parts[p][i] != 0 && j < parts[q].length; j++) {
            a[p][q] +=
                parts[p][i]
                    * parts[q][j]
                    * ofBand(basis.get(p).signals[i], basis.get(q).signals[j], band);
          }
        }
        a[q][p] = a[p][q];
      }
      most = Math.max(most, a[p][p]);
    }
    for (int p = 0; p < m; p++) {
      a[p][p] = a[p][p] * (1 + RIDGE) + 1e-6 * most;
    }
    return most > 0 ? a : null;
  }

  /** Products of a tool's stem, its gain taken out, with the roles' consensus. */
  private double[] along(OfRole own, int tool, List<OfRole> basis, double[][] parts, int band) {
    double[] b = new double[parts.length];
    for (int p = 0; p < b.length; p++) {
      for (int i = 0; i < parts[p].length; i++) {
        if (parts[p][i] != 0) {
          b[p] +=
              parts[p][i]
                  * ofBand(own.signals[tool], basis.get(p).signals[i], band)
                  / own.found.gain()[tool];
        }
      }
    }
    return b;
  }

  /** Over all blocks; asked for again and again. */
  private double ofBand(int i, int j, int band) {
    if (bands == null) {
      bands = new double[sums.bands()][sums.signals()][sums.signals()];
      for (int b = 0; b < bands.length; b++) {
        Span span = band(b);
        for (int x = 0; x < sums.signals(); x++) {
          for (int y = 0; y <= x; y++) {
            bands[b][x][y] = total(x, y, span);
            bands[b][y][x] = bands[b][x][y];
          }
        }
      }
    }
    return bands[band][i][j];
  }

  /** Weights of the stems in a role's consensus, with unit gain, without a tool. */
  private static double[] weights(OfRole role, int without) {
    double[] weights = new double[role.tools.length];
    double all = 0;
    for (int i = 0; i < weights.length; i++) {
      if (role.tools[i] != without && !role.found.apart()[i]) {
        weights[i] = role.found.weight()[i];
        all += weights[i] * role.found.gain()[i];
      }
    }
    for (int i = 0; i < weights.length && all > 0; i++) {
      weights[i] /= all;
    }
    return weights;
  }
}
