package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.measure.pass.StemSums;

/**
 * A stem against true ones by inner products alone, for what the separation evaluation does not
 * take: sums and remainders, too many channels, true stems that are too much alike. By
 * third-octaves the stem is a sum of true stems with gains, and a rest.
 */
final class TrueSums {
  private static final double LEAST = 1e-6;

  private final StemSums sums;
  private final int signal;
  private final List<String> roles = new ArrayList<>();
  private final List<Integer> signals = new ArrayList<>();

  /** By band, the gain of each true stem, the role's own first. */
  private final double[][] gains;

  private final double gain;

  /** By block: target, lacking, leaked, artifacts. */
  private final double[][] energies;

  /**
   * @param sums the true stems after all tools
   * @param role of which there is a true stem, or a sum of them
   */
  TrueSums(StemSums sums, int tool, String role) {
    this.sums = sums;
    this.signal = sums.signal(tool, role);
    int truth = sums.tools() - 1;
    roles.add(role);
    for (String other : sums.roles(truth)) {
      if (!other.equals(role) && !Roles.composite(other) && StemErrors.apart(role, other)) {
        roles.add(other);
      }
    }
    roles.forEach(r -> signals.add(sums.signal(truth, r)));
    gains = new double[sums.bands()][];
    double along = 0;
    double own = 0;
    for (int band = 0; band < gains.length; band++) {
      gains[band] = regression(band);
      for (int block = 0; block < sums.blocks(); block++) {
        along += sums.product(signal, signals.get(0), block, band);
        own += sums.product(signals.get(0), signals.get(0), block, band);
      }
    }
    gain = own > 0 ? Math.max(0, along / own) : 0;
    energies = new double[sums.blocks()][4];
    for (int block = 0; block < energies.length; block++) {
      for (int band = 0; band < gains.length; band++) {
        add(block, band, energies[block]);
      }
    }
  }

  private double[] regression(int band) {
    int m = signals.size();
    double[][] a = new double[m][m];
    double[] b = new double[m];
    double most = 0;
    for (int block = 0; block < sums.blocks(); block++) {
      for (int p = 0; p < m; p++) {
        b[p] += sums.product(signal, signals.get(p), block, band);
        for (int q = 0; q < m; q++) {
          a[p][q] += sums.product(signals.get(p), signals.get(q), block, band);
        }
      }
    }
    for (int p = 0; p < m; p++) {
      most = Math.max(most, a[p][p]);
    }
    for (int p = 0; p < m; p++) {
      a[p][p] += LEAST * most + 1e-30;
    }
    return Normal.solve(a, b);
  }

  private void add(int block, int band, double[] to) {
    double[] g = gains[band];
    double target = sums.product(signals.get(0), signals.get(0), block, band);
    double rest = sums.product(signal, signal, block, band);
    double leaked = 0;
    for (int p = 0; p < g.length; p++) {
      rest -= 2 * g[p] * sums.product(signal, signals.get(p), block, band);
      for (int q = 0; q < g.length; q++) {
        double shared = g[p] * g[q] * sums.product(signals.get(p), signals.get(q), block, band);
        rest += shared;
        leaked += p > 0 && q > 0 ? shared : 0;
      }
    }
    to[0] += gain * gain * target;
    to[1] += (g[0] - gain) * (g[0] - gain) * target;
    to[2] += Math.max(0, leaked);
    to[3] += Math.max(0, rest);
  }

  /** By block: energies of the target, of what is lacking, of what leaked and of artifacts. */
  double[][] energies() {
    return energies;
  }

  /** By offender, how far it is down in the stem, as a power. */
  Map<String, Double> gains() {
    Map<String, Double> of = new LinkedHashMap<>(leaked());
    for (int q = 1; q < roles.size(); q++) {
      double own = 1e-30;
      for (int band = 0; band < gains.length; band++) {
        for (int block = 0; block < sums.blocks(); block++) {
          own += sums.product(signals.get(q), signals.get(q), block, band);
        }
      }
      of.put(roles.get(q), of.get(roles.get(q)) / own);
    }
    return of;
  }

  /** By offender, its energy in the stem. */
  Map<String, Double> leaked() {
    Map<String, Double> leaks = new LinkedHashMap<>();
    for (int q = 1; q < roles.size(); q++) {
      double energy = 0;
      for (int band = 0; band < gains.length; band++) {
        for (int block = 0; block < sums.blocks(); block++) {
          double power = sums.product(signals.get(q), signals.get(q), block, band);
          energy += gains[band][q] * gains[band][q] * power;
        }
      }
      leaks.put(roles.get(q), energy);
    }
    return leaks;
  }
}
