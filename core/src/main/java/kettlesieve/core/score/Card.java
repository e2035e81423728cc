package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
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
 * @param axes scores of the axes that have the readings they stand on
 * @param parts what each of these scores is made of
 * @param overall over those axes; empty if there are fewer than two
 */
public record Card(
    Map<Axis, Estimate> axes, Map<Axis, List<Part>> parts, Optional<Estimate> overall) {

  private static final int FEWEST_AXES = 2;

  /**
   * A reading's part in the score of its axis.
   *
   * @param measure its id
   * @param score of the reading, 0 to 100
   * @param weight within the axis
   * @param share of the axis' squared shortfall that it makes, 0 to 1
   */
  public record Part(String measure, double score, double weight, double share) {}

  /** Works out the scores of a version's readings. */
  public static Card of(List<Reading> readings, Scoring scoring, Profile profile, Job job) {
    Map<Axis, Estimate> axes = new EnumMap<>(Axis.class);
    Map<Axis, List<Part>> made = new EnumMap<>(Axis.class);
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      List<Shortfall> parts = new ArrayList<>();
      List<String> names = new ArrayList<>();
      for (Reading reading : readings) {
        Declaration declaration = Measures.declaration(reading.measure());
        if (declaration == null || declaration.axis(job) != axis) {
          continue;
        }
        Optional<Scale> scale = scoring.scale(declaration, job);
        // A figure that is no number says nothing: it must not take the others' word away.
        if (scale.isPresent() && reading.figure().finite()) {
          Scale s = scale.get();
          parts.add(new Shortfall(reading.scored().map(x -> 100 - s.score(x)), s.weight()));
          names.add(reading.measure());
        }
      }
      if (!parts.isEmpty() && stands(axis, names, scoring, job)) {
        axes.put(axis, combined(parts));
        made.put(axis, parts(names, parts));
      }
    }
    return new Card(axes, made, overall(axes, profile));
  }

  private static Optional<Estimate> overall(Map<Axis, Estimate> axes, Profile profile) {
    List<Shortfall> parts = new ArrayList<>();
    axes.forEach(
        (axis, score) -> {
          double weight = profile.weight(axis.id());
          if (weight > 0) {
            parts.add(new Shortfall(score.map(x -> profile.shortfall(axis.id(), x)), weight));
          }
        });
    // One question answered is no judgement of the whole: a file of the right length and nothing in
    // it is not the best.
    boolean judged = !parts.isEmpty() && axes.size() >= FEWEST_AXES;
    return judged ? Optional.of(combined(parts)) : Optional.empty();
  }

  /**
   * The axes that others have and this has not: a question that could not be answered is no good
   * answer, and must not lift it.
   */
  Set<Axis> lacking(List<Card> others) {
    Set<Axis> lacking = EnumSet.noneOf(Axis.class);
    others.stream()
        .filter(c -> c.overall().isPresent())
        .forEach(c -> lacking.addAll(c.axes().keySet()));
    lacking.removeAll(axes.keySet());
    return overall.isEmpty() ? EnumSet.noneOf(Axis.class) : lacking;
  }

  /** Cards of versions that stand beside each other, each as it is placed among the others. */
  public static List<Card> placed(List<Card> cards) {
    return cards.stream().map(c -> c.placedAmong(cards)).toList();
  }

  /**
   * This card where it lacks an axis that others have: what could not be asked does not stand
   * before what answered. A silent file, half of one, or one in which nothing was found again would
   * otherwise win by its silence.
   */
  Card placedAmong(List<Card> others) {
    Set<Axis> lacking = lacking(others);
    if (lacking.isEmpty()) {
      return this;
    }
    Estimate least = overall.orElseThrow();
    for (Card other : others) {
      boolean whole = other.overall().isPresent() && other.axes().keySet().containsAll(lacking);
      if (whole && other.overall().get().value() < least.value()) {
        least = other.overall().get();
      }
    }
    return new Card(axes, parts, Optional.of(lower(overall.orElseThrow(), least)));
  }

  private static Estimate lower(Estimate a, Estimate b) {
    double[] draws = new double[Bootstrap.DRAWS];
    for (int d = 0; d < draws.length; d++) {
      draws[d] = Math.min(drawOrValue(a, d), drawOrValue(b, d));
    }
    return new Estimate(Math.min(a.value(), b.value()), draws);
  }

  /** Whether all readings are there without which an axis would only seem to have a score. */
  private static boolean stands(Axis axis, List<String> names, Scoring scoring, Job job) {
    return scoring.declarations(job).stream()
        .filter(d -> d.axis(job) == axis)
        .filter(d -> scoring.scale(d, job).map(Scale::needed).orElse(false))
        .allMatch(d -> names.contains(d.id()));
  }

  private record Shortfall(Estimate estimate, double weight) {}

  private static List<Part> parts(List<String> names, List<Shortfall> shortfalls) {
    double total = 0;
    for (Shortfall s : shortfalls) {
      total += WorstFirst.cost(s.estimate().value(), s.weight());
    }
    List<Part> parts = new ArrayList<>();
    for (int i = 0; i < names.size(); i++) {
      Shortfall s = shortfalls.get(i);
      double own = WorstFirst.cost(s.estimate().value(), s.weight());
      parts.add(
          new Part(
              names.get(i), 100 - s.estimate().value(), s.weight(), total > 0 ? own / total : 0));
    }
    parts.sort(java.util.Comparator.comparingDouble(p -> -p.share()));
    return List.copyOf(parts);
  }

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
    WorstFirst all = new WorstFirst();
    for (Shortfall part : parts) {
      all.add(of.applyAsDouble(part.estimate()), part.weight());
    }
    return all.score();
  }
}
