package kettlesieve.core.measure.stems;

import java.util.Arrays;
import kettlesieve.core.signal.Statistics;

/**
 * What several tools' stems of one role are off, each by itself, told from how far they lie from
 * each other and from the mix alone. Three clocks tell their own errors from their differences
 * (Gray &amp; Allan 1974); where errors are correlated, the common part must be known (Premoli
 * &amp; Tavella 1993). Stems that are masks of the mix share one: they all keep the mix's phase.
 * That part is estimated from what a mask leaves, Σ m(1 − m)|X|², and how far a stem is a mask from
 * its quadrature to the mix, of which masks have none, and which cancels over the stems of a tool
 * where they are true. Tools that are nearly alike count as one.
 *
 * <p>Everything is an energy, of the whole or of a part of time and frequency. The factors were set
 * on the bench ({@code docs/calibration/stems.md}).
 */
final class ThreeCorneredHat {
  /** Under this share of the best agreement with the others a stem is no stem of the role. */
  private static final double APART = 0.5;

  private static final double FULL_WEIGHT = 0.75;
  private static final double LEAST_AGREEMENT = 0.02;
  private static final double QUADRATURE = 0.55;
  private static final double COMMON = 0.45;
  private static final double LEAST_MASK = 0.35;
  private static final double MASK_RANGE = 0.45;
  private static final double MOST_QUADRATURE = 4.5;
  private static final double QUADRATURE_RANGE = 1.5;
  private static final double LEAST_DIFFERENCE = 0.02;
  private static final double ALIKE = 0.15;
  private static final double CUE_WEIGHT = 0.25;
  private static final int ROUNDS = 6;
  private static final double OVER = 1.2;
  private static final double UNDER = 0.8;

  /**
   * What is known of the tools that give a role; everything is an energy.
   *
   * @param products of the tools' stems with each other
   * @param withMix of each with the mix
   * @param mix of the mix
   * @param beyond see {@link kettlesieve.core.measure.pass.StemSums#beyond}
   * @param quadrature of each stem to the mix
   * @param cancelled by tool, how far the quadratures of its stems cancel, 0 to 1
   * @param left by tool, what its stems leave of the mix, as one role's share of it
   */
  record Known(
      double[][] products,
      double[] withMix,
      double mix,
      double[] beyond,
      double[] quadrature,
      double[] cancelled,
      double[] left) {
    int tools() {
      return withMix.length;
    }

    /** Parts put together, each as often as it counts; what is no energy by the mix's energy. */
    static Known sum(Known[] parts, int[] weights) {
      int n = parts[0].tools();
      double[][] products = new double[n][n];
      double[] withMix = new double[n];
      double[] beyond = new double[n];
      double[] quadrature = new double[n];
      double[] cancelled = new double[n];
      double[] left = new double[n];
      double mix = 0;
      for (int p = 0; p < parts.length; p++) {
        int w = weights[p];
        if (w == 0) {
          continue;
        }
        Known part = parts[p];
        mix += w * part.mix;
        for (int i = 0; i < n; i++) {
          for (int j = 0; j < n; j++) {
            products[i][j] += w * part.products[i][j];
          }
          withMix[i] += w * part.withMix[i];
          beyond[i] += w * part.beyond[i];
          quadrature[i] += w * part.quadrature[i];
          cancelled[i] += w * part.mix * part.cancelled[i];
          left[i] += w * part.left[i];
        }
      }
      for (int i = 0; i < n && mix > 0; i++) {
        cancelled[i] /= mix;
      }
      return new Known(products, withMix, mix, beyond, quadrature, cancelled, left);
    }

    /** Without one of the tools. */
    Known without(int tool) {
      int n = tools();
      int[] in = java.util.stream.IntStream.range(0, n).filter(i -> i != tool).toArray();
      double[][] some = new double[n - 1][n - 1];
      for (int i = 0; i < in.length; i++) {
        for (int j = 0; j < in.length; j++) {
          some[i][j] = products[in[i]][in[j]];
        }
      }
      return new Known(
          some,
          of(withMix, in),
          mix,
          of(beyond, in),
          of(quadrature, in),
          of(cancelled, in),
          of(left, in));
    }

    private static double[] of(double[] all, int[] in) {
      return Arrays.stream(in).mapToDouble(i -> all[i]).toArray();
    }
  }

  /**
   * What was found.
   *
   * @param error by tool, energy of what its stem is off, once its gain is taken out
   * @param mask by tool, how far it is a mask of the mix, 0 to 1
   * @param gain by tool, of its stem against the consensus
   * @param weight by tool, its part in the consensus
   * @param apart by tool, whether it has too little to do with the others to be solved with them
   * @param alone by tool, how many of the others it is not nearly alike, with itself
   * @param independent how many tools there are where those alike count as one
   * @param signal energy of the role
   * @param common energy of what masks have in common
   */
  record Found(
      double[] error,
      double[] mask,
      double[] gain,
      double[] weight,
      boolean[] apart,
      double[] alone,
      double independent,
      double signal,
      double common) {
    /** Estimated signal-to-distortion ratio of a tool, dB. */
    double sdr(int tool) {
      return 10 * Math.log10(signal / Math.max(error[tool], 1e-12 * signal));
    }
  }

