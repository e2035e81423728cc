package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import kettlesieve.core.Outside;
import org.junit.jupiter.api.Test;

/** The rank tests against SciPy's on the same numbers (script: fixtures/make_separation.py). */
class RankTestsTest {
  private static final JsonNode OUTSIDE = Outside.read("separation.json").path("rank");

  private static double[][] table(String name) {
    JsonNode rows = OUTSIDE.path(name);
    double[][] table = new double[rows.size()][rows.get(0).size()];
    for (int i = 0; i < table.length; i++) {
      for (int j = 0; j < table[i].length; j++) {
        table[i][j] = rows.get(i).get(j).asDouble();
      }
    }
    return table;
  }

  @Test
  void friedmanAndWilcoxonAreScipys() {
    RankTests tests = RankTests.of(List.of("a", "b", "c", "d"), table("scores"));
    JsonNode friedman = OUTSIDE.path("friedman");
    assertThat(tests.chiSquare()).isCloseTo(friedman.path("statistic").asDouble(), within(1e-9));
    assertThat(tests.p()).isCloseTo(friedman.path("p").asDouble(), within(1e-9));
    RankTests.Pairing first = tests.pairs().get(0);
    JsonNode wilcoxon = OUTSIDE.path("wilcoxon");
    assertThat(first.statistic()).isCloseTo(wilcoxon.path("statistic").asDouble(), within(1e-9));
    assertThat(first.p()).isCloseTo(wilcoxon.path("p").asDouble(), within(1e-9));
    assertThat(tests.pairs()).hasSize(6);
    // The third version is the best nearly everywhere, the fourth the worst.
    assertThat(tests.meanRanks()[2]).isLessThan(1.5);
    assertThat(tests.meanRanks()[3]).isGreaterThan(3.5);
  }

  @Test
  void tiedRanksAreCorrectedFor() {
    RankTests tests = RankTests.of(List.of("a", "b", "c"), table("tied"));
    JsonNode friedman = OUTSIDE.path("friedmanTied");
    assertThat(tests.chiSquare()).isCloseTo(friedman.path("statistic").asDouble(), within(1e-9));
    assertThat(tests.p()).isCloseTo(friedman.path("p").asDouble(), within(1e-9));
  }

  @Test
  void tooLittleIsRefusedAndVersionsAlikeDoNotDiffer() {
    assertThatThrownBy(() -> RankTests.of(List.of("a", "b"), new double[5][2]))
        .isInstanceOf(IllegalArgumentException.class);
    RankTests alike = RankTests.of(List.of("a", "b", "c"), new double[4][3]);
    assertThat(alike.p()).isEqualTo(1);
    assertThat(alike.pairs()).allMatch(p -> p.p() == 1);
    assertThat(RankTests.over(List.of())).isEmpty();
  }
}
