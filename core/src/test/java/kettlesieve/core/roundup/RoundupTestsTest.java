package kettlesieve.core.roundup;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.Outside;
import org.junit.jupiter.api.Test;

/**
 * The tests of a round-up against SciPy's on the same tables (script: fixtures/make_roundup.py).
 */
class RoundupTestsTest {
  private static Roundup roundup(JsonNode table) {
    int k = table.get(0).size();
    String[] labels = new String[k];
    for (int i = 0; i < k; i++) {
      labels[i] = "tool " + (char) ('a' + i);
    }
    List<ScoredComparison> all = new ArrayList<>();
    for (int r = 0; r < table.size(); r++) {
      double[] scores = new double[k];
      for (int i = 0; i < k; i++) {
        scores[i] = table.get(r).get(i).asDouble();
      }
      all.add(Scored.of("r" + r, labels, scores));
    }
    return new RoundupMaker(Roundup.By.VERSION, Aspect.ALL).of(all, List.of());
  }

  @Test
  void friedmanAndWilcoxonWithHolmAreScipys() {
    JsonNode cases = Outside.read("roundup.json").path("cases");
    assertThat(cases).hasSize(4);
    for (JsonNode c : cases) {
      RoundupTests tests = roundup(c.path("table")).all().tests().orElseThrow();
      String name = c.path("name").asText();
      assertThat(tests.chiSquare())
          .as(name)
          .isCloseTo(c.path("chiSquare").asDouble(), within(1e-9));
      assertThat(tests.p()).as(name).isCloseTo(c.path("p").asDouble(), within(1e-9));
      assertThat(tests.recordings()).isEqualTo(c.path("table").size());
      for (JsonNode p : c.path("pairs")) {
        String a = "tool " + (char) ('a' + p.get(0).asInt());
        String b = "tool " + (char) ('a' + p.get(1).asInt());
        RoundupTests.Pair pair =
            tests.pairs().stream()
                .filter(q -> List.of(a, b).contains(q.a()) && List.of(a, b).contains(q.b()))
                .findFirst()
                .orElseThrow();
        boolean turned = pair.a().equals(b);
        assertThat(turned ? pair.worse() : pair.better()).isEqualTo(p.get(2).asInt());
        assertThat(turned ? pair.better() : pair.worse()).isEqualTo(p.get(3).asInt());
        assertThat(pair.equal()).isEqualTo(p.get(4).asInt());
        assertThat(pair.p()).as(name).isCloseTo(p.get(5).asDouble(), within(1e-9));
        assertThat(pair.corrected()).as(name).isCloseTo(p.get(6).asDouble(), within(1e-9));
      }
    }
  }

  /** One that was tried once must not empty the table that all others share. */
  @Test
  void whatWasTriedSeldomIsLeftOutOfTheTestOverAll() {
    String[] labels = {"a", "b", "c", "d"};
    List<ScoredComparison> all = new ArrayList<>();
    for (int r = 0; r < 6; r++) {
      all.add(Scored.of("r" + r, labels, 80 + r, 70 + r % 2, 60, r == 0 ? 99 : Double.NaN));
    }
    RoundupTests tests =
        new RoundupMaker(Roundup.By.VERSION, Aspect.ALL)
            .of(all, List.of())
            .all()
            .tests()
            .orElseThrow();
    assertThat(tests.names()).containsExactly("a", "b", "c");
    assertThat(tests.recordings()).isEqualTo(6);
    assertThat(tests.p()).isLessThan(0.01);
    // All six the same way: 2 of 64 ways of the signs.
    RoundupTests.Pair pair =
        tests.pairs().stream()
            .filter(p -> p.a().equals("a") && p.b().equals("b"))
            .findFirst()
            .orElseThrow();
    assertThat(pair.p()).isCloseTo(2.0 / 64, within(1e-12));
    assertThat(pair.better()).isEqualTo(6);
  }
}
