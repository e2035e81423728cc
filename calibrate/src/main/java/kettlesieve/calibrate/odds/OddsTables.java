package kettlesieve.calibrate.odds;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.odds.Odds;
import kettlesieve.core.score.odds.Validity;

/** Odds fitted on the setting half, and what they came to on both, in Markdown. */
public final class OddsTables {
  private static final double[] SAID = {0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 1.0001};
  private static final double[] BEST = {0, 0.2, 0.4, 0.6, 0.8, 1.0001};
  private static final int FEWEST_SHOWN = 20;
  private static final double TODAY_SURE = 0.95;

  private final PrintWriter out;
  private final List<OddsCase> setting;
  private final List<OddsCase> reporting;
  private final Validity validity;

  /**
   * @param out receives the tables
   * @param cases of both halves
   * @param date of the fit, yyyy-mm-dd
   */
  public OddsTables(PrintWriter out, List<OddsCase> cases, String date) {
    this.out = out;
    this.setting = cases.stream().filter(c -> c.half() == Half.SETTING).toList();
    this.reporting = cases.stream().filter(c -> c.half() == Half.REPORTING).toList();
    Validity fitted = OddsFit.of(setting, date);
    this.validity = OverFit.with(fitted, OverFit.lasting(OverFit.pairs(setting), fitted));
  }

  /** What was fitted on the setting half. */
  public Validity validity() {
    return validity;
  }

  /**
   * All tables of a job.
   *
   * @param name of the job
   */
  public void print(String name) {
    out.printf(
        Locale.ROOT,
        "%n## %s%n%nτ %.1f points, %.1f where the program warns, ε %.2f, k %.2f; of %d pairs (%s)%n",
        name,
        validity.tau(),
        validity.doubtful(),
        validity.failure(),
        validity.scatter(),
        validity.pairs(),
        validity.fitted());
    head("said, of the likelier side: got");
    for (int bin = 0; bin + 1 < SAID.length; bin++) {
      int b = bin;
      row(bin(SAID, bin), cases -> reliability(cases, SAID[b], SAID[b + 1]));
    }
    row("expected calibration error, points", cases -> two(100 * calibrationError(cases)));
    row("log loss, nats", cases -> three(loss(cases, p -> probability(p))));
    row("the same with sure = 0.95, tied = 0.5", cases -> three(loss(cases, p -> today(p.pair))));
    row(
        "less by",
        cases ->
            two(100 * (1 - loss(cases, p -> probability(p)) / loss(cases, p -> today(p.pair))))
                + " %");
    row("clear pairs with 0.75 or more on the right side", cases -> right(cases, 0.75));
    row("clear pairs with 0.95 or more on the right side", cases -> right(cases, 0.95));
    row("of 0.95 or more on either side, wrong", this::wrong);
    head("said to be the best: was");
    Map<OddsCase, double[]> chances = new LinkedHashMap<>();
    for (int bin = 0; bin + 1 < BEST.length; bin++) {
      int b = bin;
      row(bin(BEST, bin), cases -> best(cases, chances, BEST[b], BEST[b + 1]));
    }
    new OverTables(out, validity).print(setting, reporting);
    out.flush();
  }

  /** Said against got as a picture, SVG. */
  public String figure(String name) {
    return new OddsFigure(name, points(setting), points(reporting)).svg();
  }

  private List<OddsFigure.Point> points(List<OddsCase> cases) {
    List<OddsFigure.Point> points = new ArrayList<>();
    for (int bin = 0; bin + 1 < SAID.length; bin++) {
      double[] found = count(cases, SAID[bin], SAID[bin + 1]);
      if (found[0] >= FEWEST_SHOWN) {
        points.add(new OddsFigure.Point(found[1] / found[0], found[2] / found[0], found[0]));
      }
    }
    return points;
  }

  private record Said(OddsCase of, OddsCase.Pair pair) {}

  private static List<Said> all(List<OddsCase> cases) {
    List<Said> all = new ArrayList<>();
    cases.forEach(c -> c.pairs().forEach(p -> all.add(new Said(c, p))));
    return all;
  }

  /** The chance said of the first. */
  private double probability(Said s) {
    return validity.better(s.pair.points(), s.pair.deviation(), s.of.doubt());
  }

  private static double today(OddsCase.Pair pair) {
    return pair.said() > 0 ? TODAY_SURE : pair.said() < 0 ? 1 - TODAY_SURE : 0.5;
  }

