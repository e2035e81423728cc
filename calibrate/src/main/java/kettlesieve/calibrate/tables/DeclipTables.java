package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiPredicate;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.ClipTrial;

/** How far the figures of declipped versions agree with the truth, in Markdown. */
public final class DeclipTables {
  private static final double APART_DB = 2;
  private static final double CONFIDENT_DB = 2;

  private final PrintWriter out;
  private final Tables<ClipTrial> tables;

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public DeclipTables(PrintWriter out, List<ClipTrial> trials) {
    this.out = out;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
  }

  /** All tables. */
  public void print() {
    order();
    neutral();
    out.flush();
  }

  private void order() {
    tables.head("Order right where the true SDR gains are over 2 dB apart", "pairs");
    both("all", t -> true, v -> true);
    both(
        "real repairs and the source",
        t -> true,
        v -> v.kind() == Maker.Kind.REAL || v.kind() == Maker.Kind.UNTOUCHED);
    for (int sdr : new int[] {15, 10, 7, 3}) {
      both("clipped to " + sdr + " dB", t -> t.scene().sdrDb() == sdr, v -> true);
    }
    for (String kind : List.of("voice", "music", "drums", "bass", "other")) {
      both(kind, t -> t.scene().kind().equals(kind), v -> true);
    }
    Set<String> makers = new TreeSet<>();
    tables.row(
        "est-delta-sdr minus the true gain, dB: mean, deviation",
        all -> {
          double sum = 0;
          double squares = 0;
          int n = 0;
          for (ClipTrial t : all) {
            for (ClipTrial.Judged v : t.versions()) {
              makers.add(v.maker());
              double d = nearness(v) - v.deltaSdrOverall();
              if (Double.isFinite(d) && v.kind() == Maker.Kind.REAL) {
                sum += d;
                squares += d * d;
                n++;
              }
            }
          }
          double mean = sum / n;
          return String.format(
              Locale.ROOT, "%.2f, %.2f of %d", mean, Math.sqrt(squares / n - mean * mean), n);
        });
    for (String maker : makers) {
      tables.row(
          "with " + maker + ", overall",
          all ->
              right(
                  all.stream().map(ClipTrial::versions).toList(),
                  DeclipTables::place,
                  (a, b) -> a.maker().equals(maker) || b.maker().equals(maker)));
    }
  }

  private void both(
      String what, Predicate<ClipTrial> trials, Predicate<ClipTrial.Judged> versions) {
    row(what + ", by est-delta-sdr", trials, versions, DeclipTables::nearness, true);
    row(
        what + ", by est-delta-sdr, against clipped samples alone",
        trials,
        versions,
        DeclipTables::nearness,
        false);
    row(what + ", by overall", trials, versions, DeclipTables::place, false);
  }

  private void row(
      String what,
      Predicate<ClipTrial> trials,
      Predicate<ClipTrial.Judged> versions,
      ToDoubleFunction<ClipTrial.Judged> said,
      boolean overall) {
    tables.row(
        what,
        all ->
            Tables.right(
                all.stream()
                    .filter(trials)
                    .map(t -> t.versions().stream().filter(versions).toList())
                    .toList(),
                said,
                v -> Math.min(60, overall ? v.deltaSdrOverall() : v.deltaSdr()),
                APART_DB,
                (a, b) -> true));
  }

  private static double nearness(ClipTrial.Judged v) {
    return v.said().reading("est-delta-sdr");
  }

  /** As the sheet ranks: equal scores go by nearness. */
  private static double place(ClipTrial.Judged v) {
    double near = nearness(v);
    return v.said().overall() + (Double.isFinite(near) ? 1e-9 * near : 0);
  }

  private static String right(
      List<List<ClipTrial.Judged>> sources,
      ToDoubleFunction<ClipTrial.Judged> said,
      BiPredicate<ClipTrial.Judged, ClipTrial.Judged> counted) {
    return Tables.right(sources, said, v -> Math.min(60, v.deltaSdr()), APART_DB, counted);
  }

  private void neutral() {
    tables.head("Neutral cases", "case");
    for (String axis : List.of("added", "lost")) {
      tables.row(
          "untouched: 99 or more on " + axis,
          t -> Tables.share(t, x -> at(x, "untouched", axis) >= 99));
      tables.row(
          "original: 99 or more on " + axis,
          t -> Tables.share(t, x -> at(x, "original", axis) >= 99));
    }
    tables.row(
        "original among the first (within a point)", t -> Tables.share(t, DeclipTables::first));
    tables.row(
        "the same for voices where the estimates agree to 2 dB",
        t ->
            Tables.share(
                t.stream()
                    .filter(x -> x.scene().kind().equals("voice"))
                    .filter(
                        x -> x.version("untouched").orElseThrow().confidenceDb() >= CONFIDENT_DB)
                    .toList(),
                DeclipTables::first));
    tables.row(
        "sources on which the estimates disagree",
        t ->
            Tables.share(
                t, x -> !(x.version("untouched").orElseThrow().confidenceDb() >= CONFIDENT_DB)));
  }

  private static double at(ClipTrial t, String maker, String axis) {
    return t.version(maker).orElseThrow().said().axis(axis);
  }

  private static boolean first(ClipTrial t) {
    double best = t.versions().stream().mapToDouble(v -> v.said().overall()).max().orElse(0);
    return t.version("original").orElseThrow().said().overall() >= best - 1;
  }
}
