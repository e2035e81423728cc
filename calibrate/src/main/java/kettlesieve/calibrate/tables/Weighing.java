package kettlesieve.calibrate.tables;

import java.util.EnumMap;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.Scoring;

/**
 * Scores from the values of readings alone, so that scales and weights can be tried without
 * measuring again. The same arithmetic as the program's cards, all questions alike.
 *
 * @param scales by measure
 * @param axes the question each answers
 */
record Weighing(Map<String, Scale> scales, Map<String, Axis> axes) {

  /** As shipped. */
  static Weighing shipped(Job job) {
    Map<String, Scale> scales = new LinkedHashMap<>();
    Map<String, Axis> axes = new LinkedHashMap<>();
    for (Declaration d : Scoring.shipped().declarations(job)) {
      Scoring.shipped()
          .scale(d, job)
          .ifPresent(
              s -> {
                scales.put(d.id(), s);
                axes.put(d.id(), d.axis(job));
              });
    }
    return new Weighing(scales, axes);
  }

  Weighing without(String measure) {
    Map<String, Scale> fewer = new LinkedHashMap<>(scales);
    fewer.remove(measure);
    return new Weighing(fewer, axes);
  }

  Weighing with(String measure, Scale scale) {
    Map<String, Scale> changed = new LinkedHashMap<>(scales);
    changed.put(measure, scale);
    return new Weighing(changed, axes);
  }

  Weighing only(Set<String> measures) {
    Map<String, Scale> fewer = new LinkedHashMap<>(scales);
    fewer.keySet().retainAll(measures);
    return new Weighing(fewer, axes);
  }

  /** Scores of the axes; those without a reading are missing. */
  Map<Axis, Double> axes(Trial.Judged version) {
    Map<Axis, double[]> sums = new EnumMap<>(Axis.class);
    Set<Axis> without = EnumSet.noneOf(Axis.class);
    scales.forEach(
        (id, scale) -> {
          Trial.Figure figure = version.readings().get(id);
          if (figure == null && scale.needed()) {
            without.add(axes.get(id));
          }
          if (figure != null && Double.isFinite(figure.scored())) {
            double shortfall = 100 - scale.score(figure.scored());
            double[] sum = sums.computeIfAbsent(axes.get(id), a -> new double[2]);
            sum[0] += scale.weight() * shortfall * shortfall;
            sum[1] += scale.weight();
          }
        });
    sums.keySet().removeAll(without);
    Map<Axis, Double> scores = new EnumMap<>(Axis.class);
    sums.forEach((axis, sum) -> scores.put(axis, 100 - Math.sqrt(sum[0] / sum[1])));
    return scores;
  }

  /** The overall score; empty where there is none. */
  OptionalDouble overall(Trial.Judged version) {
    Map<Axis, Double> own = axes(version);
    if (own.isEmpty()) {
      return OptionalDouble.empty();
    }
    double sum = 0;
    for (double score : own.values()) {
      sum += (100 - score) * (100 - score);
    }
    return OptionalDouble.of(100 - Math.sqrt(sum / own.size()));
  }
}
