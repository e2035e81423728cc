package kettlesieve.core.score.ears;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.measure.Estimate;

/**
 * What pairs say of several versions: the model of Bradley and Terry (Biometrika 39, 1952) with the
 * ties of Davidson (J. Am. Stat. Assoc. 65, 1970), intervals by bootstrap over the trials, and the
 * circular triads of Kendall and Babington Smith (Biometrika 31, 1940).
 *
 * @param items what was compared, by id
 * @param strengths natural logarithm of each one's worth, their mean 0; larger is better
 * @param ties Davidson's ν: 0 where there never was a tie
 * @param wins how often the row's item was preferred to the column's
 * @param drawn how often neither was
 */
public record Preferences(
    List<String> items, List<Estimate> strengths, double ties, double[][] wins, double[][] drawn) {
  private static final int MOST_ROUNDS = 20_000;
  private static final double STEADY = 1e-10;

  /** A draw of the bootstrap need not be as fine as that. */
  private static final double STEADY_DRAW = 1e-4;

  /** Half a win and half a loss against one of middle strength, so that nobody's is without end. */
  private static final double PRIOR = 0.5;

  /**
   * One answer.
   *
   * @param first index of an item
   * @param second index of another
   * @param outcome 1 if the first was preferred, −1 if the second was, 0 if neither
   */
  public record Answer(int first, int second, int outcome) {}

  /**
   * A fit without intervals.
   *
   * @param logs natural logarithm of each worth, their mean 0
   * @param ties Davidson's ν
   */
  public record Fit(double[] logs, double ties) {}

  /** The answers of rounds of pairs over some items; others and open trials are left out. */
  public static List<Answer> answers(List<Round> rounds, List<String> items) {
    List<Answer> answers = new ArrayList<>();
    for (Round round : rounds) {
      for (Round.Trial t : round.trials()) {
        int first = items.indexOf(t.items().get(0));
        int second = t.items().size() < 2 ? -1 : items.indexOf(t.items().get(1));
        if (t.answer() != null && first >= 0 && second >= 0) {
          int outcome =
              t.answer().equals(t.items().get(0))
                  ? 1
                  : t.answer().equals(t.items().get(1)) ? -1 : 0;
          answers.add(new Answer(first, second, outcome));
        }
      }
    }
    return answers;
  }

  /**
   * Fits the model.
   *
   * @param items what was compared
   * @param answers one a trial
   * @param draws how many resamplings of the trials
   * @param seed of the resampling
   */
  public static Preferences of(List<String> items, List<Answer> answers, int draws, long seed) {
    int n = items.size();
    double[][] wins = new double[n][n];
    double[][] drawn = new double[n][n];
    count(answers, wins, drawn);
    Fit fit = fit(wins, drawn, PRIOR);
    double[][] logs = new double[n][draws];
    SplittableRandom random = new SplittableRandom(seed);
    for (int d = 0; d < draws; d++) {
      List<Answer> again = new ArrayList<>();
      for (int i = 0; i < answers.size(); i++) {
        again.add(answers.get(random.nextInt(answers.size())));
      }
      double[][] w = new double[n][n];
      double[][] t = new double[n][n];
      count(again, w, t);
      double[] drawnLogs = fit(w, t, PRIOR, STEADY_DRAW).logs();
      for (int i = 0; i < n; i++) {
        logs[i][d] = drawnLogs[i];
      }
    }
    List<Estimate> strengths = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      strengths.add(new Estimate(fit.logs()[i], logs[i]));
    }
    return new Preferences(List.copyOf(items), strengths, fit.ties(), wins, drawn);
  }

  private static void count(List<Answer> answers, double[][] wins, double[][] drawn) {
    for (Answer a : answers) {
      if (a.outcome() == 0) {
        drawn[a.first()][a.second()]++;
        drawn[a.second()][a.first()]++;
      } else if (a.outcome() > 0) {
        wins[a.first()][a.second()]++;
      } else {
        wins[a.second()][a.first()]++;
      }
    }
  }

  /**
   * The most likely worths, by Davidson's own iteration.
   *
   * @param wins how often the row's item was preferred to the column's
   * @param drawn how often neither was; symmetric
   * @param prior wins and losses against one of middle strength that are added to each; 0 for none,
   *     which has no end where one item won or lost every time
   */
  public static Fit fit(double[][] wins, double[][] drawn, double prior) {
    return fit(wins, drawn, prior, STEADY);
  }

  private static Fit fit(double[][] wins, double[][] drawn, double prior, double steady) {
    int n = wins.length;
    double[] worth = new double[n];
    Arrays.fill(worth, 1);
    double[] points = new double[n];
    double tied = 0;
    for (int i = 0; i < n; i++) {
      points[i] = prior;
      for (int j = 0; j < n; j++) {
        points[i] += wins[i][j] + drawn[i][j] / 2;
        tied += i < j ? drawn[i][j] : 0;
      }
    }
    double ties = tied > 0 ? 1 : 0;
    for (int round = 0; round < MOST_ROUNDS; round++) {
      double[] next = new double[n];
      double expected = 0;
      for (int i = 0; i < n; i++) {
        double sum = 2 * prior / (worth[i] + 1);
        for (int j = 0; j < n; j++) {
          double games = i == j ? 0 : wins[i][j] + wins[j][i] + drawn[i][j];
          if (games > 0) {
            double middle = Math.sqrt(worth[i] * worth[j]);
            double all = worth[i] + worth[j] + ties * middle;
            sum += games * (1 + 0.5 * ties * Math.sqrt(worth[j] / worth[i])) / all;
            expected += games * middle / all / 2;
          }
        }
        next[i] = sum > 0 ? points[i] / sum : worth[i];
      }
      double nextTies = expected > 0 ? tied / expected : 0;
      double moved = Math.abs(nextTies - ties);
      if (prior == 0) {
        normalise(next);
      }
      for (int i = 0; i < n; i++) {
        moved = Math.max(moved, Math.abs(Math.log(next[i] / worth[i])));
      }
      worth = next;
      ties = nextTies;
      if (moved < steady) {
        break;
      }
    }
    double[] logs = Arrays.stream(worth).map(Math::log).toArray();
    double mean = Arrays.stream(logs).average().orElse(0);
    for (int i = 0; i < n; i++) {
      logs[i] -= mean;
    }
    return new Fit(logs, ties);
  }

  private static void normalise(double[] worth) {
    double mean = Arrays.stream(worth).map(Math::log).average().orElse(0);
    for (int i = 0; i < worth.length; i++) {
      worth[i] /= Math.exp(mean);
    }
  }

  /**
   * Number of circular triads: of three items each was preferred to the next and the last to the
   * first, by the majority of their trials.
   */
  public int circularTriads() {
    int n = items.size();
    int circular = 0;
    for (int i = 0; i < n; i++) {
      for (int j = i + 1; j < n; j++) {
        for (int k = j + 1; k < n; k++) {
          boolean round = beats(i, j) && beats(j, k) && beats(k, i);
          boolean back = beats(j, i) && beats(k, j) && beats(i, k);
          circular += round || back ? 1 : 0;
        }
      }
    }
    return circular;
  }

  private boolean beats(int i, int j) {
    return wins[i][j] > wins[j][i];
  }

  /**
   * Kendall's coefficient of consistence ζ: 1 without circular triads, 0 with as many as can be.
   */
  public static double consistence(int items, int circularTriads) {
    double n = items;
    double most = items % 2 == 1 ? (n * n * n - n) / 24 : (n * n * n - 4 * n) / 24;
    return most > 0 ? 1 - circularTriads / most : 1;
  }
}
