package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;

/** How far the figures of denoised versions agree with the truth, in Markdown. */
public final class DenoiseTables {
  private static final String NO_PAUSES = "pauses: ";

  private final PrintWriter out;
  private final List<Trial> setting;
  private final List<Trial> reporting;
  private final Tables<Trial> tables;
  private final Weighing shipped = Weighing.shipped(Job.DENOISE);

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public DenoiseTables(PrintWriter out, List<Trial> trials) {
    this.out = out;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
    this.setting = tables.setting();
    this.reporting = tables.reporting();
  }

  /** All tables. */
  public void print() {
    order();
    axes();
    neutral();
    pauses();
    if (reporting.stream().noneMatch(t -> t.versions().get(0).halves().isEmpty())) {
      intervals();
    }
    single();
    out.flush();
  }

  private static OptionalDouble overall(Trial.Judged v) {
    return v.overall() == null ? OptionalDouble.empty() : OptionalDouble.of(v.overall().value());
  }

  private void head(String title, String first) {
    tables.head(title, first);
  }

  private void row(String what, Function<List<Trial>, String> of) {
    tables.row(what, of);
  }

  private void order() {
    head("Order right in clear pairs", "pairs");
    row("all", t -> Order.of(t, DenoiseTables::overall).text());
    row("without ideal versions", t -> Order.withoutIdeal(t, DenoiseTables::overall).text());
    row(
        "rank correlation with the truth, mean",
        t -> Tables.two(Order.correlation(t, DenoiseTables::overall, Order.overallTruth(t))));
    if (!setting.isEmpty()) {
      TruthScore truths = new TruthScore(setting);
      row(
          "the same if its own truth answered every question",
          t -> Tables.two(truths.correlation(t)));
      row("and the pairs", t -> truths.order(t).text());
    }
    by("noise", t -> t.scene().kind());
    by("voice", t -> t.scene().voice());
    by("level", t -> String.format(Locale.ROOT, "%2d dB", t.scene().snrDb()));
    Set<String> makers = new TreeSet<>();
    for (Trial t : reporting) {
      t.versions().forEach(v -> makers.add(v.maker()));
    }
    for (String maker : makers) {
      row(
          "with " + maker,
          t ->
              Order.of(
                      t,
                      DenoiseTables::overall,
                      (a, b) -> a.maker().equals(maker) || b.maker().equals(maker))
                  .text());
    }
  }

  private void by(String what, Function<Trial, String> group) {
    Set<String> groups = new TreeSet<>();
    setting.forEach(t -> groups.add(group.apply(t)));
    reporting.forEach(t -> groups.add(group.apply(t)));
    for (String g : groups) {
      row(
          what + " " + g,
          all ->
              Order.of(
                      all.stream().filter(t -> group.apply(t).equals(g)).toList(),
                      DenoiseTables::overall)
                  .text());
    }
  }

  private void axes() {
    head("Each question against its truth: rank correlation, mean over sources", "question");
    axis("Missed against noise left", Axis.MISSED, v -> -v.truth().noiseLeft());
    axis("Missed against SIR", Axis.MISSED, v -> v.truth().sir());
    axis("Added against SAR", Axis.ADDED, v -> v.truth().sar());
    axis("Added against artifacts", Axis.ADDED, v -> -v.truth().artifacts());
    axis("Lost against distortion of the speech", Axis.LOST, v -> v.truth().wantedDistortion());
    axis("Lost against STOI", Axis.LOST, v -> v.truth().stoi());
  }

  private void axis(String what, Axis axis, ToDoubleFunction<Trial.Judged> truth) {
    row(
        what,
        t ->
            Tables.two(
                Order.correlation(
                    t,
                    v -> {
                      Trial.Score s = v.axes().get(axis.id());
                      return s == null ? OptionalDouble.empty() : OptionalDouble.of(s.value());
                    },
                    truth)));
  }

  private void neutral() {
    head("Neutral cases", "case");
    row("the clean recording has first place", t -> share(t, "clean", v -> v.rank() == 1));
    for (Axis axis : List.of(Axis.ADDED, Axis.LOST)) {
      for (String maker : List.of("clean", "partial-14")) {
        row(
            maker + ": 98 or more on " + axis.id(),
            t -> share(t, maker, v -> at(v, axis) >= 98) + ", least " + least(t, maker, axis));
      }
      row(
          "untouched: 99 or more on " + axis.id(),
          t ->
              share(t, "untouched", v -> at(v, axis) >= 99)
                  + ", least "
                  + least(t, "untouched", axis));
    }
    for (String maker : List.of("clean", "partial-14", "untouched")) {
      row("readings that cost " + maker + " points, sources", t -> costs(t, maker));
    }
  }

