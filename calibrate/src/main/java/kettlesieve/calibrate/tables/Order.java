package kettlesieve.calibrate.tables;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalDouble;
import java.util.function.BiPredicate;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;

/**
 * How often a score says the same of two versions as the truth, over the pairs of which the truth
 * is clear. Equal scores count half; a version without a score cannot be right.
 *
 * @param right pairs in the right order
 * @param clear all pairs of which the truth is clear
 */
record Order(double right, int clear) {
  /** How a version is scored. */
  interface Scorer extends Function<Trial.Judged, OptionalDouble> {}

  double share() {
    return clear == 0 ? Double.NaN : right / clear;
  }

  String text() {
    return clear == 0
        ? "–"
        : String.format(java.util.Locale.ROOT, "%.1f %% of %d", 100 * share(), clear);
  }

  static boolean ideal(Trial.Judged v) {
    return v.kind() == Maker.Kind.IDEAL;
  }

  /** Over all pairs. */
  static Order of(List<Trial> trials, Scorer scorer) {
    return of(trials, scorer, (a, b) -> true);
  }

  /** Over the pairs without the versions that no processor could make. */
  static Order withoutIdeal(List<Trial> trials, Scorer scorer) {
    return of(trials, scorer, (a, b) -> !ideal(a) && !ideal(b));
  }

  static Order of(
      List<Trial> trials, Scorer scorer, BiPredicate<Trial.Judged, Trial.Judged> counted) {
    double right = 0;
    int clear = 0;
    for (Trial trial : trials) {
      List<Trial.Judged> all = trial.versions();
      OptionalDouble[] scores = all.stream().map(scorer).toArray(OptionalDouble[]::new);
      for (int i = 0; i < all.size(); i++) {
        for (int j = 0; j < i; j++) {
          int truth = all.get(i).truth().against(all.get(j).truth());
          if (truth == 0 || !counted.test(all.get(i), all.get(j))) {
            continue;
          }
          clear++;
          if (scores[i].isPresent() && scores[j].isPresent()) {
            double said = Math.signum(scores[i].getAsDouble() - scores[j].getAsDouble());
            right += said == truth ? 1 : said == 0 ? 0.5 : 0;
          }
        }
      }
    }
    return new Order(right, clear);
  }

  /** Mean over trials of Spearman's rank correlation between two figures of the versions. */
  static double correlation(
      List<Trial> trials, Scorer first, ToDoubleFunction<Trial.Judged> second) {
    double sum = 0;
    int count = 0;
    for (Trial trial : trials) {
      List<double[]> both = new ArrayList<>();
      for (Trial.Judged v : trial.versions()) {
        OptionalDouble a = first.apply(v);
        double b = second.applyAsDouble(v);
        if (a.isPresent() && Double.isFinite(b)) {
          both.add(new double[] {a.getAsDouble(), b});
        }
      }
      double r = spearman(both);
      if (Double.isFinite(r)) {
        sum += r;
        count++;
      }
    }
    return count == 0 ? Double.NaN : sum / count;
  }

  /** Spearman's rank correlation of pairs; NaN for fewer than four. */
  static double spearman(List<double[]> both) {
    if (both.size() < 4) {
      return Double.NaN;
    }
    double[] a = ranks(both.stream().mapToDouble(p -> p[0]).toArray());
    double[] b = ranks(both.stream().mapToDouble(p -> p[1]).toArray());
    double middle = (a.length - 1) / 2.0;
    double ab = 0;
    double aa = 0;
    double bb = 0;
    for (int i = 0; i < a.length; i++) {
      ab += (a[i] - middle) * (b[i] - middle);
      aa += (a[i] - middle) * (a[i] - middle);
      bb += (b[i] - middle) * (b[i] - middle);
    }
    return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : Double.NaN;
  }

  /** Ranks from 0, equal values share their mean. */
  static double[] ranks(double[] values) {
    Integer[] order = new Integer[values.length];
    for (int i = 0; i < order.length; i++) {
      order[i] = i;
    }
    java.util.Arrays.sort(order, Comparator.comparingDouble(i -> values[i]));
    double[] ranks = new double[values.length];
    for (int i = 0; i < order.length; ) {
      int end = i;
      while (end < order.length && values[order[end]] == values[order[i]]) {
        end++;
      }
      for (int k = i; k < end; k++) {
        ranks[order[k]] = (i + end - 1) / 2.0;
      }
      i = end;
    }
    return ranks;
  }

  /** The mean rank by the three overall truths, within the trial of each version. */
  static ToDoubleFunction<Trial.Judged> overallTruth(List<Trial> trials) {
    java.util.Map<Trial.Judged, Double> means = new java.util.IdentityHashMap<>();
    for (Trial trial : trials) {
      List<Trial.Judged> all = trial.versions();
      double[] a = ranks(all.stream().mapToDouble(v -> v.truth().siSdr()).toArray());
      double[] b = ranks(all.stream().mapToDouble(v -> v.truth().stoi()).toArray());
      double[] c = ranks(all.stream().mapToDouble(v -> v.truth().fwSegSnr()).toArray());
      for (int i = 0; i < a.length; i++) {
        means.put(all.get(i), (a[i] + b[i] + c[i]) / 3);
      }
    }
    return means::get;
  }
}
