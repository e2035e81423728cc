package kettlesieve.core.score.ears;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.Odds;

/**
 * Odds by figures and by the person's own ears together. Answers to blind pairs are evidence beside
 * the figures: the odds that one version is better are multiplied by the odds that the model of
 * Bradley and Terry gives it over resamplings of the answers, and so with the chance to be the
 * best.
 *
 * @param decided pairs in which one was preferred
 * @param together by id of the version, figures and ears
 */
public record EarOdds(int decided, Map<String, Odds> together) {
  /** Fewer decided pairs than these say nothing. */
  public static final int FEWEST = 10;

  private static final int DRAWS = 400;

  /**
   * Of the rounds of a comparison; empty with too few answers.
   *
   * @param figures the odds by figures alone
   * @param rounds all that were held; pairs by which is better as a whole are taken
   * @param role whose stems the odds are of; empty for versions as a whole
   * @param seed of the resampling
   */
  public static Optional<EarOdds> of(
      SheetOdds figures, List<Round> rounds, String role, long seed) {
    List<String> ids = List.copyOf(figures.odds().keySet());
    List<Preferences.Answer> answers =
        Preferences.answers(
            rounds.stream()
                .filter(r -> r.kind() == Round.Kind.PAIRS && r.role().equals(role))
                .filter(r -> r.question() == Round.Question.OVERALL)
                .toList(),
            ids);
    int decided = (int) answers.stream().filter(a -> a.outcome() != 0).count();
    if (decided < FEWEST || ids.size() < 2) {
      return Optional.empty();
    }
    // Of what was never heard ears say nothing, for or against.
    List<String> heard =
        ids.stream()
            .filter(
                id ->
                    answers.stream()
                        .anyMatch(
                            a -> a.first() == ids.indexOf(id) || a.second() == ids.indexOf(id)))
            .toList();
    List<Preferences.Answer> own =
        answers.stream()
            .map(
                a ->
                    new Preferences.Answer(
                        heard.indexOf(ids.get(a.first())),
                        heard.indexOf(ids.get(a.second())),
                        a.outcome()))
            .toList();
    Preferences said = Preferences.of(heard, own, DRAWS, seed);
    return Optional.of(new EarOdds(decided, together(figures, heard, said.strengths())));
  }

  private static Map<String, Odds> together(
      SheetOdds figures, List<String> heard, List<Estimate> strengths) {
    List<String> ids = List.copyOf(figures.odds().keySet());
    double[] best = new double[ids.size()];
    double sum = 0;
    for (int i = 0; i < best.length; i++) {
      int own = heard.indexOf(ids.get(i));
      double ears = own < 0 ? 1 : heard.size() * first(strengths, own);
      best[i] = figures.odds().get(ids.get(i)).best() * ears;
      sum += best[i];
    }
    Map<String, Odds> together = new LinkedHashMap<>();
    for (int i = 0; i < best.length; i++) {
      Odds own = figures.odds().get(ids.get(i));
      int a = heard.indexOf(ids.get(i));
      Map<String, Double> better = new LinkedHashMap<>();
      for (var other : own.better().entrySet()) {
        int b = heard.indexOf(other.getKey());
        double ears = a < 0 || b < 0 ? 0.5 : ahead(strengths.get(a), strengths.get(b));
        better.put(other.getKey(), product(other.getValue(), ears));
      }
      together.put(ids.get(i), new Odds(sum > 0 ? best[i] / sum : 0, own.near(), better));
    }
    return together;
  }

  /** The chance whose odds are the product of two chances' odds. */
  static double product(double a, double b) {
    double both = a * b;
    return both / (both + (1 - a) * (1 - b));
  }

  /** Share of the draws in which one is ahead; never quite all or nothing. */
  private static double ahead(Estimate a, Estimate b) {
    double wins = 0.5;
    for (int d = 0; d < a.draws().length; d++) {
      wins += a.draws()[d] > b.draws()[d] ? 1 : a.draws()[d] == b.draws()[d] ? 0.5 : 0;
    }
    return wins / (a.draws().length + 1);
  }

  /** Share of the draws in which one comes first. */
  private static double first(List<Estimate> strengths, int own) {
    int draws = strengths.get(own).draws().length;
    double wins = 1.0 / strengths.size();
    for (int d = 0; d < draws; d++) {
      double top = Double.NEGATIVE_INFINITY;
      int alike = 0;
      for (Estimate e : strengths) {
        alike = e.draws()[d] > top ? 1 : alike + (e.draws()[d] == top ? 1 : 0);
        top = Math.max(top, e.draws()[d]);
      }
      wins += strengths.get(own).draws()[d] == top ? 1.0 / alike : 0;
    }
    return wins / (draws + 1);
  }
}
