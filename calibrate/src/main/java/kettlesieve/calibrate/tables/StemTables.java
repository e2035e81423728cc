package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.trial.StemTrial;

/** How far the figures of separated stems agree with the truth, in Markdown. */
public final class StemTables {
  private static final String TRUE = "true";

  private final PrintWriter out;
  private final Tables<StemTrial> tables;

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public StemTables(PrintWriter out, List<StemTrial> trials) {
    this.out = out;
    this.tables = new Tables<>(out, trials, StemTrial::half);
  }

  /** All tables. */
  public void print() {
    order();
    kinds();
    figures();
    flaws();
    leaks();
    out.flush();
  }

  private static List<StemTrial.Pair> pairs(List<StemTrial> all, Predicate<StemTrial.Pair> which) {
    return all.stream().flatMap(t -> t.pairs().stream()).filter(which).toList();
  }

  private static boolean clear(StemTrial.Pair p) {
    return p.clear() && !p.one().equals(TRUE) && !p.other().equals(TRUE);
  }

  private static List<StemTrial.Judged> judged(
      List<StemTrial> all, Predicate<StemTrial.Judged> which) {
    return all.stream().flatMap(t -> t.judged().stream()).filter(which).toList();
  }

  private static String right(List<StemTrial.Pair> pairs) {
    double right = 0;
    for (StemTrial.Pair p : pairs) {
      right +=
          p.points() == 0 ? 0.5 : p.points() > 0 == p.better() && !Double.isNaN(p.points()) ? 1 : 0;
    }
    return Tables.percent(right, pairs.size());
  }

  private static String wrong(List<StemTrial.Pair> pairs) {
    List<StemTrial.Pair> sure = pairs.stream().filter(p -> p.sure() != 0).toList();
    long wrong = sure.stream().filter(p -> p.sure() > 0 != p.better()).count();
    return Tables.percent(wrong, sure.size()) + " (said of " + pairs.size() + ")";
  }

  private static Set<String> sets(List<StemTrial> all) {
    Set<String> sets = new LinkedHashSet<>();
    all.forEach(t -> t.pairs().forEach(p -> sets.add(p.set())));
    return sets;
  }

  private void order() {
    tables.head("Clear pairs in the right order, overall score", "set");
    for (String set : sets(tables.setting())) {
      tables.row(set, all -> right(pairs(all, p -> clear(p) && p.set().equals(set))));
    }
    tables.head("Surely the wrong way, of what is said surely of clear pairs", "set");
    for (String set : sets(tables.setting())) {
      tables.row(set, all -> wrong(pairs(all, p -> clear(p) && p.set().equals(set))));
    }
    tables.row(
        "3 kin + 1: the better one surely last",
        all ->
            Tables.share(
                pairs(all, p -> clear(p) && p.set().equals("3 kin + 1")),
                p -> p.sure() != 0 && p.sure() > 0 != p.better()));
    tables.row(
        "true stems unmarked: surely behind another",
        all ->
            Tables.share(
                pairs(all, p -> p.one().equals(TRUE) || p.other().equals(TRUE)),
                p -> p.sure() != 0 && p.sure() > 0 != p.better()));
  }

  private void kinds() {
    tables.head("The same by sort of tool, sets of eight and five", "pairs with");
    Map<String, String> kinds = new LinkedHashMap<>();
    for (List<StemTrial> half : List.of(tables.setting(), tables.reporting())) {
      half.forEach(t -> t.judged().forEach(j -> kinds.put(j.tool(), j.kind())));
    }
    for (String kind : new LinkedHashSet<>(kinds.values())) {
      tables.row(
          kind.toLowerCase(Locale.ROOT).replace('_', ' '),
          all ->
              right(
                  pairs(
                      all,
                      p ->
                          clear(p)
                              && (p.set().equals("8 tools") || p.set().equals("5 tools"))
                              && (kind.equals(kinds.get(p.one()))
                                  || kind.equals(kinds.get(p.other()))))));
    }
  }

  private void figures() {
    tables.head("Single figures, sets of eight and five", "figure");
    Predicate<StemTrial.Judged> some = j -> j.set().equals("8 tools") || j.set().equals("5 tools");
    tables.row(
        "est-sdr within 2 dB of the truth, −5 to 15 dB",
        all ->
            Tables.share(
                judged(
                    all,
                    j ->
                        some.test(j)
                            && j.truth().sdr() > -5
                            && j.truth().sdr() < 15
                            && Double.isFinite(j.said().reading("est-sdr"))),
                j -> Math.abs(j.said().reading("est-sdr") - j.truth().sdr()) <= 2));
    tables.row(
        "bleed with SIR, rank correlation",
        all -> correlation(all, j -> -j.said().reading("bleed"), j -> j.truth().sir()));
    tables.row(
        "missing with ISR",
        all -> correlation(all, j -> -j.said().reading("missing"), j -> j.truth().isr()));
    tables.row(
        "artifacts with SAR",
        all -> correlation(all, j -> -j.said().reading("artifacts"), j -> j.truth().sar()));
    tables.row(
        "worst offender right where it leads by 3 dB",
        all ->
            Tables.share(
                judged(all, j -> some.test(j) && leader(j) != null),
                j -> j.offender().equals(leader(j))));
  }

