package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.score.Scale;

/**
 * Looks for scales and weights on the setting half: one figure after another is moved by a step,
 * and stays moved where that serves; steps get smaller. What is looked for: the order right, with
 * and without the ideal versions, every question in the order of its truth, and full marks on Added
 * and Lost for what did no harm. Straight scales and weights over 0 only.
 */
public final class ScaleSearch {
  private static final double[] STEPS = {0.4, 0.2, 0.1};
  private static final double LEAST_WEIGHT = 0.1;
  private static final double MOST_WEIGHT = 4;

  private final List<Trial> setting;
  private final List<Trial> reporting;

  /**
   * @param trials of both halves; only those of the setting half are searched
   */
  public ScaleSearch(List<Trial> trials) {
    setting = trials.stream().filter(t -> t.scene().half() == Half.SETTING).toList();
    reporting = trials.stream().filter(t -> t.scene().half() == Half.REPORTING).toList();
  }

  /** Searches and prints what was found beside what is shipped. */
  public void print(PrintWriter out) {
    Weighing shipped = Weighing.shipped(Job.DENOISE);
    Weighing best = climb(shipped, this::gain);
    out.println();
    out.println("### Scales and weights");
    out.println();
    out.println("| reading | 100 / 0, weight as shipped | found on the setting half |");
    out.println("|---|---|---|");
    for (Map.Entry<String, Scale> e : shipped.scales().entrySet()) {
      out.println(
          "| "
              + e.getKey()
              + " | "
              + text(e.getValue())
              + " | "
              + text(best.scales().get(e.getKey()))
              + " |");
    }
    out.println();
    out.println("| order right | setting half | reporting half |");
    out.println("|---|---|---|");
    orders(out, "as shipped", shipped);
    orders(out, "as found", best);
    out.flush();
  }

  private void orders(PrintWriter out, String what, Weighing w) {
    out.println(
        "| "
            + what
            + " | "
            + Order.of(setting, w::overall).text()
            + " | "
            + Order.of(reporting, w::overall).text()
            + " |");
    out.println(
        "| "
            + what
            + ", without ideal versions | "
            + Order.withoutIdeal(setting, w::overall).text()
            + " | "
            + Order.withoutIdeal(reporting, w::overall).text()
            + " |");
  }

  private static String text(Scale s) {
    return String.format(Locale.ROOT, "%.2f / %.2f, %.2f", s.full(), s.zero(), s.weight());
  }

  /** Moves scales and weights as long as that serves. */
  static Weighing climb(Weighing from, ToDoubleFunction<Weighing> serves) {
    Weighing best = from;
    double gain = serves.applyAsDouble(best);
    for (double step : STEPS) {
      boolean moved = true;
      for (int round = 0; moved && round < 6; round++) {
        moved = false;
        for (String id : from.scales().keySet()) {
          for (int way = 0; way < 6; way++) {
            Scale tried = moved(best.scales().get(id), way, step);
            if (tried == null) {
              continue;
            }
            Weighing with = best.with(id, tried);
            double then = serves.applyAsDouble(with);
            if (then > gain + 1e-5) {
              best = with;
              gain = then;
              moved = true;
            }
          }
        }
      }
    }
    return best;
  }

  private static Scale moved(Scale s, int way, double step) {
    double span = s.zero() - s.full();
    double weight =
        Math.max(
            LEAST_WEIGHT,
            Math.min(
                MOST_WEIGHT, s.weight() * (way == 4 ? 1 + step : way == 5 ? 1 / (1 + step) : 1)));
    double full = s.full() + (way == 0 ? step : way == 1 ? -step : 0) * span * 0.5;
    double zero = s.zero() + (way == 2 ? step : way == 3 ? -step : 0) * span;
    return (zero - full) * span <= 0 ? null : new Scale(full, zero, weight, s.needed());
  }

  private double gain(Weighing w) {
    double order = Order.of(setting, w::overall).share();
    double real = Order.withoutIdeal(setting, w::overall).share();
    double harmless = 0;
    int cases = 0;
    for (Trial t : setting) {
      for (Trial.Judged v : t.versions()) {
        if (v.kind() == Maker.Kind.IDEAL || v.kind() == Maker.Kind.UNTOUCHED) {
          Map<Axis, Double> axes = w.axes(v);
          for (Axis axis : List.of(Axis.ADDED, Axis.LOST)) {
            Double score = axes.get(axis);
            if (score != null) {
              harmless += Math.min(1, Math.max(0, (score - 88) / 10));
              cases++;
            }
          }
        }
      }
    }
    double lost = axis(w, Axis.LOST, v -> v.truth().wantedDistortion());
    double added = axis(w, Axis.ADDED, v -> v.truth().sar());
    double missed = axis(w, Axis.MISSED, v -> -v.truth().noiseLeft());
    return order + real + 0.6 * harmless / Math.max(1, cases) + 0.15 * (lost + added + missed);
  }

  private double axis(Weighing w, Axis axis, ToDoubleFunction<Trial.Judged> truth) {
    double rank =
        Order.correlation(
            setting,
            v -> {
              Double score = w.axes(v).get(axis);
              return score == null
                  ? java.util.OptionalDouble.empty()
                  : java.util.OptionalDouble.of(score);
            },
            truth);
    // A question that tells no version apart has no rank correlation: nothing gained, nothing lost.
    return Double.isNaN(rank) ? 0 : rank;
  }
}
