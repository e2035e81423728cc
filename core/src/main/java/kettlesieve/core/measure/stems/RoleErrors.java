package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Stop;

/**
 * What the stems of one role are off, of all tools that give it. What is worked out when first
 * asked for may be asked for by several threads.
 */
final class RoleErrors {
  private static final int FEWEST_TO_LEAVE = 4;

  private final StemErrors all;
  private final StemParts parts;

  final String role;

  /** Which tools they are, and the numbers of their stems. */
  final int[] tools;

  final int[] signals;
  final ThreeCorneredHat.Found found;

  /** Power of the median stem over that of the mix. */
  final double shareOfMix;

  /** By tool: what leaked of each other role, and how loud that role is. */
  final List<Map<String, LeakSplit.Leak>> leaks = new ArrayList<>();

  /** By tool, energies. */
  final double[] missing;

  final double[] leaked;

  RoleErrors(StemErrors all, StemParts parts, String role, int[] tools) {
    this.all = all;
    this.parts = parts;
    this.role = role;
    this.tools = tools;
    this.signals = Arrays.stream(tools).map(t -> parts.sums().signal(t, role)).toArray();
    this.found = ThreeCorneredHat.solve(known(parts.everything()));
    this.missing = new double[tools.length];
    this.leaked = new double[tools.length];
    double[] powers = new double[tools.length];
    for (int i = 0; i < powers.length; i++) {
      powers[i] = energy(i);
    }
    this.shareOfMix =
        Statistics.median(powers) / Math.max(1e-30, parts.product(0, 0, parts.everything()));
  }

  /** Estimated signal-to-distortion ratios by draw and place; made when first asked for. */
  private double[][] drawn;

  /**
   * Estimated signal-to-distortion ratio of a tool, over draws of blocks and of which of the other
   * tools are asked: in each draw one other is left out where there are enough.
   */
  Estimate sdr(int place, Bootstrap bootstrap) {
    double[][] draws = drawn(bootstrap);
    int[] draw = {0};
    return bootstrap.estimate(w -> draws[draw[0]++][place]);
  }

  private synchronized double[][] drawn(Bootstrap bootstrap) {
    if (drawn == null) {
      List<double[]> each = new ArrayList<>();
      bootstrap.estimate(
          w -> {
            each.add(each.isEmpty() ? sdrs(found) : sdrs(w, each.size()));
            return 0;
          });
      drawn = each.toArray(double[][]::new);
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
    double[] every = new double[tools.length];
    for (int i = 0; i < every.length; i++) {
      every[i] = i == left ? Double.NaN : some[i < left ? i : i - 1];
    }
    return every;
  }

  /** Sums over all bands by block, so that draws are quick. */
  private ThreeCorneredHat.Known[] ofBlocks;

  private ThreeCorneredHat.Known known(int[] weights) {
    if (ofBlocks == null) {
      ofBlocks = new ThreeCorneredHat.Known[parts.blocks()];
      for (int b = 0; b < ofBlocks.length; b++) {
        ofBlocks[b] = known(parts.block(b));
      }
    }
    return ThreeCorneredHat.Known.sum(ofBlocks, weights);
  }

  /** Energies of what is wrong in a stem, by block and band. */
  double[][] errors(int place) {
    return byCell(found -> found.error()[place]);
  }

  /** Energies of the role, by block and band. */
  double[][] powers() {
    return byCell(ThreeCorneredHat.Found::signal);
  }

  private double[][] byCell(ToDoubleFunction<ThreeCorneredHat.Found> of) {
    return Arrays.stream(cells())
        .map(block -> Arrays.stream(block).mapToDouble(of).toArray())
        .toArray(double[][]::new);
  }

  /** What was found in each block and band; made when first asked for. */
  private ThreeCorneredHat.Found[][] cells;

  private synchronized ThreeCorneredHat.Found[][] cells() {
    if (cells == null) {
      ThreeCorneredHat.Found[][] each = new ThreeCorneredHat.Found[parts.blocks()][parts.bands()];
      for (int block = 0; block < each.length; block++) {
        Stop.checkHere();
        for (int band = 0; band < each[block].length; band++) {
          each[block][band] = ThreeCorneredHat.part(known(parts.cell(block, band)), found);
        }
      }
      cells = each;
    }
    return cells;
  }

  /** Energy of a tool's stem. */
  double energy(int place) {
    return parts.product(signals[place], signals[place], parts.everything());
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
  private ThreeCorneredHat.Known known(StemParts.Span span) {
    int n = tools.length;
    double[][] products = new double[n][n];
    double[] withMix = new double[n];
    double[] beyond = new double[n];
    double[] quadrature = new double[n];
    double[] cancelled = new double[n];
    double[] left = new double[n];
    double mix = parts.product(0, 0, span);
    for (int i = 0; i < n; i++) {
      for (int j = 0; j <= i; j++) {
        products[i][j] = parts.product(signals[i], signals[j], span);
        products[j][i] = products[i][j];
      }
      withMix[i] = parts.product(signals[i], 0, span);
      beyond[i] = parts.over(parts.sums()::beyond, signals[i], span);
      quadrature[i] = parts.over(parts.sums()::quadrature, signals[i], span);
      double turned = 0;
      double rest = mix;
      List<Integer> own = all.stems(tools[i]);
      for (int a : own) {
        turned += parts.over(parts.sums()::quadrature, a, span);
        rest -= 2 * parts.product(a, 0, span);
        for (int b : own) {
          rest += parts.product(a, b, span);
        }
      }
      boolean whole = all.whole(tools[i]);
      double together = parts.over(parts.sums()::together, tools[i], span);
      cancelled[i] = !whole ? 1 : turned > 0 ? Math.max(0, 1 - together / turned) : 0;
      left[i] = whole ? Math.max(0, rest) / own.size() : 0;
    }
    return new ThreeCorneredHat.Known(products, withMix, mix, beyond, quadrature, cancelled, left);
  }
}
