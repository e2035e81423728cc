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

/** What is fitted on made-up versions is what these were made with. */
class OddsFitTest {
  private record Made(Estimate score, double truth) {}

  /** Scores that miss the truth by a normal error, in cases of eight versions. */
  private static List<OddsCase> cases(
      Half half, int count, double error, boolean doubt, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<OddsCase> cases = new ArrayList<>();
    for (int c = 0; c < count; c++) {
      List<Made> versions = new ArrayList<>();
      for (int v = 0; v < 8; v++) {
        double truth = 60 + 15 * random.nextGaussian();
        double said = truth + error * random.nextGaussian();
        double[] draws = new double[50];
        Arrays.setAll(draws, d -> said + random.nextGaussian());
        versions.add(new Made(new Estimate(said, draws), truth));
      }
      cases.add(
          OddsCase.of(
              "s" + c,
              half,
              doubt,
              versions,
              v -> new OddsCase.Version("t", v.score(), true, new double[] {v.truth()}),
              (a, b) -> Math.abs(a.truth() - b.truth()) > 8 ? 1 : 0));
    }
    return cases;
  }

  @Test
  void theErrorThatScoresWereMadeWithIsFound() {
    List<OddsCase> cases = new ArrayList<>(cases(Half.SETTING, 120, 5, false, 1));
    cases.addAll(cases(Half.SETTING, 120, 9, true, 2));
    Validity found = OddsFit.of(cases, "2026-12-01");
    // A difference of two errors; what versions have in common makes it a little smaller.
    assertThat(found.tau()).isCloseTo(5 * Math.sqrt(2), within(1.4));
    assertThat(found.doubtful()).isCloseTo(9 * Math.sqrt(2), within(2.2));
    assertThat(found.failure()).isLessThanOrEqualTo(0.04);
    assertThat(found.pairs()).isEqualTo(240 * 28);
    // With nothing that is warned of there is nothing to tell it by.
    Validity plain = OddsFit.of(cases(Half.SETTING, 60, 5, false, 3), "");
    assertThat(plain.doubtful()).isEqualTo(plain.tau());
  }

  @Test
  void whatIsSaidIsGotOnVersionsThatNothingWasFittedOn() {
    List<OddsCase> cases = new ArrayList<>(cases(Half.SETTING, 150, 6, false, 4));
    cases.addAll(cases(Half.REPORTING, 150, 6, false, 5));
    StringWriter text = new StringWriter();
    OddsTables tables = new OddsTables(new PrintWriter(text), cases, "2026-12-01");
    tables.print("made up");
    // A point for each bin that holds enough, of both halves.
    String figure = tables.figure("made up");
    assertThat(figure).startsWith("<svg").contains("made up: said and got").endsWith("</svg>\n");
    assertThat(figure.split("<circle", -1)).hasSize(13);
    String row =
        text.toString()
            .lines()
            .filter(l -> l.startsWith("| expected calibration error"))
            .findFirst()
            .orElseThrow();
    for (String cell : row.split("\\|")) {
      if (cell.strip().matches("[\\d.]+")) {
        assertThat(Double.parseDouble(cell.strip())).isLessThan(4);
      }
    }
    assertThat(text.toString())
        .contains("## made up")
        .contains("of 4200 pairs (2026-12-01)")
        .contains("said to be the best: was");
  }

  @Test
  void theTrulyBestIsAmongWhatCouldBeChosen() {
    List<Made> versions = new ArrayList<>();
    for (double truth : new double[] {90, 50, 70}) {
      versions.add(new Made(Estimate.sure(truth), truth));
    }
    OddsCase one =
        OddsCase.of(
            "s",
            Half.SETTING,
            false,
            versions,
            v -> new OddsCase.Version("t", v.score(), v.truth() < 80, new double[] {v.truth()}),
            (a, b) -> 1);
    assertThat(one.trulyBest()).containsExactly(2);
    assertThat(one.pairs()).hasSize(3);
  }
}
