package kettlesieve.core.measure.stems;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import kettlesieve.core.signal.Statistics;

/**
 * How much of a stem's error is leakage of another role, and how much is lacking of its own: by
 * third-octaves, regression of the stem on what the other tools agree on, against what the least
 * leaking tools have there.
 */
final class LeakSplit {
  private static final double RIDGE = 0.05;
  private static final int FEW = 5;
  private static final double LEAST_TENTH = 0.1;

  private final StemParts parts;

  /** Products over all blocks, by band and two signals: asked for again and again. */
  private final double[][][] ofBands;

  /**
   * What leaked of a role.
   *
   * @param energy of it in the stem
   * @param of the role's own energy
   */
  record Leak(double energy, double of) {
    /** How far the role is down in the stem, as a power. */
    double gain() {
      return of > 0 ? energy / of : 0;
    }
  }

  LeakSplit(StemParts parts) {
    this.parts = parts;
    int signals = parts.sums().signals();
    this.ofBands = new double[parts.bands()][signals][signals];
    for (int band = 0; band < ofBands.length; band++) {
      StemParts.Span span = parts.band(band);
      for (int i = 0; i < signals; i++) {
        for (int j = 0; j <= i; j++) {
          ofBands[band][i][j] = parts.product(i, j, span);
          ofBands[band][j][i] = ofBands[band][i][j];
        }
      }
    }
  }

  /**
   * Splits the errors of a role's stems, band by band.
   *
   * @param basis the role itself, and the others that are no part of it
   */
  void split(RoleErrors own, List<RoleErrors> basis) {
    int at = basis.indexOf(own);
    for (int i = 0; i < own.tools.length; i++) {
      double[][] shares = new double[basis.size()][];
      for (int q = 0; q < shares.length; q++) {
        shares[q] = weights(basis.get(q), own.tools[i]);
      }
      double[][] excess = new double[basis.size()][parts.bands()];
      double[][] energies = new double[basis.size()][parts.bands()];
      for (int band = 0; band < parts.bands(); band++) {
        split(own, i, basis, shares, band, excess, energies);
      }
      own.leaks.add(new LinkedHashMap<>());
      for (int q = 0; q < shares.length; q++) {
        double energy = Arrays.stream(excess[q]).sum();
        if (q == at) {
          own.missing[i] = energy;
        } else {
          own.leaked[i] += energy;
          double of = Arrays.stream(energies[q]).sum();
          own.leaks.get(i).put(basis.get(q).role, new Leak(energy, of));
        }
      }
    }
  }

  /** How much more of each role, or less of its own, a stem has in a band than the tools have. */
  private void split(
      RoleErrors own,
      int judged,
      List<RoleErrors> basis,
      double[][] shares,
      int band,
      double[][] excess,
      double[][] energies) {
    int n = own.tools.length;
    double[][] a = normal(basis, shares, band);
    if (a == null) {
      return;
    }
    double[][] gains = new double[n][];
    for (int j = 0; j < n; j++) {
      if (j == judged || !own.found.apart()[j]) {
        gains[j] = Normal.solve(a, along(own, j, basis, shares, band));
      }
    }
    for (int q = 0; q < shares.length; q++) {
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

  /** Leakage goes one way: what the least leaking tools have is what all have by likeness. */
  private static double least(double[] values) {
    Arrays.sort(values);
    return values.length < FEW ? values[0] : Statistics.quantiles(values, LEAST_TENTH)[0];
  }

  /**
   * Products of the roles' consensus with each other, with a ridge; null where there is nothing.
   */
  private double[][] normal(List<RoleErrors> basis, double[][] shares, int band) {
    int m = shares.length;
    double[][] a = new double[m][m];
    double most = 0;
    for (int p = 0; p < m; p++) {
      for (int q = 0; q <= p; q++) {
        for (int i = 0; i < shares[p].length; i++) {
          for (int j = 0; shares[p][i] != 0 && j < shares[q].length; j++) {
            a[p][q] +=
                shares[p][i]
                    * shares[q][j]
                    * ofBands[band][basis.get(p).signals[i]][basis.get(q).signals[j]];
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
  private double[] along(
      RoleErrors own, int tool, List<RoleErrors> basis, double[][] shares, int band) {
    double[] b = new double[shares.length];
    for (int p = 0; p < b.length; p++) {
      for (int i = 0; i < shares[p].length; i++) {
        if (shares[p][i] != 0) {
          b[p] +=
              shares[p][i]
                  * ofBands[band][own.signals[tool]][basis.get(p).signals[i]]
                  / own.found.gain()[tool];
        }
      }
    }
    return b;
  }

  /** Weights of the stems in a role's consensus, with unit gain, without a tool. */
  private static double[] weights(RoleErrors role, int without) {
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
