package kettlesieve.core.roundup;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.function.Function;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.score.odds.OverRecordings;
import kettlesieve.core.score.odds.Validity;
import org.hipparchus.distribution.continuous.TDistribution;

/**
 * Makes a round-up of scored comparisons. The order in which they come does not matter.
 *
 * @param by what a row is
 * @param aspect what is looked at
 */
public record RoundupMaker(Roundup.By by, Aspect aspect) {
  /** Smaller differences between scores have no meaning. */
  private static final double NOTHING = 0.1;

  /**
   * All that was found.
   *
   * @param scored comparisons of one job
   * @param failed what could not be used
   * @throws IllegalArgumentException if the comparisons are of several jobs
   */
  public Roundup of(List<ScoredComparison> scored, List<ScoredComparison.Failed> failed) {
    List<ScoredComparison> sorted =
        scored.stream()
            .sorted(
                Comparator.comparing(ScoredComparison::file, ByNumber.ORDER)
                    .thenComparing(ScoredComparison::sha256))
            .toList();
    Job job = sorted.isEmpty() ? Job.DENOISE : sorted.get(0).job();
    if (sorted.stream().anyMatch(c -> c.job() != job)) {
      throw new IllegalArgumentException("a round-up is of one job");
    }
    List<ScoredComparison.Failed> all = new ArrayList<>(failed);
    sorted.forEach(c -> all.addAll(c.failed()));
    all.sort(
        Comparator.comparing(ScoredComparison.Failed::file)
            .thenComparing(ScoredComparison.Failed::label)
            .thenComparing(ScoredComparison.Failed::reason));
    TreeSet<String> tags = new TreeSet<>();
    sorted.forEach(c -> tags.addAll(c.tags()));
    Map<String, Roundup.Table> byTag = new LinkedHashMap<>();
    for (String tag : tags) {
      byTag.put(tag, table(job, sorted, c -> c.tags().contains(tag)));
    }
    String profile =
        String.join(" / ", new TreeSet<>(sorted.stream().map(ScoredComparison::profile).toList()));
    return new Roundup(job, profile, by, aspect, sorted, table(job, sorted, c -> true), byTag, all);
  }

  private String name(ScoredVersion version) {
    return switch (by) {
      case TOOL -> version.asTool();
      case VERSION -> version.asVersion();
    };
  }

  private Roundup.Table table(
      Job job, List<ScoredComparison> comparisons, Function<ScoredComparison, Boolean> wanted) {
    Map<String, Map<Integer, Roundup.Cell>> cells = new LinkedHashMap<>();
    Map<String, List<RoundupCost.Made>> costs = new LinkedHashMap<>();
    int direction = aspect.direction(job) < 0 ? -1 : 1;
    for (int i = 0; i < comparisons.size(); i++) {
      ScoredComparison c = comparisons.get(i);
      if (!wanted.apply(c)) {
        continue;
      }
      for (ScoredVersion v : c.versions()) {
        Double value = aspect.of(v.scores(aspect.role()));
        if (!v.choice() || value == null) {
          continue;
        }
        Map<Integer, Roundup.Cell> own = cells.computeIfAbsent(name(v), n -> new LinkedHashMap<>());
        Roundup.Cell cell = new Roundup.Cell(v.label(), 1, value, v.scores(aspect.role()));
        own.merge(i, cell, (a, b) -> better(a, b, direction));
        costs
            .computeIfAbsent(name(v), n -> new ArrayList<>())
            .add(new RoundupCost.Made(v.cost(), c.seconds()));
      }
    }
    List<Roundup.Row> entries = new ArrayList<>();
    Map<String, int[]> wins = wins(cells, direction);
    cells.forEach(
        (name, own) ->
            entries.add(entry(name, own, wins.get(name), RoundupCost.of(costs.get(name)))));
    entries.sort(
        Comparator.comparingDouble((Roundup.Row e) -> -direction * e.mean())
            .thenComparing(Roundup.Row::name));
    int recordings =
        (int) cells.values().stream().flatMap(c -> c.keySet().stream()).distinct().count();
    boolean told = aspect.direction(job) != 0;
    List<Roundup.Row> sure = aspect.overall() ? withOdds(comparisons, entries) : entries;
    return new Roundup.Table(
        sure,
        told
            ? RoundupTests.of(sure, direction, aspect.score() ? NOTHING : 0)
            : java.util.Optional.empty(),
        recordings);
  }

  /** The best value on a recording; NaN where there is none, or where nothing is better. */
  public static double best(Roundup roundup, int recording) {
    int direction = roundup.direction();
    return roundup.all().entries().stream()
        .filter(e -> direction != 0 && e.cells().containsKey(recording))
        .mapToDouble(e -> e.cells().get(recording).value())
        .boxed()
        .max(Comparator.comparingDouble(v -> direction * v))
        .orElse(Double.NaN);
  }

