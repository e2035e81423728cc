package kettlesieve.core.score.ears;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.Odds;
import kettlesieve.core.score.odds.Validity;
import org.junit.jupiter.api.Test;

/** The person's own answers are evidence beside the figures. */
class EarOddsTest {
  @Test
  void oddsAreMultiplied() {
    // 7 in 10 and 7 in 10: odds 7/3 · 7/3 = 49/9, so 49 in 58 (Bayes).
    assertThat(EarOdds.product(0.7, 0.7)).isCloseTo(49.0 / 58, within(1e-12));
    assertThat(EarOdds.product(0.7, 0.5)).isCloseTo(0.7, within(1e-12));
    assertThat(EarOdds.product(0.7, 0.3)).isCloseTo(0.5, within(1e-12));
  }

  private static SheetOdds figures() {
    Map<String, Odds> odds = new LinkedHashMap<>();
    odds.put("a", new Odds(0.5, 0.7, Map.of("b", 0.7, "c", 0.7)));
    odds.put("b", new Odds(0.25, 0.5, Map.of("a", 0.3, "c", 0.5)));
    odds.put("c", new Odds(0.25, 0.5, Map.of("a", 0.3, "b", 0.5)));
    return new SheetOdds(odds, new Validity(8, 8, 0.02, 1, 1, ""), false);
  }

  /** So many pairs of a and b, of which a is preferred in some. */
  private static List<Round> rounds(Round.Kind kind, int trials, int won) {
    List<Round.Trial> all = new ArrayList<>();
    for (int i = 0; i < trials; i++) {
      all.add(new Round.Trial(List.of("a", "b"), null, i < won ? "a" : "b", null));
    }
    return List.of(new Round("r", kind, null, "", 1, null, "", List.of("a", "b"), "", all));
  }

  private static Optional<EarOdds> together(int trials, int won) {
    return EarOdds.of(figures(), rounds(Round.Kind.PAIRS, trials, won), "", 1);
  }

  @Test
  void earsThatAgreeMakeItSurerAndThoseThatDoNotTurnIt() {
    EarOdds agree = together(12, 10).orElseThrow();
    assertThat(agree.decided()).isEqualTo(12);
    assertThat(agree.together().get("a").better().get("b")).isBetween(0.95, 0.9999);
    assertThat(agree.together().get("a").best()).isGreaterThan(0.5);
    assertThat(agree.together().get("b").best()).isLessThan(0.1);
    // c was never heard: ears say nothing of it.
    assertThat(agree.together().get("c").better().get("a")).isCloseTo(0.3, within(1e-9));
    assertThat(agree.together().get("b").better().get("c")).isCloseTo(0.5, within(1e-9));
    assertThat(together(10, 10)).isPresent();
    EarOdds contradict = together(12, 1).orElseThrow();
    assertThat(contradict.together().get("a").better().get("b")).isLessThan(0.3);
    assertThat(contradict.together().values().stream().mapToDouble(Odds::best).sum())
        .isCloseTo(1, within(1e-9));
    assertThat(together(9, 9)).isEmpty();
    assertThat(EarOdds.of(figures(), rounds(Round.Kind.ABX, 12, 10), "", 1)).isEmpty();
    assertThat(EarOdds.of(figures(), rounds(Round.Kind.PAIRS, 12, 10), "vocals", 1)).isEmpty();
  }
}
