package kettlesieve.calibrate.odds;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.score.odds.Validity;

/** What odds over several recordings came to, in Markdown. */
final class OverTables {
  private static final double[] SAID = {0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1.0001};
  private static final double[] BEST = {0.2, 0.4, 0.6, 0.8, 1.0001};

  private final PrintWriter out;
  private final Validity validity;
  private final Validity all;

  /**
   * @param out receives the tables
   * @param validity with the share ρ that was fitted
   */
  OverTables(PrintWriter out, Validity validity) {
    this.out = out;
    this.validity = validity;
    this.all = OverFit.with(validity, 1);
  }

  /** Both halves. */
  void print(List<OddsCase> setting, List<OddsCase> reporting) {
    out.printf(
        Locale.ROOT,
        "%nOver several recordings: ρ %.2f (τ %.1f, by the tool alone %.1f points)%n",
        validity.lasting(),
        validity.tau(),
        validity.tau() * Math.sqrt(validity.lasting()));
    out.printf(
        "%n| recordings | half | pairs | in the right order | ρ | calibration error, points |"
            + " log loss | said → got | said to be the best → was |%n"
            + "|---|---|---|---|---|---|---|---|---|%n");
    for (int size : OverFit.SIZES) {
      rows(size, "setting", OverFit.draw(setting, size));
      rows(size, "reporting", OverFit.draw(reporting, size));
    }
  }

  private void rows(int size, String half, List<OverFit.Drawn> drawn) {
    List<OverFit.Pair> pairs = new ArrayList<>();
    drawn.forEach(d -> pairs.addAll(d.pairs()));
    if (pairs.isEmpty()) {
      return;
    }
    double right = pairs.stream().filter(p -> p.points() > 0 == p.better()).count();
    for (Validity by : List.of(validity, all)) {
      out.printf(
          Locale.ROOT,
          "| %d | %s | %d | %.1f %% | %.2f | %.1f | %.3f | %s | %s |%n",
          size,
          half,
          pairs.size(),
          100 * right / pairs.size(),
          by.lasting(),
          error(pairs, by),
          OverFit.loss(pairs, by) / pairs.size(),
          reliability(pairs, by),
          best(drawn, by));
    }
  }

  /** Number, sum of what was said and of what was got of the likelier side in a bin. */
  private static double[] bin(List<OverFit.Pair> pairs, Validity by, double from, double to) {
    double[] found = new double[3];
    for (OverFit.Pair p : pairs) {
      double said = p.said(by);
      double likelier = Math.max(said, 1 - said);
      if (likelier >= from && likelier < to) {
        found[0]++;
        found[1] += likelier;
        found[2] += said > 0.5 == p.better() ? 1 : 0;
      }
    }
    return found;
  }

  private static double error(List<OverFit.Pair> pairs, Validity by) {
    double error = 0;
    for (int b = 0; b + 1 < SAID.length; b++) {
      double[] found = bin(pairs, by, SAID[b], SAID[b + 1]);
      error += Math.abs(found[1] - found[2]);
    }
    return 100 * error / pairs.size();
  }

  private static String reliability(List<OverFit.Pair> pairs, Validity by) {
    List<String> bins = new ArrayList<>();
    for (int b = 0; b + 1 < SAID.length; b++) {
      add(bins, bin(pairs, by, SAID[b], SAID[b + 1]));
    }
    return String.join(", ", bins);
  }

  private static String best(List<OverFit.Drawn> drawn, Validity by) {
    double[][] found = new double[BEST.length - 1][3];
    for (OverFit.Drawn d : drawn) {
      Set<String> truly = d.trulyBest();
      for (Map.Entry<String, Double> e : d.best(by).entrySet()) {
        for (int b = 0; b < found.length; b++) {
          if (e.getValue() >= BEST[b] && e.getValue() < BEST[b + 1]) {
            found[b][0]++;
            found[b][1] += e.getValue();
            found[b][2] += truly.contains(e.getKey()) ? 1.0 / truly.size() : 0;
          }
        }
      }
    }
    List<String> bins = new ArrayList<>();
    for (double[] f : found) {
      add(bins, f);
    }
    return String.join(", ", bins);
  }

  private static void add(List<String> bins, double[] found) {
    if (found[0] > 0) {
      bins.add(
          String.format(
              Locale.ROOT,
              "%.0f → %.0f (%.0f)",
              100 * found[1] / found[0],
              100 * found[2] / found[0],
              found[0]));
    }
  }
}
