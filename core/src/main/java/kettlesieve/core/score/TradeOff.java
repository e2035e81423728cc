package kettlesieve.core.score;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.odds.SweepOdds;
import kettlesieve.core.signal.Statistics;

/**
 * What each version gains in Missed against what it pays for it in the worse of Added and Lost, the
 * versions that no other beats in both, and the best amount of each sweep.
 *
 * @param points the versions that have scores on both sides, in the comparison's order
 * @param sweeps by what their versions share, in words
 * @param targets sweeps over length or interval, likewise
 */
public record TradeOff(
    List<Point> points, Map<String, Sweep> sweeps, Map<String, TargetSweep> targets) {
  /** Under this overall score a result has fallen apart. */
  public static final double APART = 50;

  /**
   * Versions of one tool at several lengths or intervals.
   *
   * @param ids of its versions, in order of target
   * @param targets lengths over the source's, or semitones
   * @param overall scores of its versions
   * @param neutral the target at which nothing is done: 1, or 0 semitones
   */
  public record TargetSweep(
      List<String> ids, List<Double> targets, List<Double> overall, double neutral) {
    /**
     * The targets nearest to doing nothing, to either side, from which on the score stays under
     * {@link TradeOff#APART}; empty if it never does.
     */
    public List<Double> fallsApartAt() {
      List<Double> all = new ArrayList<>();
      for (boolean above : new boolean[] {false, true}) {
        List<Integer> outwards = new ArrayList<>();
        for (int i = 0; i < targets.size(); i++) {
          if (targets.get(i) > neutral == above && targets.get(i) != neutral) {
            outwards.add(above ? outwards.size() : 0, i);
          }
        }
        int first = outwards.size();
        while (first > 0 && overall.get(outwards.get(first - 1)) < APART) {
          first--;
        }
        if (first < outwards.size()) {
          all.add(targets.get(outwards.get(first)));
        }
      }
      return all;
    }
  }

  /**
   * One version.
   *
   * @param id the version's id
   * @param dealtWith its score in Missed
   * @param unharmed the lower of its scores in Added and Lost
   * @param overall under the profile
   * @param cost what it took to make
   * @param unbeaten whether no other version is at least as good in both and better in one
   */
  public record Point(
      String id,
      String label,
      Estimate dealtWith,
      Estimate unharmed,
      Estimate overall,
      Cost cost,
      boolean unbeaten) {}

  /**
   * Versions of one tool at several amounts.
   *
   * @param ids of its versions, in order of amount
   * @param amounts of its versions
   * @param best where the overall score is highest
   * @param odds which amount is truly best; empty with fewer than {@link SweepOdds#FEWEST} amounts
   */
  public record Sweep(
      List<String> ids,
      List<Double> amounts,
      Optional<BestAmount> best,
      Optional<SweepOdds> odds) {}

  /**
   * The amount with the highest overall score: the top of the parabola through the best version and
   * its two neighbours, or an end of the sweep.
   *
   * @param amount as the versions state it
   * @param low lower end of the 95 % interval over the paired bootstrap draws
   * @param high its upper end
   * @param score the overall score expected there
   */
  public record BestAmount(double amount, double low, double high, double score) {}

  /** Lays out the versions of a sheet. */
  public static TradeOff of(ScoreSheet sheet, Comparison comparison) {
    return of(sheet, Part.ALL, comparison);
  }

  /** Lays out one part of the versions of a sheet. */
  public static TradeOff of(ScoreSheet sheet, Part part, Comparison comparison) {
    List<Point> raw = new ArrayList<>();
    for (Entry entry : sheet.entries(part)) {
      Estimate missed = entry.card().axes().get(Axis.MISSED);
      Estimate harm =
          lower(entry.card().axes().get(Axis.ADDED), entry.card().axes().get(Axis.LOST));
      if (missed != null && harm != null && entry.card().overall().isPresent()) {
        VersionFacts m = entry.version();
        Estimate overall = entry.card().overall().get();
        raw.add(new Point(m.id(), m.label(), missed, harm, overall, m.cost(), false));
      }
    }
    List<Point> points = new ArrayList<>();
    for (Point p : raw) {
      boolean beaten = raw.stream().anyMatch(other -> beats(other, p));
      points.add(
          new Point(
              p.id(), p.label(), p.dealtWith(), p.unharmed(), p.overall(), p.cost(), !beaten));
    }
    SheetOdds chances = SheetOdds.of(sheet, part);
    Map<String, Sweep> sweeps = new LinkedHashMap<>();
    comparison
        .sweeps()
        .forEach(
            (words, versions) -> {
              List<Version> there =
                  versions.stream().filter(v -> point(points, v.id()).isPresent()).toList();
              if (there.size() > 1) {
                sweeps.put(words, sweep(there, points, sheet, chances));
              }
            });
    Map<String, TargetSweep> targets = new LinkedHashMap<>();
    comparison
        .targetSweeps()
        .forEach(
            (words, versions) -> {
              List<Version> there =
                  versions.stream().filter(v -> point(points, v.id()).isPresent()).toList();
              if (there.size() > 1) {
                targets.put(words, targets(comparison, there, points));
              }
            });
    return new TradeOff(List.copyOf(points), sweeps, targets);
  }

  private static TargetSweep targets(
      Comparison comparison, List<Version> versions, List<Point> points) {
    return new TargetSweep(
        versions.stream().map(Version::id).toList(),
        versions.stream().map(comparison::targetOf).toList(),
        versions.stream().map(v -> point(points, v.id()).orElseThrow().overall().value()).toList(),
        comparison.job() == Job.PITCH ? 0 : 1);
  }

  private static Optional<Point> point(List<Point> points, String id) {
    return points.stream().filter(p -> p.id().equals(id)).findFirst();
  }

  private static boolean beats(Point a, Point b) {
    double x = a.dealtWith().value() - b.dealtWith().value();
    double y = a.unharmed().value() - b.unharmed().value();
    return x >= 0 && y >= 0 && x + y > 0;
  }

  private static Estimate lower(Estimate a, Estimate b) {
    if (a == null || b == null) {
      return a == null ? b : a;
    }
    double[] draws = new double[a.draws().length];
    for (int d = 0; d < draws.length; d++) {
      draws[d] = Math.min(a.draws()[d], b.draws()[d]);
    }
    return new Estimate(Math.min(a.value(), b.value()), draws);
  }

  private static Sweep sweep(
      List<Version> versions, List<Point> points, ScoreSheet sheet, SheetOdds chances) {
    double[] amounts = versions.stream().mapToDouble(Version::amount).toArray();
    List<Estimate> overall =
        versions.stream().map(v -> point(points, v.id()).orElseThrow().overall()).toList();
    return new Sweep(
        versions.stream().map(Version::id).toList(),
        versions.stream().map(Version::amount).toList(),
        Optional.of(best(amounts, overall)),
        versions.size() < SweepOdds.FEWEST
            ? Optional.empty()
            : Optional.of(
                SweepOdds.of(
                    versions.stream().map(Version::amount).toList(),
                    overall,
                    chances.validity(),
                    chances.doubt(),
                    sheet.scoring().sweeps())));
  }

  /**
   * The best amount of a sweep.
   *
   * @param amounts rising
   * @param overall one a version, with draws of the same bootstrap
   */
  public static BestAmount best(double[] amounts, List<Estimate> overall) {
    double[] top = top(amounts, overall.stream().mapToDouble(Estimate::value).toArray());
    int draws = overall.get(0).draws().length;
    double[] found = new double[draws];
    for (int d = 0; d < draws; d++) {
      int draw = d;
      found[d] = top(amounts, overall.stream().mapToDouble(e -> e.draws()[draw]).toArray())[0];
    }
    return new BestAmount(
        top[0],
        Math.min(top[0], Statistics.quantile(found, 0.025)),
        Math.max(top[0], Statistics.quantile(found, 0.975)),
        top[1]);
  }

  /** Amount and score of the top. */
  private static double[] top(double[] x, double[] y) {
    int best = 0;
    for (int i = 1; i < y.length; i++) {
      best = y[i] > y[best] ? i : best;
    }
    if (best == 0 || best == y.length - 1) {
      return new double[] {x[best], y[best]};
    }
    double left = (y[best] - y[best - 1]) / (x[best] - x[best - 1]);
    double right = (y[best + 1] - y[best]) / (x[best + 1] - x[best]);
    double bend = (right - left) / (x[best + 1] - x[best - 1]);
    if (!(bend < 0)) {
      return new double[] {x[best], y[best]};
    }
    // Newton's form: slope 0 of y[best-1] + left·(x−x0) + bend·(x−x0)(x−x1).
    double at = (x[best - 1] + x[best] - left / bend) / 2;
    double amount = Math.max(x[best - 1], Math.min(x[best + 1], at));
    double score =
        y[best - 1]
            + left * (amount - x[best - 1])
            + bend * (amount - x[best - 1]) * (amount - x[best]);
    return new double[] {amount, Math.min(100, score)};
  }
}