  private static double at(Trial.Judged v, Axis axis) {
    Trial.Score s = v.axes().get(axis.id());
    return s == null ? Double.NaN : s.value();
  }

  private static String share(List<Trial> trials, String maker, Predicate<Trial.Judged> test) {
    int of = 0;
    int yes = 0;
    for (Trial t : trials) {
      Trial.Judged v = t.version(maker).orElseThrow();
      of++;
      yes += v.overall() != null && test.test(v) ? 1 : 0;
    }
    return yes + " of " + of;
  }

  private static String least(List<Trial> trials, String maker, Axis axis) {
    return Tables.two(
        trials.stream()
            .mapToDouble(t -> at(t.version(maker).orElseThrow(), axis))
            .filter(Double::isFinite)
            .min()
            .orElse(Double.NaN));
  }

  private String costs(List<Trial> trials, String maker) {
    Map<String, Integer> count = new TreeMap<>();
    for (Trial t : trials) {
      Trial.Judged v = t.version(maker).orElseThrow();
      shipped
          .scales()
          .forEach(
              (id, scale) -> {
                Trial.Figure f = v.readings().get(id);
                boolean harm = shipped.axes().get(id) != Axis.MISSED;
                if (harm && f != null && scale.score(f.scored()) < 98) {
                  count.merge(id, 1, Integer::sum);
                }
              });
    }
    List<String> words = new ArrayList<>();
    count.forEach((id, n) -> words.add(id + " " + n));
    return String.join(", ", words);
  }

  private void pauses() {
    head("Pauses", "sources");
    row(
        "scored without marks",
        t ->
            t.stream().filter(x -> x.version("untouched").orElseThrow().axes().size() == 3).count()
                + " of "
                + t.size());
    Set<String> kinds = new TreeSet<>();
    setting.forEach(t -> kinds.add(t.scene().kind()));
    reporting.forEach(t -> kinds.add(t.scene().kind()));
    for (String kind : kinds) {
      row(
          kind + ": told of",
          all -> {
            List<Trial> own = all.stream().filter(t -> t.scene().kind().equals(kind)).toList();
            long told =
                own.stream()
                    .filter(t -> t.notices().stream().anyMatch(n -> n.startsWith(NO_PAUSES)))
                    .count();
            return own.isEmpty() ? "–" : told + " of " + own.size();
          });
    }
  }

  private void intervals() {
    head("First half against second half: within both intervals", "reading");
    Set<String> ids = new TreeSet<>();
    reporting.forEach(t -> t.versions().forEach(v -> ids.addAll(v.readings().keySet())));
    row("all that are scored", t -> within(t, shipped.scales().keySet()));
    for (String id : ids) {
      row(id, t -> within(t, Set.of(id)));
    }
  }

  /** Of the halves that differ in what is scored: those whose difference the intervals cover. */
  private static String within(List<Trial> trials, Set<String> ids) {
    int of = 0;
    int inside = 0;
    for (Trial t : trials) {
      for (Trial.Judged v : t.versions()) {
        for (String id : v.halves().isEmpty() ? Set.<String>of() : ids) {
          Trial.Figure a = v.halves().get(0).get(id);
          Trial.Figure b = v.halves().get(1).get(id);
          if (a == null || b == null || a.scored() == b.scored()) {
            continue;
          }
          Trial.Figure upper = a.scored() > b.scored() ? a : b;
          Trial.Figure lower = a.scored() > b.scored() ? b : a;
          double down = upper.scored() - upper.scoredLow();
          double up = lower.scoredHigh() - lower.scored();
          of++;
          inside += upper.scored() - lower.scored() <= Math.sqrt(down * down + up * up) ? 1 : 0;
        }
      }
    }
    return Tables.percent(inside, of);
  }

  private void single() {
    head("What each reading gives alone, and what leaving it out gives", "reading");
    row("all, as scored", t -> Order.of(t, shipped::overall).text());
    for (String id : new LinkedHashMap<>(shipped.scales()).keySet()) {
      row(id + " alone", t -> Order.of(t, shipped.only(Set.of(id))::overall).text());
      row("without " + id, t -> Order.of(t, shipped.without(id)::overall).text());
    }
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      Set<String> own = new TreeSet<>();
      shipped
          .axes()
          .forEach(
              (id, a) -> {
                if (a == axis) {
                  own.add(id);
                }
              });
      row(axis.id() + " alone", t -> Order.of(t, shipped.only(own)::overall).text());
    }
    row(
        "real processors only",
        t ->
            Order.of(
                    t,
                    shipped::overall,
                    (a, b) -> a.kind() == Maker.Kind.REAL && b.kind() == Maker.Kind.REAL)
                .text());
  }
}
