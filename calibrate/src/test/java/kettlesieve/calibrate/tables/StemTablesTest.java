package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.trial.StemTrial;
import kettlesieve.calibrate.trial.Verdict;
import kettlesieve.calibrate.truth.StemTruth;
import org.junit.jupiter.api.Test;

/** Pairs are counted as their points and their certainty say, each half by itself. */
class StemTablesTest {
  private static StemTrial.Pair pair(
      String set, boolean clear, boolean better, double points, int sure) {
    return new StemTrial.Pair(set, "vocals", "a", "b", clear, better, points, sure);
  }

  private static StemTrial.Judged judged(double sdr, double said, String offender) {
    StemTruth truth = new StemTruth(sdr, 20, 10, 10, sdr, Map.of("drums", 5.0, "bass", 12.0));
    Verdict verdict = new Verdict(Map.of("est-sdr", said), Map.of("added", 80.0), 50);
    return new StemTrial.Judged("8 tools", 0, "a", "HOLES", "vocals", truth, offender, verdict);
  }

  private static String printed(StemTrial... trials) {
    StringWriter text = new StringWriter();
    new StemTables(new PrintWriter(text), List.of(trials)).print();
    return text.toString();
  }

  @Test
  void countsWhatIsRightAndWhatIsSurelyWrong() {
    String text =
        printed(
            new StemTrial(
                "s",
                Half.SETTING,
                List.of(judged(10, 11, "drums"), judged(4, 9, "bass")),
                List.of(
                    pair("8 tools", true, true, 5, 1),
                    pair("8 tools", true, true, -5, -1),
                    pair("8 tools", true, false, -2, 0),
                    pair("8 tools", true, true, 0, 0),
                    pair("8 tools", true, true, Double.NaN, 0),
                    pair("8 tools", false, true, -9, -1)),
                List.of()),
            new StemTrial(
                "r",
                Half.REPORTING,
                List.of(),
                List.of(pair("8 tools", true, false, -1, -1)),
                List.of(new StemTrial.Leak(true, -20, "vocals", Map.of("a", -20.5, "b", -24.0)))));
    assertThat(text)
        .contains("| 8 tools | 50.0 % of 5 | 100.0 % of 1 |")
        .contains("| 8 tools | 50.0 % of 2 (said of 5) | 0.0 % of 1 (said of 1) |")
        .contains("| est-sdr within 2 dB of the truth, −5 to 15 dB | 1 of 2 | 0 of 0 |")
        .contains("| worst offender right where it leads by 3 dB | 1 of 2 | 0 of 0 |")
        .contains("| holes: Added under 85 | 2 of 2 | 0 of 0 |")
        .contains("| -20 dB: mean; within 1 dB | NaN dB; 0 of 0 | -22.3 dB; 1 of 2 |");
  }
}
