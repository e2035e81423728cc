package kettlesieve.calibrate.odds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.score.odds.Validity;
import org.junit.jupiter.api.Test;

/** Which share of the scores' error is the tools' own is found on scores that were made with it. */
class OverFitTest {
  private static final int TOOLS = 6;

  /**
   * Scores that miss the truth by a normal error of each tool, alike in all cases, and one of each
   * version; the tools anew for every ten cases, as one set of tools is no sample.
   */
  private static List<OddsCase> cases(double byTool, double byVersion, boolean choice) {
    SplittableRandom random = new SplittableRandom(7);
    List<OddsCase> cases = new ArrayList<>();
    double[] own = new double[TOOLS];
    double[] good = new double[TOOLS];
    for (int c = 0; c < 160; c++) {
      List<OddsCase.Version> versions = new ArrayList<>();
      for (int v = 0; v < TOOLS; v++) {
        own[v] = c % 10 == 0 ? byTool * random.nextGaussian() : own[v];
        good[v] = c % 10 == 0 ? 60 + 20 * random.nextGaussian() : good[v];
        double truth = good[v] + 3 * random.nextGaussian();
        double said = truth + own[v] + byVersion * random.nextGaussian();
        double[] draws = new double[20];
        Arrays.setAll(draws, d -> said + 0.2 * random.nextGaussian());
        versions.add(
            new OddsCase.Version(
                c / 10 + "-" + v, new Estimate(said, draws), choice, new double[] {truth}));
      }
      cases.add(OddsCase.of("s" + c, Half.SETTING, false, versions, v -> v, (a, b) -> 0));
    }
    return cases;
  }

  /** Of ten cases at a time, since only they have tools in common. */
  private static List<OverFit.Pair> pairs(List<OddsCase> cases) {
    List<OverFit.Pair> pairs = new ArrayList<>();
    for (int from = 0; from < cases.size(); from += 10) {
      pairs.addAll(OverFit.pairs(cases.subList(from, from + 10)));
    }
    return pairs;
  }

  private static double found(double byTool, double byVersion) {
    double tau = Math.sqrt(2) * Math.hypot(byTool, byVersion);
    return OverFit.lasting(
        pairs(cases(byTool, byVersion, true)), new Validity(tau, tau, 0.02, 1, 0, ""));
  }

  @Test
  void theShareThatScoresWereMadeWithIsFound() {
    assertThat(found(6, 0)).isCloseTo(1, within(0.15));
    assertThat(found(4.24, 4.24)).isCloseTo(0.5, within(0.15));
    assertThat(found(0, 6)).isCloseTo(0.05, within(0.05));
  }

  @Test
  void recordingsOfOneSourceAndWhatNobodyCouldChooseAreNotDrawn() {
    List<OddsCase> cases = cases(3, 3, true).subList(0, 8);
    List<OverFit.Drawn> drawn = OverFit.draw(cases, 4);
    assertThat(drawn).hasSize(300);
    for (OverFit.Drawn d : drawn) {
      assertThat(d.cases().stream().map(OddsCase::source)).hasSize(4).doesNotHaveDuplicates();
      assertThat(d.tools()).hasSize(TOOLS);
      // The mean of four single truths, not the first.
      OverFit.Pair pair = d.pairs().get(0);
      assertThat(pair.recordings()).isEqualTo(4);
    }
    assertThat(OverFit.draw(cases, 16)).isEmpty();
    assertThat(OverFit.draw(cases(3, 3, false).subList(0, 8), 4)).isEmpty();
  }

  @Test
  void aTableShowsWhatTheFittedShareBringsBesideNone() {
    StringWriter text = new StringWriter();
    List<OddsCase> cases = cases(3, 3, true).subList(0, 10);
    Validity validity = new Validity(6, 6, 0.02, 1, 0, "", 0.5, "");
    new OverTables(new PrintWriter(text), validity).print(cases, List.of());
    assertThat(text.toString()).contains("ρ 0.50 (τ 6.0, by the tool alone 4.2 points)");
    List<String> rows = text.toString().lines().filter(l -> l.startsWith("| 4 ")).toList();
    assertThat(rows).hasSize(2);
    assertThat(rows.get(0)).contains("| setting | 4500 |").contains("| 0.50 |");
    assertThat(rows.get(1)).contains("| 1.00 |");
  }
}