  /** By tool the best of its versions stands for it. */
  private static Roundup.Cell better(Roundup.Cell a, Roundup.Cell b, int direction) {
    Roundup.Cell first = direction * a.value() >= direction * b.value() ? a : b;
    return new Roundup.Cell(first.label(), a.of() + b.of(), first.value(), first.scores());
  }

  /** Wins and ties of each: on a recording one wins, or two or more tie. */
  private Map<String, int[]> wins(Map<String, Map<Integer, Roundup.Cell>> cells, int direction) {
    Map<String, int[]> all = new LinkedHashMap<>();
    cells.keySet().forEach(n -> all.put(n, new int[2]));
    TreeSet<Integer> recordings = new TreeSet<>();
    cells.values().forEach(c -> recordings.addAll(c.keySet()));
    for (int r : recordings) {
      String first = null;
      for (var e : cells.entrySet()) {
        Roundup.Cell cell = e.getValue().get(r);
        if (cell != null
            && (first == null
                || direction * cell.value() > direction * cells.get(first).get(r).value())) {
          first = e.getKey();
        }
      }
      Roundup.Cell top = cells.get(first).get(r);
      List<String> tied = new ArrayList<>();
      for (var e : cells.entrySet()) {
        Roundup.Cell cell = e.getValue().get(r);
        if (cell != null && cell != top && tied(top, cell)) {
          tied.add(e.getKey());
        }
      }
      if (tied.isEmpty()) {
        all.get(first)[0]++;
      } else {
        all.get(first)[1]++;
        tied.forEach(n -> all.get(n)[1]++);
      }
    }
    return all;
  }

  private boolean tied(Roundup.Cell first, Roundup.Cell other) {
    return aspect.overall()
        ? first.scores().tiedWith().contains(other.label())
        : Math.abs(first.value() - other.value()) <= (aspect.score() ? NOTHING : 0);
  }

  private Roundup.Row entry(
      String name, Map<Integer, Roundup.Cell> cells, int[] wins, RoundupCost cost) {
    double[] values = cells.values().stream().mapToDouble(Roundup.Cell::value).toArray();
    int n = values.length;
    double mean = java.util.Arrays.stream(values).average().orElse(Double.NaN);
    double low = Double.NaN;
    double high = Double.NaN;
    if (n > 1) {
      double squares = 0;
      for (double v : values) {
        squares += (v - mean) * (v - mean);
      }
      double t = new TDistribution(n - 1).inverseCumulativeProbability(0.975);
      double half = t * Math.sqrt(squares / (n - 1) / n);
      low = aspect.score() ? Math.max(0, mean - half) : mean - half;
      high = aspect.score() ? Math.min(100, mean + half) : mean + half;
    }
    return new Roundup.Row(
        name, mean, low, high, wins[0], wins[1], cells, cost, Double.NaN, Map.of());
  }

  /** Over the recordings that all have: means over others would not be fair. */
  private List<Roundup.Row> withOdds(
      List<ScoredComparison> comparisons, List<Roundup.Row> entries) {
    List<Roundup.Row> often = RoundupTests.often(entries);
    List<Integer> whole = RoundupTests.whole(often);
    if (often.size() < 2 || whole.isEmpty()) {
      return entries;
    }
    List<OverRecordings.Tried> tried = new ArrayList<>();
    for (Roundup.Row e : often) {
      Map<String, Double> deviations = new LinkedHashMap<>();
      for (Roundup.Row other : often) {
        double squares = 0;
        for (int c : whole) {
          String label = other.cells().get(c).label();
          double d = e.cells().get(c).scores().deviations().getOrDefault(label, 0.0);
          squares += d * d;
        }
        if (other != e) {
          deviations.put(other.name(), Math.sqrt(squares / whole.size()));
        }
      }
      double mean =
          whole.stream().mapToDouble(c -> e.cells().get(c).value()).average().orElseThrow();
      tried.add(new OverRecordings.Tried(e.name(), mean, deviations));
    }
    long doubtful = whole.stream().filter(c -> comparisons.get(c).doubt()).count();
    Validity validity = comparisons.get(whole.get(0)).validity();
    Map<String, OverRecordings> odds =
        OverRecordings.of(tried, whole.size(), validity, 2 * doubtful > whole.size());
    return entries.stream()
        .map(
            e ->
                odds.containsKey(e.name())
                    ? new Roundup.Row(
                        e.name(),
                        e.mean(),
                        e.low(),
                        e.high(),
                        e.wins(),
                        e.ties(),
                        e.cells(),
                        e.cost(),
                        odds.get(e.name()).best(),
                        odds.get(e.name()).better())
                    : e)
        .toList();
  }
}