  /** The role that interferes most, where it leads by 3 dB and is heard at all; null else. */
  private static String leader(StemTrial.Judged j) {
    String best = null;
    double first = Double.POSITIVE_INFINITY;
    double second = Double.POSITIVE_INFINITY;
    for (var e : j.truth().by().entrySet()) {
      if (e.getValue() < first) {
        second = first;
        first = e.getValue();
        best = e.getKey();
      } else {
        second = Math.min(second, e.getValue());
      }
    }
    return second > first + 3 && first < 30 ? best : null;
  }

  private static String correlation(
      List<StemTrial> all,
      ToDoubleFunction<StemTrial.Judged> said,
      ToDoubleFunction<StemTrial.Judged> truth) {
    double sum = 0;
    int n = 0;
    for (StemTrial t : all) {
      Map<String, List<double[]>> points = new LinkedHashMap<>();
      int run = 0;
      String last = "";
      for (StemTrial.Judged j : t.judged()) {
        if (j.set().equals("8 tools")) {
          // Sets follow each other, roles in each.
          run += j.role().equals(last) ? 0 : 1;
          last = j.role();
          double x = said.applyAsDouble(j);
          if (Double.isFinite(x)) {
            points
                .computeIfAbsent(run + j.role(), k -> new ArrayList<>())
                .add(new double[] {x, truth.applyAsDouble(j)});
          }
        }
      }
      for (List<double[]> p : points.values()) {
        double rho = Order.spearman(p);
        if (Double.isFinite(rho)) {
          sum += rho;
          n++;
        }
      }
    }
    return String.format(Locale.ROOT, "%.2f over %d", sum / n, n);
  }

  private void flaws() {
    tables.head("With true stems", "score");
    for (String kind : List.of("SCRAMBLED", "HOLES", "MUSICAL")) {
      tables.row(
          kind.toLowerCase(Locale.ROOT) + ": Added under 85",
          all ->
              Tables.share(
                  judged(all, j -> j.set().equals("with true stems") && j.kind().equals(kind)),
                  j -> j.said().axis("added") < 85));
    }
    tables.head("Eight and five tools without true stems", "score");
    for (String kind : List.of("SCRAMBLED", "HOLES", "MUSICAL")) {
      tables.row(
          kind.toLowerCase(Locale.ROOT) + ": Added under 85",
          all ->
              Tables.share(
                  judged(
                      all,
                      j ->
                          (j.set().equals("8 tools") || j.set().equals("5 tools"))
                              && j.kind().equals(kind)),
                  j -> j.said().axis("added") < 85));
    }
    tables.row(
        "true stems unmarked: all three 98 or more",
        all ->
            Tables.share(
                judged(all, j -> j.tool().equals(TRUE)),
                j ->
                    j.said().axis("added") >= 98
                        && j.said().axis("missed") >= 98
                        && j.said().axis("lost") >= 98));
  }

  private void leaks() {
    for (boolean byTruth : new boolean[] {true, false}) {
      tables.head(
          "True stems with known leakage of each other role, "
              + (byTruth ? "by the true stems" : "among three other tools"),
          "leakage");
      for (double db : new double[] {-10, -15, -20, -25, -30}) {
        tables.row(
            String.format(Locale.ROOT, "%.0f dB: mean; within 1 dB", db),
            all -> leaks(all, byTruth, db));
      }
    }
  }

  private static String leaks(List<StemTrial> all, boolean byTruth, double db) {
    double[] said =
        all.stream()
            .flatMap(t -> t.leaks().stream())
            .filter(l -> l.byTruth() == byTruth && l.db() == db)
            .flatMap(l -> l.by().values().stream())
            .mapToDouble(x -> x)
            .toArray();
    long near = java.util.Arrays.stream(said).filter(x -> Math.abs(x - db) <= 1).count();
    return String.format(
        Locale.ROOT,
        "%.1f dB; %d of %d",
        java.util.Arrays.stream(said).average().orElse(Double.NaN),
        near,
        said.length);
  }
}
