package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.trial.SweepTrial;
import kettlesieve.calibrate.trial.Verdict;
import kettlesieve.calibrate.truth.Truth;
import org.junit.jupiter.api.Test;

/** Where more is worse in truth, the score must not rise. */
class SweepTablesTest {
  private static SweepTrial.Step step(double truth, double said) {
    return new SweepTrial.Step(
        new Truth(truth, truth, truth, 0, 0, 0, 0, 0), new Verdict(Map.of(), Map.of(), said));
  }

  private static String printed(double[]... truthAndSaid) {
    List<SweepTrial.Step> steps = new ArrayList<>();
    for (double[] s : truthAndSaid) {
      steps.add(step(s[0], s[1]));
    }
    StringWriter text = new StringWriter();
    Scene scene = new Scene("s", Half.SETTING, "v", "n", "hiss", true, 10, 1);
    SweepTrial trial =
        new SweepTrial(scene, List.of(), List.of(new SweepTrial.Sweep("gate", steps)));
    new SweepTables(new PrintWriter(text), List.of(trial)).print();
    return text.toString();
  }

  @Test
  void stepsThatRiseWhereAllTruthsFallAreCounted() {
    // Better, then three times worse: the score falls, rises by 2, and rises by half a point.
    String text =
        printed(
            new double[] {1, 50},
            new double[] {5, 70},
            new double[] {4, 60},
            new double[] {3, 62},
            new double[] {2, 62.5});
    assertThat(text).contains("| all | 33.3 % of 3 |").contains("| gate | 33.3 % of 3 |");
    assertThat(text).contains("before all truths fell | 0.0 % of 1 |");
    assertThat(printed(new double[] {5, 60}, new double[] {4, 50}, new double[] {3, 63}))
        .contains("| all | 50.0 % of 2 |")
        .contains("before all truths fell | 100.0 % of 1 |");
  }
}
