package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.measure.Trace;

/**
 * Two versions set against each other: on which axis and in which reading they differ most, and
 * where.
 *
 * @param axes differences of the axes, the largest first
 * @param readings differences of the scored readings, the largest in points first
 */
public record Contrast(List<AxisDifference> axes, List<Difference> readings) {
  private static final double PLACE_SECONDS = 0.5;
  private static final int MOST_PLACES = 5;

  /**
   * Points by which the first is better (+) or worse (−) than the second on an axis.
   *
   * @param sure whether the paired interval leaves out zero
   */
  public record AxisDifference(Axis axis, double points, double low, double high, boolean sure) {}

  /**
   * The same of one reading.
   *
   * @param first its value in the first version, in the measure's unit
   * @param second in the second
   * @param places where the two traces differ most in the direction of the whole, worst first;
   *     {@code value} is the difference of the traces, first minus second
   */
  public record Difference(
      String measure,
      double first,
      double second,
      double points,
      double low,
      double high,
      boolean sure,
      List<Spot> places) {}

  /** Compares two versions of a sheet. */
  public static Contrast of(ScoreSheet sheet, Entry first, Entry second) {
    List<AxisDifference> axes = new ArrayList<>();
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      Estimate a = first.card().axes().get(axis);
      Estimate b = second.card().axes().get(axis);
      if (a != null && b != null) {
        Estimate difference = a.minus(b);
        boolean sure = ScoreSheet.compare(a, b) != 0;
        axes.add(
            new AxisDifference(
                axis, a.value() - b.value(), difference.low(), difference.high(), sure));
      }
    }
    axes.sort(Comparator.comparingDouble(d -> -Math.abs(d.points())));
    List<Difference> readings = new ArrayList<>();
    for (Reading a : first.taken().readings()) {
      difference(sheet, a, second.reading(a.measure())).ifPresent(readings::add);
    }
    readings.sort(Comparator.comparingDouble(d -> -Math.abs(d.points())));
    return new Contrast(List.copyOf(axes), List.copyOf(readings));
  }

  private static Optional<Difference> difference(
      ScoreSheet sheet, Reading a, Optional<Reading> other) {
    Declaration declaration = Measures.declaration(a.measure());
    Job job = sheet.job();
    if (other.isEmpty() || declaration == null) {
      return Optional.empty();
    }
    Optional<Scale> scale = sheet.scoring().scale(declaration, job);
    if (scale.isEmpty()) {
      return Optional.empty();
    }
    Reading b = other.get();
    Estimate scoreA = a.scored().map(scale.get()::score);
    Estimate scoreB = b.scored().map(scale.get()::score);
    Estimate points = scoreA.minus(scoreB);
    return Optional.of(
        new Difference(
            a.measure(),
            a.value(),
            b.value(),
            points.value(),
            points.low(),
            points.high(),
            ScoreSheet.compare(scoreA, scoreB) != 0,
            places(a, b)));
  }

  /** The half seconds in which the traces lie furthest apart. */
  private static List<Spot> places(Reading a, Reading b) {
    Trace first = a.trace();
    Trace second = b.trace();
    double sign = Math.signum(a.scored().value() - b.scored().value());
    List<Spot> all = new ArrayList<>();
    int j = 0;
    for (int i = 0; i < first.seconds().length; i++) {
      while (j + 1 < second.seconds().length
          && second.seconds()[j + 1] <= first.seconds()[i] + 1e-6) {
        j++;
      }
      if (second.seconds().length == 0
          || Math.abs(second.seconds()[j] - first.seconds()[i]) > 1e-3) {
        continue;
      }
      double difference = first.values()[i] - second.values()[j];
      if (Double.isFinite(difference) && (sign == 0 || difference * sign > 0)) {
        double at = first.seconds()[i];
        all.add(new Spot(at - PLACE_SECONDS / 2, at + PLACE_SECONDS / 2, 20, 20_000, difference));
      }
    }
    all.sort(Comparator.comparingDouble(s -> -Math.abs(s.value())));
    List<Spot> apart = new ArrayList<>();
    for (Spot spot : all) {
      if (apart.size() < MOST_PLACES
          && apart.stream().noneMatch(s -> Math.abs(s.from() - spot.from()) < 2 * PLACE_SECONDS)) {
        apart.add(spot);
      }
    }
    return apart;
  }
}
