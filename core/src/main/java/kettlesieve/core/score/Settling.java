package kettlesieve.core.score;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.odds.Odds;
import kettlesieve.core.score.odds.Validity;

/**
 * The first two of a ranking, how sure their order is, and what would settle it.
 *
 * @param first the row that leads: the best that could be chosen
 * @param second the row that follows
 * @param points by which it leads
 * @param chance that it is truly better
 * @param told whether the recording itself tells them apart: the paired interval leaves out zero
 * @param seconds how much was measured
 * @param more how many more seconds at today's scatter would bring the odds to {@link
 *     Validity#SURE}; empty if no length would, for figures of this kind miss the truth by as much
 * @param reading in which the two differ most against its own uncertainty; empty if in none
 * @param excerpt in which they do, of several; empty with one
 */
public record Settling(
    Entry first,
    Entry second,
    double points,
    double chance,
    boolean told,
    double seconds,
    OptionalDouble more,
    Optional<Contrast.Difference> reading,
    Optional<String> excerpt) {
  /** Under this no reading tells two versions apart. */
  private static final double LEAST_RATIO = 1;

  /** Of a sheet; empty with fewer than two versions that have a score and could be chosen. */
  public static Optional<Settling> of(ScoreSheet sheet, Comparison comparison) {
    return of(sheet, Part.ALL, seconds(sheet, comparison));
  }

  /**
   * Of a part of a sheet.
   *
   * @param seconds how much was measured
   */
  public static Optional<Settling> of(ScoreSheet sheet, Part part, double seconds) {
    List<Entry> made =
        sheet.contenders(part).stream().filter(e -> !e.version().sourceItself()).toList();
    if (made.size() < 2) {
      return Optional.empty();
    }
    Entry first = made.get(0);
    Entry second = made.get(1);
    SheetOdds odds = SheetOdds.of(sheet, part);
    Estimate a = first.card().overall().orElseThrow();
    Estimate b = second.card().overall().orElseThrow();
    double deviation = Odds.deviation(a.minus(b));
    double points = a.value() - b.value();
    return Optional.of(
        new Settling(
            first,
            second,
            points,
            odds.better(first.version().id(), second.version().id()).orElse(0.5),
            ScoreSheet.compare(a, b) > 0,
            seconds,
            more(points, deviation, seconds, odds.validity(), odds.doubt()),
            reading(Contrast.of(sheet, first, second)),
            excerpt(sheet, part, first, second)));
  }

  private static double seconds(ScoreSheet sheet, Comparison comparison) {
    double sum = 0;
    for (TimeSpan place : comparison.places()) {
      sum += place == null ? sheet.heading().source().seconds() : place.to() - place.from();
    }
    return sum;
  }

  /** The bootstrap's part of the uncertainty falls with length, what figures miss does not. */
  static OptionalDouble more(
      double points, double deviation, double seconds, Validity validity, boolean doubt) {
    if (validity.better(points, 0, doubt) < Validity.SURE) {
      return OptionalDouble.empty();
    }
    double low = 0;
    double high = deviation;
    if (validity.better(points, deviation, doubt) >= Validity.SURE) {
      return OptionalDouble.of(0);
    }
    for (int i = 0; i < 60; i++) {
      double middle = (low + high) / 2;
      if (validity.better(points, middle, doubt) >= Validity.SURE) {
        low = middle;
      } else {
        high = middle;
      }
    }
    return low > 0
        ? OptionalDouble.of(seconds * (deviation * deviation / (low * low) - 1))
        : OptionalDouble.empty();
  }

  /** How far a difference stands over half its own interval. */
  private static double ratio(double points, double low, double high) {
    return Math.abs(points) / Math.max(1e-3, (high - low) / 2);
  }

  private static Optional<Contrast.Difference> reading(Contrast contrast) {
    return contrast.readings().stream()
        .filter(
            d -> Math.abs(d.points()) >= 1 && ratio(d.points(), d.low(), d.high()) > LEAST_RATIO)
        .max(
            Comparator.comparing((Contrast.Difference d) -> !d.places().isEmpty())
                .thenComparingDouble(d -> ratio(d.points(), d.low(), d.high())));
  }

  private static Optional<String> excerpt(ScoreSheet sheet, Part part, Entry first, Entry second) {
    String best = "";
    double most = 0;
    for (String name : sheet.excerpts()) {
      Part there = new Part(part.role(), name);
      Optional<Estimate> a =
          sheet.entry(there, first.version().id()).flatMap(e -> e.card().overall());
      Optional<Estimate> b =
          sheet.entry(there, second.version().id()).flatMap(e -> e.card().overall());
      if (a.isPresent() && b.isPresent()) {
        Estimate d = a.get().minus(b.get());
        double ratio = ratio(d.value(), d.low(), d.high());
        if (ratio > most) {
          most = ratio;
          best = name;
        }
      }
    }
    return best.isEmpty() ? Optional.empty() : Optional.of(best);
  }

  /** Where the two differ most in the reading that tells them apart. */
  public Optional<Spot> place() {
    return reading.flatMap(r -> r.places().stream().findFirst());
  }

  /** Whether nothing is left to settle. */
  public boolean settled() {
    return told && chance >= Validity.SURE;
  }
}
