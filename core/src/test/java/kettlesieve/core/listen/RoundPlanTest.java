package kettlesieve.core.listen;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import kettlesieve.core.comparison.Round;
import org.junit.jupiter.api.Test;

class RoundPlanTest {
  private static Round round(Round.Kind kind, long seed, List<String> items) {
    return new Round("r1", kind, null, "", seed, null, "", items, "", List.of());
  }

  private static List<String> items(int count) {
    return IntStream.range(0, count).mapToObj(i -> "v" + i).toList();
  }

  @Test
  void xIsEitherEquallyOftenAndNotForeseeable() {
    int changes = 0;
    int[] firstAt = new int[16];
    for (long seed = 0; seed < 500; seed++) {
      Round r = RoundPlan.planned(round(Round.Kind.ABX, seed, items(2)), 16);
      assertThat(r.trials()).hasSize(16);
      assertThat(r.trials().stream().filter(t -> t.x().equals("v0")).count()).isEqualTo(8);
      for (int i = 0; i < 16; i++) {
        firstAt[i] += r.trials().get(i).x().equals("v0") ? 1 : 0;
        changes += i > 0 && !r.trials().get(i).x().equals(r.trials().get(i - 1).x()) ? 1 : 0;
      }
    }
    // In every place either is as likely; of 8 and 8 in random order 8 of 15 neighbours differ.
    for (int times : firstAt) {
      assertThat(times / 500.0).isBetween(0.4, 0.6);
    }
    assertThat(changes / (500 * 15.0)).isBetween(8 / 15.0 - 0.02, 8 / 15.0 + 0.02);
    int ofNine = 0;
    for (long seed = 0; seed < 200; seed++) {
      Round r = RoundPlan.planned(round(Round.Kind.ABX, seed, items(2)), 9);
      long first = r.trials().stream().filter(t -> t.x().equals("v0")).count();
      assertThat(first).isBetween(4L, 5L);
      ofNine += first == 5 ? 1 : 0;
    }
    assertThat(ofNine).isBetween(70, 130);
    assertThat(RoundPlan.planned(round(Round.Kind.ABX, 7, items(2)), 16))
        .isEqualTo(RoundPlan.planned(round(Round.Kind.ABX, 7, items(2)), 16));
    assertThatThrownBy(() -> RoundPlan.planned(round(Round.Kind.ABX, 7, items(3)), 16))
        .hasMessageContaining("two versions");
    assertThatThrownBy(() -> RoundPlan.planned(round(Round.Kind.ABX, 7, items(2)), 7))
        .hasMessageContaining("8 to 40");
  }

  @Test
  void everyPairOfAFewIsHeardInBothOrders() {
    Round r = RoundPlan.planned(round(Round.Kind.PAIRS, 3, items(6)), 0);
    assertThat(r.trials()).hasSize(30);
    Set<List<String>> heard = new HashSet<>();
    r.trials().forEach(t -> heard.add(t.items()));
    assertThat(heard).hasSize(30);
    // Once each before one comes again.
    Set<Set<String>> once = new HashSet<>();
    r.trials().subList(0, 15).forEach(t -> once.add(new HashSet<>(t.items())));
    assertThat(once).hasSize(15);
  }

  /** Sixteen are sorted by a listener who knows, in no more trials than merge sort needs. */
  @Test
  void manyAreSortedByAskingWhatTheAnswersLeaveOpen() {
    for (long seed = 0; seed < 40; seed++) {
      List<String> items = items(7 + (int) (seed % 10));
      Round r = RoundPlan.planned(round(Round.Kind.PAIRS, seed, items), 0);
      Map<String, Integer> wins = new HashMap<>();
      int n = 0;
      while (!r.done()) {
        Round.Trial t = r.trials().get(n);
        int a = Integer.parseInt(t.items().get(0).substring(1));
        int b = Integer.parseInt(t.items().get(1).substring(1));
        String better = t.items().get(a < b ? 0 : 1);
        wins.merge(better, 1, Integer::sum);
        r = RoundPlan.continued(r.withTrial(n, t.withAnswer(better)));
        n++;
      }
      assertThat(r.trials().size()).isLessThanOrEqualTo(RoundPlan.expected(r));
      // Neighbours in the true order must all have met: nothing else tells them apart.
      List<List<String>> met = new ArrayList<>();
      r.trials().forEach(t -> met.add(t.items().stream().sorted().toList()));
      for (int i = 0; i + 1 < items.size(); i++) {
        assertThat(met).contains(List.of("v" + i, "v" + (i + 1)).stream().sorted().toList());
      }
    }
  }

  @Test
  void oneTokenComesTwiceAndNeverAHiddenOne() {
    for (long seed = 0; seed < 50; seed++) {
      List<String> items = List.of("v1", "v2", Round.REFERENCE, Round.LOW_ANCHOR);
      Round r = RoundPlan.planned(round(Round.Kind.RATING, seed, items), 0);
      List<String> tokens = r.trials().stream().map(t -> t.items().get(0)).toList();
      assertThat(tokens).hasSize(5).containsAll(items);
      assertThat(tokens.stream().filter(t -> t.equals("v1") || t.equals("v2")).count())
          .isEqualTo(3);
    }
  }
}