  private ThreeCorneredHat() {}

  /** Solves for the errors of two tools or more. */
  static Found solve(Known known) {
    int n = known.tools();
    double[] agreement = agreement(known);
    double best = Arrays.stream(agreement).max().orElse(0);
    boolean[] apart = new boolean[n];
    int together = 0;
    for (int i = 0; i < n; i++) {
      apart[i] = n >= 3 && agreement[i] < APART * best;
      together += apart[i] ? 0 : 1;
    }
    if (together < 2) {
      Arrays.fill(apart, false);
      together = n;
    }
    int[] in = new int[together];
    for (int i = 0, m = 0; i < n; i++) {
      if (!apart[i]) {
        in[m++] = i;
      }
    }
    double[] weight = new double[n];
    for (int i : in) {
      double share = Math.max(agreement[i], LEAST_AGREEMENT) / (FULL_WEIGHT * best);
      weight[i] = Math.pow(Math.min(1, share), 4) / Math.sqrt(known.products[i][i] + 1e-30);
    }
    normalise(weight, null);
    Found found = round(known, in, apart, weight, null);
    double mean = 0;
    for (int i : in) {
      mean += known.products[i][i] / (found.gain[i] * found.gain[i]) / in.length;
    }
    double[] better = new double[n];
    for (int m = 0; m < in.length; m++) {
      int i = in[m];
      // Kin count as one; the better, the more.
      better[i] = 1 / (found.alone[i] * (found.error[i] + 0.02 * mean) * found.gain[i]);
    }
    normalise(better, found.gain);
    return round(known, in, apart, better, null);
  }

  /** So that the consensus of stems of these gains has the level that they have. */
  private static void normalise(double[] weight, double[] gain) {
    double sum = 0;
    for (int i = 0; i < weight.length; i++) {
      sum += weight[i] * (gain == null ? 1 : gain[i]);
    }
    for (int i = 0; i < weight.length && sum > 0; i++) {
      weight[i] /= sum;
    }
  }

  /** The errors in a part of time or frequency, gains and what is a mask as found of the whole. */
  static Found part(Known part, Found whole) {
    int[] in =
        java.util.stream.IntStream.range(0, part.tools()).filter(i -> !whole.apart[i]).toArray();
    return round(part, in, whole.apart, whole.weight, whole);
  }

  /** Median over the others of the cosine between a stem and theirs. */
  private static double[] agreement(Known known) {
    int n = known.tools();
    double[] agreement = new double[n];
    for (int i = 0; i < n; i++) {
      double[] cosines = new double[n - 1];
      for (int j = 0, m = 0; j < n; j++) {
        if (j != i) {
          double size = Math.sqrt(known.products[i][i] * known.products[j][j]);
          cosines[m++] = size > 0 ? known.products[i][j] / size : 0;
        }
      }
      agreement[i] = Statistics.median(cosines);
    }
    return agreement;
  }