  private String reliability(List<OddsCase> cases, double from, double to) {
    double[] found = count(cases, from, to);
    return found[0] == 0
        ? "–"
        : String.format(
            Locale.ROOT,
            "%.0f → %.0f %% of %.0f",
            100 * found[1] / found[0],
            100 * found[2] / found[0],
            found[0]);
  }

  /** Pairs, sum of what was said, and how many were so. */
  private double[] count(List<OddsCase> cases, double from, double to) {
    double[] found = new double[3];
    for (Said s : all(cases)) {
      double p = probability(s);
      double said = Math.max(p, 1 - p);
      if (said >= from && said < to) {
        found[0]++;
        found[1] += said;
        found[2] += p == 0.5 ? 0.5 : p > 0.5 == s.pair.better() ? 1 : 0;
      }
    }
    return found;
  }

  private double calibrationError(List<OddsCase> cases) {
    double error = 0;
    double of = 0;
    for (int bin = 0; bin + 1 < SAID.length; bin++) {
      double[] found = count(cases, SAID[bin], SAID[bin + 1]);
      error += Math.abs(found[1] - found[2]);
      of += found[0];
    }
    return error / of;
  }

  private static double loss(List<OddsCase> cases, ToDoubleFunction<Said> said) {
    double loss = 0;
    List<Said> all = all(cases);
    for (Said s : all) {
      double p = said.applyAsDouble(s);
      loss -= Math.log(s.pair.better() ? p : 1 - p);
    }
    return loss / all.size();
  }

  private String right(List<OddsCase> cases, double least) {
    int of = 0;
    int right = 0;
    for (Said s : all(cases)) {
      if (s.pair.clear()) {
        double p = probability(s);
        of++;
        right += (s.pair.better() ? p : 1 - p) >= least ? 1 : 0;
      }
    }
    return percent(right, of);
  }

  private String wrong(List<OddsCase> cases) {
    int of = 0;
    int wrong = 0;
    for (Said s : all(cases)) {
      double p = probability(s);
      if (s.pair.clear() && Math.max(p, 1 - p) >= Validity.SURE) {
        of++;
        wrong += p > 0.5 == s.pair.better() ? 0 : 1;
      }
    }
    return percent(wrong, of);
  }

  private double[] chances(OddsCase c) {
    Map<String, Estimate> scores = new LinkedHashMap<>();
    for (int i = 0; i < c.versions().size(); i++) {
      if (c.versions().get(i).choice()) {
        scores.put(Integer.toString(i), c.versions().get(i).score());
      }
    }
    double[] chances = new double[c.versions().size()];
    Odds.of(scores, validity, c.doubt())
        .forEach((id, odds) -> chances[Integer.parseInt(id)] = odds.best());
    return chances;
  }

  private String best(List<OddsCase> cases, Map<OddsCase, double[]> known, double from, double to) {
    double said = 0;
    double was = 0;
    int of = 0;
    for (OddsCase c : cases) {
      double[] chances = known.computeIfAbsent(c, this::chances);
      List<Integer> best = c.trulyBest();
      for (int i = 0; i < chances.length; i++) {
        if (c.versions().get(i).choice() && chances[i] >= from && chances[i] < to) {
          of++;
          said += chances[i];
          was += best.contains(i) ? 1.0 / best.size() : 0;
        }
      }
    }
    return of == 0
        ? "–"
        : String.format(Locale.ROOT, "%.0f → %.0f %% of %d", 100 * said / of, 100 * was / of, of);
  }

  private static String bin(double[] bins, int bin) {
    return String.format(Locale.ROOT, "%.2f–%.2f", bins[bin], Math.min(1, bins[bin + 1]));
  }

  private void head(String first) {
    out.printf("%n| %s | setting half | reporting half |%n|---|---|---|%n", first);
  }

  private void row(String what, Function<List<OddsCase>, String> of) {
    out.println(
        "| "
            + what
            + " | "
            + (setting.isEmpty() ? "–" : of.apply(setting))
            + " | "
            + (reporting.isEmpty() ? "–" : of.apply(reporting))
            + " |");
  }

  private static String two(double x) {
    return String.format(Locale.ROOT, "%.1f", x);
  }

  private static String three(double x) {
    return String.format(Locale.ROOT, "%.3f", x);
  }

  private static String percent(int part, int of) {
    return of == 0 ? "–" : String.format(Locale.ROOT, "%.1f %% of %d", 100.0 * part / of, of);
  }
}
