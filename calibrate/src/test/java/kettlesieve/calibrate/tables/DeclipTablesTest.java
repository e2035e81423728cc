package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.ClipScene;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.ClipTrial;
import kettlesieve.calibrate.trial.Verdict;
import org.junit.jupiter.api.Test;

/** What the tables of declip count, on trials whose outcome is plain. */
class DeclipTablesTest {
  private static ClipTrial.Judged version(
      String maker, Maker.Kind kind, double truth, double estimate, double overall, double sure) {
    return new ClipTrial.Judged(
        maker,
        kind,
        truth,
        truth,
        sure,
        new Verdict(
            Map.of("est-delta-sdr", estimate), Map.of("added", 99.0, "lost", 98.9), overall));
  }

  /** The repair is 5 dB better in truth, and said to be so much better. */
  private static ClipTrial trial(Half half, int db, double estimated, double overall, double sure) {
    return new ClipTrial(
        new ClipScene("c-" + half + db, half, "voice", "voice", db, 1),
        List.of(
            version("untouched", Maker.Kind.UNTOUCHED, 0, 0, 60, sure),
            version("original", Maker.Kind.IDEAL, 100, 20, 99, sure),
            version("repair", Maker.Kind.REAL, 5, estimated, overall, sure)));
  }

  private static List<String> printed(List<ClipTrial> trials) {
    StringWriter text = new StringWriter();
    new DeclipTables(new PrintWriter(text), trials).print();
    return text.toString().lines().toList();
  }

  private static String row(List<String> lines, String name) {
    return lines.stream().filter(l -> l.startsWith("| " + name + " |")).findFirst().orElseThrow();
  }

  @Test
  void theOrderIsCountedByTheEstimateAndByTheOverallScore() {
    List<String> tables =
        printed(List.of(trial(Half.SETTING, 10, 6, 70, 9), trial(Half.REPORTING, 10, -2, 99.5, 9)));
    assertThat(row(tables, "all, by est-delta-sdr")).contains("100.0 % of 3 | 66.7 % of 3");
    // The original is said to be the worse of the two on the reporting half.
    assertThat(row(tables, "all, by overall")).contains("100.0 % of 3 | 66.7 % of 3");
    assertThat(row(tables, "real repairs and the source, by est-delta-sdr"))
        .contains("100.0 % of 1 | 0.0 % of 1");
    assertThat(row(tables, "clipped to 3 dB, by overall")).contains("– | –");
    assertThat(row(tables, "clipped to 10 dB, by overall")).contains("100.0 % of 3");
    assertThat(row(tables, "with repair, overall")).contains("100.0 % of 2 | 50.0 % of 2");
  }

  @Test
  void theEstimatesErrorHasAMeanAndADeviation() {
    List<String> tables =
        printed(List.of(trial(Half.SETTING, 10, 6, 70, 9), trial(Half.SETTING, 7, 8, 70, 9)));
    // One decibel too much and three: two on average, one off it.
    assertThat(row(tables, "est-delta-sdr minus the true gain, dB: mean, deviation"))
        .contains("2.00, 1.00 of 2");
  }

  @Test
  void neutralCasesNeedNinetyNineAndDoubtfulSourcesAreCounted() {
    List<String> tables =
        printed(List.of(trial(Half.SETTING, 10, 6, 70, 9), trial(Half.SETTING, 3, 6, 99.9, 1.5)));
    assertThat(row(tables, "untouched: 99 or more on added")).contains("2 of 2");
    assertThat(row(tables, "untouched: 99 or more on lost")).contains("0 of 2");
    assertThat(row(tables, "original among the first (within a point)")).contains("2 of 2");
    assertThat(row(tables, "the same for voices where the estimates agree to 2 dB"))
        .contains("1 of 1");
    assertThat(row(tables, "sources on which the estimates disagree")).contains("1 of 2");
  }
}
