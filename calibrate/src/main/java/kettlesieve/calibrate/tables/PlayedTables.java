package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import java.util.stream.Stream;
import kettlesieve.calibrate.corpus.ScoreScene;
import kettlesieve.calibrate.trial.PlayedTrial;

/** How far the figures agree with what was played at the tempo or pitch that was asked for. */
public final class PlayedTables {
  private final PrintWriter out;
  private final Tables<PlayedTrial> tables;
  private final List<PlayedTrial> trials;

  /**
   * @param out receives the tables
   * @param trials of both halves
   */
  public PlayedTables(PrintWriter out, List<PlayedTrial> trials) {
    this.out = out;
    this.trials = trials;
    this.tables = new Tables<>(out, trials, t -> t.scene().half());
  }

  /** All tables. */
  public void print() {
    tables.head("Clear pairs in the right order, beside what was played", "material");
    tables.row("all", t -> order(t, (a, b) -> true));
    tables.row("without the true ones", t -> order(t, (a, b) -> !isTrue(a) && !isTrue(b)));
    for (ScoreScene.Kind kind : ScoreScene.Kind.values()) {
      if (trials.stream().anyMatch(t -> t.scene().kind() == kind)) {
        tables.row(kind.word(), t -> order(of(t, kind), (a, b) -> true));
      }
    }
    tables.row("said surely, and wrong", PlayedTables::surelyWrong);
    tables.head("What was played itself", "what");
    tables.row("first in its range", t -> share(t, PlayedTables::first));
    for (String axis : List.of("added", "lost", "missed")) {
      tables.row("98 or more on " + axis, t -> share(t, (trial, v) -> !(v.said().axis(axis) < 98)));
    }
    for (ScoreScene.Kind kind : ScoreScene.Kind.values()) {
      if (trials.stream().anyMatch(t -> t.scene().kind() == kind)) {
        tables.row(
            kind.word() + ": missed, added, lost, overall",
            t ->
                mean(of(t, kind), v -> v.said().axis("missed"))
                    + ", "
                    + mean(of(t, kind), v -> v.said().axis("added"))
                    + ", "
                    + mean(of(t, kind), v -> v.said().axis("lost"))
                    + ", "
                    + mean(of(t, kind), v -> v.said().overall()));
      }
    }
    readings();
    ways();
    out.flush();
  }

  private void readings() {
    tables.head("Readings of what was played itself: median, largest", "reading");
    List<String> ids =
        truths(trials).flatMap(v -> v.said().readings().keySet().stream()).distinct().toList();
    for (String id : ids) {
      tables.row(
          id,
          t -> {
            double[] all =
                truths(t)
                    .mapToDouble(v -> Math.abs(v.said().reading(id)))
                    .filter(Double::isFinite)
                    .sorted()
                    .toArray();
            return all.length == 0
                ? "–"
                : String.format(
                    Locale.ROOT,
                    "%.2f, %.2f over %d",
                    all[all.length / 2],
                    all[all.length - 1],
                    all.length);
          });
    }
  }

  private void ways() {
    tables.head("Mean overall score, and how far from what was played", "way");
    List<String> ways =
        trials.stream()
            .flatMap(t -> t.versions().stream())
            .map(PlayedTrial.Judged::way)
            .distinct()
            .toList();
    for (String way : ways) {
      tables.row(
          way,
          t -> {
            Predicate<PlayedTrial.Judged> own = v -> v.way().equals(way);
            return average(all(t).filter(own).mapToDouble(v -> v.said().overall()).toArray())
                + "; "
                + average(all(t).filter(own).mapToDouble(v -> v.truth().tone()).toArray())
                + " dB, "
                + average(all(t).filter(own).mapToDouble(v -> v.truth().time()).toArray())
                + " dB, "
                + average(all(t).filter(own).mapToDouble(v -> v.truth().attacks()).toArray());
          });
    }
  }

  private static boolean isTrue(PlayedTrial.Judged v) {
    return v.way().equals(PlayedTrial.TRUE);
  }

  private static Stream<PlayedTrial.Judged> all(List<PlayedTrial> trials) {
    return trials.stream().flatMap(t -> t.versions().stream());
  }

  private static Stream<PlayedTrial.Judged> truths(List<PlayedTrial> trials) {
    return all(trials).filter(PlayedTables::isTrue);
  }

  private static List<PlayedTrial> of(List<PlayedTrial> trials, ScoreScene.Kind kind) {
    return trials.stream().filter(t -> t.scene().kind() == kind).toList();
  }

  /** Two versions of one source by one amount. */
  private interface Counted {
    boolean test(PlayedTrial.Judged a, PlayedTrial.Judged b);
  }

  private static List<PlayedTrial.Judged[]> clear(List<PlayedTrial> trials, Counted counted) {
    List<PlayedTrial.Judged[]> pairs = new ArrayList<>();
    for (PlayedTrial trial : trials) {
      for (PlayedTrial.Judged a : trial.versions()) {
        for (PlayedTrial.Judged b : trial.versions()) {
          if (a.amount() == b.amount() && a.truth().against(b.truth()) > 0 && counted.test(a, b)) {
            pairs.add(new PlayedTrial.Judged[] {a, b});
          }
        }
      }
    }
    return pairs;
  }

  private static String order(List<PlayedTrial> trials, Counted counted) {
    List<PlayedTrial.Judged[]> pairs = clear(trials, counted);
    double right = 0;
    for (PlayedTrial.Judged[] pair : pairs) {
      double said = Math.signum(pair[0].said().overall() - pair[1].said().overall());
      right += Double.isNaN(said) ? 0 : (said + 1) / 2;
    }
    return pairs.isEmpty()
        ? "–"
        : String.format(Locale.ROOT, "%.1f %% of %d", 100 * right / pairs.size(), pairs.size());
  }

  private static String surelyWrong(List<PlayedTrial> trials) {
    int sure = 0;
    int wrong = 0;
    for (PlayedTrial.Judged[] pair : clear(trials, (a, b) -> true)) {
      int order = pair[0].said().against(pair[1].said());
      sure += order == 0 ? 0 : 1;
      wrong += order < 0 ? 1 : 0;
    }
    return wrong + " of " + sure;
  }

  private static boolean first(PlayedTrial trial, PlayedTrial.Judged v) {
    return trial.versions().stream()
        .filter(o -> o.amount() == v.amount())
        .noneMatch(o -> o.said().against(v.said()) > 0);
  }

  /** Asked of what was played itself. */
  private interface Asked {
    boolean test(PlayedTrial trial, PlayedTrial.Judged v);
  }

  private static String share(List<PlayedTrial> trials, Asked right) {
    int asked = 0;
    int yes = 0;
    for (PlayedTrial trial : trials) {
      for (PlayedTrial.Judged v : trial.versions()) {
        if (isTrue(v)) {
          asked++;
          yes += right.test(trial, v) ? 1 : 0;
        }
      }
    }
    return yes + " of " + asked;
  }

  private static String mean(
      List<PlayedTrial> trials, ToDoubleFunction<PlayedTrial.Judged> figure) {
    return average(truths(trials).mapToDouble(figure).toArray());
  }

  private static String average(double[] values) {
    return Arrays.stream(values).filter(Double::isFinite).average().stream()
        .mapToObj(x -> String.format(Locale.ROOT, "%.2f", x))
        .findFirst()
        .orElse("–");
  }
}
