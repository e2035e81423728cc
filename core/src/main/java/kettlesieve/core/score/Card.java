package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;

/**
 * The scores of one version. An axis is 100 minus the weighted root mean square of its measures'
 * shortfalls, so the worst flaw weighs most; the overall score is the same over the axes, with the
 * weights and tolerances of the profile. Every score carries its bootstrap draws.
 *
 * @param axes scores of the axes that have a measurable reading
 * @param overall over those axes; empty if there is none
 */
public record Card(Map<Axis, Estimate> axes, Optional<Estimate> overall) {

  /** Works out the scores of a version's readings. */
  public static Card of(List<Reading> readings, Scoring scoring, Profile profile) {
    Map<Axis, Estimate> axes = new EnumMap<>(Axis.class);
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      List<Shortfall> parts = new ArrayList<>();
      for (Reading reading : readings) {
        Declaration declaration = Measures.declaration(reading.measure());
        Optional<Scale> scale = scoring.scale(reading.measure());
        if (declaration != null && declaration.axis() == axis && scale.isPresent()) {
          Scale s = scale.get();
          parts.add(new Shortfall(reading.scored().map(x -> 100 - s.score(x)), s.weight()));
        }
      }
      if (!parts.isEmpty()) {
        axes.put(axis, combined(parts));
      }
    }
    List<Shortfall> parts = new ArrayList<>();
    axes.forEach(
        (axis, score) ->
            parts.add(
                new Shortfall(score.map(x -> profile.shortfall(axis, x)), profile.weight(axis))));
    return new Card(axes, parts.isEmpty() ? Optional.empty() : Optional.of(combined(parts)));
  }

  private record Shortfall(Estimate estimate, double weight) {}

  private static Estimate combined(List<Shortfall> parts) {
    double[] draws = new double[Bootstrap.DRAWS];
    for (int d = 0; d < draws.length; d++) {
      int draw = d;
      draws[d] = score(parts, e -> drawOrValue(e, draw));
    }
    return new Estimate(score(parts, Estimate::value), draws);
  }

  /** A draw that held none of a measure's data says nothing new of it: its value stands. */
  private static double drawOrValue(Estimate e, int draw) {
    return Double.isFinite(e.draws()[draw]) ? e.draws()[draw] : e.value();
  }

  private static double score(
      List<Shortfall> parts, java.util.function.ToDoubleFunction<Estimate> of) {
    double sum = 0;
    double weights = 0;
    for (Shortfall part : parts) {
      double shortfall = of.applyAsDouble(part.estimate());
      sum += part.weight() * shortfall * shortfall;
      weights += part.weight();
    }
    return 100 - Math.sqrt(sum / weights);
  }
}
