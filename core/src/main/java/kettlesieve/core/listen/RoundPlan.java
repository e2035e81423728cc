package kettlesieve.core.listen;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.SplittableRandom;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Round.Trial;

/**
 * What is heard in a blind round, and in which order: all from the round's seed, so that a round
 * that was broken off goes on as if it had not been.
 */
public final class RoundPlan {
  /**
   * Up to so many items every pair is heard, twice, in both orders; above, as many as sort them.
   */
  public static final int MOST_ALL_PAIRS = 6;

  /** Fewest and most trials of an ABX round. */
  public static final int FEWEST_TRIALS = 8;

  /** See {@link #FEWEST_TRIALS}. */
  public static final int MOST_TRIALS = 40;

  /** Tokens carry letters. */
  private static final int MOST_TOKENS = 26;

  private RoundPlan() {}

  /**
   * A round with its trials laid out.
   *
   * @param round without trials
   * @param count number of ABX trials; the other kinds have as many as their items ask for
   * @throws IllegalArgumentException if there are too few items or trials
   */
  public static Round planned(Round round, int count) {
    return switch (round.kind()) {
      case ABX -> round.withTrials(abx(round, count));
      case PAIRS -> pairs(round);
      case RATING -> round.withTrials(rating(round));
    };
  }

  /**
   * X is each of the two equally often, in random order; A stays A throughout. Of an odd number of
   * trials chance decides whose the one more is. Nothing is told of right and wrong before the
   * round is over, so that there is nothing to count along with.
   */
  private static List<Trial> abx(Round round, int count) {
    if (round.items().size() != 2) {
      throw new IllegalArgumentException("two versions are told apart");
    }
    if (count < FEWEST_TRIALS || count > MOST_TRIALS) {
      throw new IllegalArgumentException(
          "a round has " + FEWEST_TRIALS + " to " + MOST_TRIALS + " trials");
    }
    // Neighbouring seeds must not begin alike, as they do with the older generator.
    SplittableRandom random = new SplittableRandom(round.seed());
    int first = count % 2 == 0 ? count / 2 : count / 2 + random.nextInt(2);
    List<Trial> trials = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      trials.add(new Trial(round.items(), round.items().get(i < first ? 0 : 1), null, null));
    }
    Collections.shuffle(trials, new Random(random.nextLong()));
    return trials;
  }

  private static Round pairs(Round round) {
    List<String> items = round.items();
    if (items.size() < 2) {
      throw new IllegalArgumentException("two versions are needed for a pair");
    }
    if (items.size() > MOST_ALL_PAIRS) {
      return continued(round);
    }
    Random random = random(round);
    List<Trial> once = new ArrayList<>();
    List<Trial> again = new ArrayList<>();
    for (int i = 0; i < items.size(); i++) {
      for (int j = i + 1; j < items.size(); j++) {
        boolean turned = random.nextBoolean();
        once.add(pair(items.get(i), items.get(j), turned));
        again.add(pair(items.get(i), items.get(j), !turned));
      }
    }
    // Every pair is heard once before one comes again.
    Collections.shuffle(once, random);
    Collections.shuffle(again, random);
    once.addAll(again);
    return round.withTrials(once);
  }

  private static Random random(Round round) {
    return new Random(new SplittableRandom(round.seed()).nextLong());
  }

  private static Trial pair(String one, String other, boolean turned) {
    return new Trial(turned ? List.of(other, one) : List.of(one, other), null, null, null);
  }

  /**
   * With the next trial, where that depends on the answers so far: pairs of many items are chosen
   * as merge sort would compare them. The same round if there is none to add.
   */
  public static Round continued(Round round) {
    boolean sorted = round.kind() == Round.Kind.PAIRS && round.items().size() > MOST_ALL_PAIRS;
    if (!sorted || !round.done()) {
      return round;
    }
    Optional<List<String>> next = nextPair(round);
    if (next.isEmpty()) {
      return round;
    }
    List<Trial> trials = new ArrayList<>(round.trials());
    boolean turned = new SplittableRandom(round.seed() + trials.size()).nextBoolean();
    trials.add(pair(next.get().get(0), next.get().get(1), turned));
    return round.withTrials(trials);
  }

  /** How many trials there will be: exactly, or at most where the answers decide. */
  public static int expected(Round round) {
    int n = round.items().size();
    if (round.kind() != Round.Kind.PAIRS || n <= MOST_ALL_PAIRS) {
      return round.trials().size();
    }
    int most = 0;
    for (int width = 1; width < n; width *= 2) {
      for (int from = 0; from + width < n; from += 2 * width) {
        most += Math.min(2 * width, n - from) - 1;
      }
    }
    return most;
  }

  private static Optional<List<String>> nextPair(Round round) {
    Map<List<String>, Integer> known = new HashMap<>();
    for (Trial t : round.trials()) {
      String a = t.items().get(0);
      String b = t.items().get(1);
      int order = t.answer().equals(a) ? -1 : t.answer().equals(b) ? 1 : 0;
      known.put(List.of(a, b), order);
      known.put(List.of(b, a), -order);
    }
    List<String> items = new ArrayList<>(round.items());
    Collections.shuffle(items, random(round));
    for (int width = 1; width < items.size(); width *= 2) {
      List<String> merged = new ArrayList<>();
      for (int from = 0; from < items.size(); from += 2 * width) {
        int middle = Math.min(items.size(), from + width);
        int end = Math.min(items.size(), from + 2 * width);
        int i = from;
        int j = middle;
        while (i < middle && j < end) {
          Integer order = known.get(List.of(items.get(i), items.get(j)));
          if (order == null) {
            return Optional.of(List.of(items.get(i), items.get(j)));
          }
          merged.add(order <= 0 ? items.get(i++) : items.get(j++));
        }
        merged.addAll(items.subList(i, middle));
        merged.addAll(items.subList(j, end));
      }
      items = merged;
    }
    return Optional.empty();
  }

  /** Every item is a token; one of the versions comes twice, to see whether it lands again. */
  private static List<Trial> rating(Round round) {
    if (round.items().size() < 2) {
      throw new IllegalArgumentException("two versions are needed to be rated");
    }
    if (round.items().size() >= MOST_TOKENS) {
      throw new IllegalArgumentException("more than there are letters take part; take some out");
    }
    Random random = random(round);
    List<String> tokens = new ArrayList<>(round.items());
    List<String> versions = round.items().stream().filter(i -> !Round.hidden(i)).toList();
    tokens.add(versions.get(random.nextInt(versions.size())));
    Collections.shuffle(tokens, random);
    return tokens.stream().map(i -> new Trial(List.of(i), null, null, null)).toList();
  }
}
