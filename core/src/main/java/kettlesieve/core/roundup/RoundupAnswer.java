package kettlesieve.core.roundup;

import java.util.List;
import java.util.Optional;
import kettlesieve.core.score.odds.Validity;

/**
 * What a round-up says of the first two of a table.
 *
 * @param leader with the highest mean, or the lowest where less is better
 * @param second the next of those that were tried on as many recordings; null for none
 * @param lead of the first over the second, points or the reading's unit, on the recordings that
 *     both have
 * @param odds that the leader is truly better; NaN where that is not asked
 * @param oneMore the same with one more recording like these
 * @param atMost the same with any number: what the scores' own error lets be known
 * @param fails the recordings on which the leader fails
 */
public record RoundupAnswer(
    Roundup.Row leader,
    Roundup.Row second,
    double lead,
    double odds,
    double oneMore,
    double atMost,
    List<Fails> fails) {
  /** So far under its own mean and under the best there a tool has failed, points. */
  private static final double UNDER_MEAN = 15;

  private static final double UNDER_BEST = 10;
  private static final int ANY_NUMBER = 100_000;

  /**
   * A recording on which a tool fails.
   *
   * @param recording its index
   * @param value what the tool reaches there
   * @param best what the best reaches there
   * @param by which that is
   */
  public record Fails(int recording, double value, double best, String by) {}

  public RoundupAnswer {
    fails = List.copyOf(fails);
  }

  /** Of a table; empty where nothing was measured, or nothing is better or worse. */
  public static Optional<RoundupAnswer> of(Roundup roundup, Roundup.Table table) {
    List<Roundup.Row> often = RoundupTests.often(table.entries());
    if (often.isEmpty() || roundup.direction() == 0) {
      return Optional.empty();
    }
    Roundup.Row leader = often.get(0);
    Roundup.Row second = often.size() > 1 ? often.get(1) : null;
    double lead = Double.NaN;
    double odds = Double.NaN;
    double oneMore = Double.NaN;
    double atMost = Double.NaN;
    if (second != null) {
      List<Integer> both = RoundupTests.whole(List.of(leader, second));
      double squares = 0;
      double sum = 0;
      for (int c : both) {
        Roundup.Cell other = second.cells().get(c);
        sum += leader.cells().get(c).value() - other.value();
        double d = leader.cells().get(c).scores().deviations().getOrDefault(other.label(), 0.0);
        squares += d * d;
      }
      int n = both.size();
      lead = n == 0 ? Double.NaN : sum / n;
      odds = leader.better().getOrDefault(second.name(), Double.NaN);
      if (n > 0 && Double.isFinite(odds)) {
        Validity validity = roundup.comparisons().get(both.get(0)).validity();
        long doubtful = both.stream().filter(c -> roundup.comparisons().get(c).doubt()).count();
        double deviation = Math.sqrt(squares / n);
        boolean doubt = 2 * doubtful > n;
        oneMore = validity.betterOver(lead, deviation, n + 1, doubt);
        atMost = validity.betterOver(lead, deviation, ANY_NUMBER, doubt);
      }
    }
    return Optional.of(
        new RoundupAnswer(
            leader, second, lead, odds, oneMore, atMost, fails(roundup, table, leader)));
  }

  /** Where a tool is far under its mean, and others are not: the recording alone is no excuse. */
  public static List<Fails> fails(Roundup roundup, Roundup.Table table, Roundup.Row of) {
    if (!roundup.aspect().score()) {
      return List.of();
    }
    return of.cells().entrySet().stream()
        .filter(c -> c.getValue().value() < of.mean() - UNDER_MEAN)
        .flatMap(
            c ->
                table.entries().stream()
                    .filter(e -> e.cells().containsKey(c.getKey()))
                    .max(
                        java.util.Comparator.comparingDouble(
                            e -> e.cells().get(c.getKey()).value()))
                    .map(
                        e ->
                            new Fails(
                                c.getKey(),
                                c.getValue().value(),
                                e.cells().get(c.getKey()).value(),
                                e.name()))
                    .stream())
        .filter(f -> f.value() < f.best() - UNDER_BEST)
        .sorted(java.util.Comparator.comparingDouble(Fails::value))
        .toList();
  }
}