  /** Gains against a consensus, and the errors beside it. */
  private static Found round(Known known, int[] in, boolean[] apart, double[] weight, Found whole) {
    int n = known.tools();
    double consensus = 0;
    double[] along = new double[n];
    for (int i = 0; i < n; i++) {
      for (int j : in) {
        along[i] += weight[j] * known.products[i][j];
      }
    }
    for (int i : in) {
      consensus += weight[i] * along[i];
    }
    double[] gain = new double[n];
    double[] own = new double[n];
    double[] off = new double[n];
    double[] turned = new double[n];
    for (int i = 0; i < n; i++) {
      double usual = Math.sqrt(known.products[i][i] / Math.max(consensus, 1e-30));
      gain[i] = consensus > 0 ? Math.max(along[i] / consensus, 0.02 * usual) : 1;
      gain[i] = whole == null ? Math.max(gain[i], 1e-9) : whole.gain[i];
      own[i] = known.products[i][i] / (gain[i] * gain[i]);
      off[i] = known.beyond[i] / (gain[i] * gain[i]);
      turned[i] = known.quadrature[i] / (gain[i] * gain[i]);
    }
    double left = median(in, i -> Math.max(0, known.withMix[i] / gain[i] - own[i]) + turned[i]);
    double usualTurn = QUADRATURE * left;
    double common = COMMON * left;
    double[] mask = new double[n];
    for (int i = 0; i < n; i++) {
      double y = usualTurn > 0 ? turned[i] / usualTurn : 0;
      double plausible = clip((MOST_QUADRATURE - y) / QUADRATURE_RANGE);
      mask[i] =
          whole == null
              ? clip((1 - known.cancelled[i] * plausible * y - LEAST_MASK) / MASK_RANGE)
              : whole.mask[i];
    }
    int m = in.length;
    double[][] difference = new double[m][m];
    double[][] corrected = new double[m][m];
    double[] all = new double[m * (m - 1) / 2];
    double[] allCorrected = new double[all.length];
    int pairs = 0;
    for (int a = 0; a < m; a++) {
      for (int b = 0; b < a; b++) {
        int i = in[a];
        int j = in[b];
        double d = own[i] + own[j] - 2 * known.products[i][j] / (gain[i] * gain[j]);
        d = Math.max(d, 1e-9 * (own[i] + own[j]));
        double shared = (mask[i] + mask[j] - 2 * mask[i] * mask[j]) * common;
        difference[a][b] = d;
        difference[b][a] = d;
        corrected[a][b] = Math.max(d - shared, LEAST_DIFFERENCE * d);
        corrected[b][a] = corrected[a][b];
        all[pairs] = d;
        allCorrected[pairs++] = corrected[a][b];
      }
    }
    double usual = Statistics.median(all);
    double usualCorrected = Statistics.median(allCorrected);
    double[] alone = new double[n];
    double[] kin = new double[m];
    double[][] alike = new double[m][m];
    double independent = 0;
    for (int a = 0; a < m; a++) {
      double near = 0;
      for (int b = 0; b < m; b++) {
        alike[a][b] = a == b ? 1 : Math.exp(-difference[a][b] / (ALIKE * usual));
        near += alike[a][b];
      }
      kin[a] = 1 / near;
      alone[in[a]] = near;
      independent += kin[a];
    }
    double[] cue = new double[m];
    double logs = 0;
    for (int a = 0; a < m; a++) {
      int i = in[a];
      cue[a] =
          (off[i]
                  + known.left[i]
                  + mask[i] * common
                  + Math.max(0, turned[i] - usualTurn)
                  + 0.001 * own[i])
              / Math.max(own[i], 1e-30);
      logs += Math.log(cue[a]) / m;
    }
    for (int a = 0; a < m; a++) {
      cue[a] *= usualCorrected / 2 / Math.exp(logs);
    }
    double[] u = leastSquares(corrected, alike, kin, cue, usualCorrected);
    double[] error = new double[n];
    double[] powers = new double[m];
    double[] sounding = new double[m];
    for (int a = 0; a < m; a++) {
      int i = in[a];
      error[i] = u[a] + mask[i] * common;
      powers[a] = own[i];
      sounding[a] = own[i] - error[i];
    }
    double signal = Math.max(Statistics.median(sounding), 0.1 * Statistics.median(powers));
    for (int i = 0; i < n; i++) {
      if (apart[i]) {
        // What has nothing to do with the role is all error, and lacks the role besides.
        error[i] = known.products[i][i] + signal;
        gain[i] = 1;
        alone[i] = 1;
      }
    }
    return new Found(error, mask, gain, weight, apart, alone, independent, signal, common);
  }

  private interface ByTool {
    double of(int tool);
  }

  private static double median(int[] in, ByTool value) {
    double[] values = new double[in.length];
    for (int m = 0; m < in.length; m++) {
      values[m] = value.of(in[m]);
    }
    return Statistics.median(values);
  }

  /**
   * Errors u, not below 0, whose sums in pairs are the corrected differences, each row weighted by
   * how independent its tools are, and each error near its own cue. Rows whose sums come out too
   * small count for more: an error that is too small makes its tool the best.
   */
  private static double[] leastSquares(
      double[][] sums, double[][] alike, double[] kin, double[] cue, double usual) {
    int m = cue.length;
    double[] u = cue.clone();
    double[][] normal = new double[m][m];
    double[] right = new double[m];
    for (int round = 0; round < ROUNDS; round++) {
      for (double[] row : normal) {
        Arrays.fill(row, 0);
      }
      for (int a = 0; a < m; a++) {
        double w = CUE_WEIGHT * Math.sqrt(kin[a]) / cue[a];
        normal[a][a] = w * w;
        right[a] = w * w * cue[a];
      }
      for (int a = 0; a < m; a++) {
        for (int b = 0; b < a; b++) {
          double tilt = u[a] + u[b] < sums[a][b] ? OVER : UNDER;
          double apart = Math.max(1 - alike[a][b], 0.001);
          double size = Math.max(sums[a][b], 0.2 * usual);
          double w2 = kin[a] * kin[b] * apart * apart * apart * apart * tilt / (size * size);
          normal[a][a] += w2;
          normal[b][b] += w2;
          normal[a][b] += w2;
          normal[b][a] += w2;
          right[a] += w2 * sums[a][b];
          right[b] += w2 * sums[a][b];
        }
      }
      descend(normal, right, u);
    }
    return u;
  }

  /** Non-negative least squares by coordinates: few unknowns, far from singular. */
  private static void descend(double[][] normal, double[] right, double[] u) {
    for (int sweep = 0; sweep < 60; sweep++) {
      double moved = 0;
      double size = 0;
      for (int a = 0; a < u.length; a++) {
        double rest = right[a];
        for (int b = 0; b < u.length; b++) {
          rest -= b == a ? 0 : normal[a][b] * u[b];
        }
        double now = Math.max(0, rest / normal[a][a]);
        moved += Math.abs(now - u[a]);
        size += now;
        u[a] = now;
      }
      if (moved <= 1e-6 * size) {
        return;
      }
    }
  }

  private static double clip(double x) {
    return Math.max(0, Math.min(1, x));
  }
}
