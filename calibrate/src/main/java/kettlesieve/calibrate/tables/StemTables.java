package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.function.Predicate;
import kettlesieve.calibrate.makers.Separators;
import kettlesieve.calibrate.trial.StemTrial;

/** How far the figures of separated stems agree with the truth, in Markdown. */
public final class StemTables {
  private static final double APART_DB = 1;

  private final PrintWriter out;
  private final Tables<StemTrial> tables;

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public StemTables(PrintWriter out, List<StemTrial> trials) {
    this.out = out;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
  }

  /** All tables. */
  public void print() {
    order();
    leaks();
    out.flush();
  }

  private static Set<String> roles(List<StemTrial> trials) {
    Set<String> roles = new LinkedHashSet<>();
    trials.forEach(t -> t.stems().forEach(s -> roles.add(s.role())));
    return roles;
  }

  private void order() {
    tables.head(
        "Order right where the true SDRs are over 1 dB apart, by what the others agree on",
        "stems");
    tables.row("all, overall", all -> right(all, r -> true, (a, b) -> true));
    for (String role : roles(tables.setting())) {
      tables.row(role, all -> right(all, role::equals, (a, b) -> true));
    }
    for (Separators s : Separators.all()) {
      tables.row(
          "with " + s.id(),
          all ->
              right(
                  all, r -> true, (a, b) -> a.maker().equals(s.id()) || b.maker().equals(s.id())));
    }
    tables.row("rank correlation of bleed with SIR, mean", StemTables::correlation);
    tables.row(
        "stems with an overall score",
        all ->
            Tables.share(
                all.stream().flatMap(t -> t.stems().stream()).toList(),
                s -> !Double.isNaN(s.said().overall())));
  }

  private static String right(
      List<StemTrial> all,
      Predicate<String> role,
      BiPredicate<StemTrial.Judged, StemTrial.Judged> counted) {
    List<List<StemTrial.Judged>> sources = new ArrayList<>();
    for (StemTrial t : all) {
      for (String r : roles(all)) {
        if (role.test(r)) {
          sources.add(t.stems().stream().filter(s -> s.role().equals(r)).toList());
        }
      }
    }
    return Tables.right(sources, s -> s.said().overall(), s -> s.truth().sdr(), APART_DB, counted);
  }

  private static String correlation(List<StemTrial> all) {
    double sum = 0;
    int n = 0;
    for (StemTrial t : all) {
      for (String r : roles(all)) {
        double rho =
            Order.spearman(
                t.stems().stream()
                    .filter(s -> s.role().equals(r))
                    .map(s -> new double[] {-s.said().reading("bleed"), s.truth().sir()})
                    .filter(p -> Double.isFinite(p[0]))
                    .toList());
        if (Double.isFinite(rho)) {
          sum += rho;
          n++;
        }
      }
    }
    return String.format(Locale.ROOT, "%.2f over %d", sum / n, n);
  }

  private void leaks() {
    tables.head("True stems with known leakage of each other role, by the true stems", "leakage");
    for (double db : new double[] {-60, -40, -30, -20, -10}) {
      tables.row(
          String.format(Locale.ROOT, "%.0f dB: mean bleed", db),
          all -> Tables.two(mean(all, db)) + " dB");
    }
    tables.row("floor, mean", all -> Tables.two(floor(all)) + " dB");
    for (String axis : List.of("missed", "added", "lost")) {
      tables.row(
          "−60 dB: 99 or more on " + axis,
          all ->
              Tables.share(
                  all.stream()
                      .flatMap(t -> t.leaks().stream())
                      .filter(l -> l.db() == -60 && !Double.isNaN(l.said().axis(axis)))
                      .toList(),
                  l -> l.said().axis(axis) >= 99));
    }
  }

  private static double mean(List<StemTrial> all, double db) {
    return all.stream()
        .flatMap(t -> t.leaks().stream())
        .filter(l -> l.db() == db && Double.isFinite(l.bleed()))
        .mapToDouble(StemTrial.Leak::bleed)
        .average()
        .orElse(Double.NaN);
  }

  private static double floor(List<StemTrial> all) {
    return all.stream()
        .flatMap(t -> t.leaks().stream())
        .filter(l -> Double.isFinite(l.floor()))
        .mapToDouble(StemTrial.Leak::floor)
        .average()
        .orElse(Double.NaN);
  }
}
