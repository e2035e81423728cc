package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.ScoreScene;
import kettlesieve.calibrate.trial.PlayedTrial;
import kettlesieve.calibrate.trial.Verdict;
import kettlesieve.calibrate.truth.PlayedTruth;
import org.junit.jupiter.api.Test;

/** The tables count what they say. */
class PlayedTablesTest {
  private static PlayedTrial.Judged judged(String way, double off, double overall, double half) {
    return new PlayedTrial.Judged(
        way,
        1.25,
        new PlayedTruth(off, off, off / 10),
        new Verdict(
            Map.of("warble", off),
            Map.of("added", overall, "lost", 100.0),
            overall,
            new float[] {(float) (overall - half), (float) (overall + half)}));
  }

  private static String printed(PlayedTrial.Judged... versions) {
    ScoreScene scene = new ScoreScene("s", Half.SETTING, ScoreScene.Kind.PIANO, 1);
    StringWriter out = new StringWriter();
    new PlayedTables(new PrintWriter(out), List.of(new PlayedTrial(scene, List.of(versions))))
        .print();
    return out.toString();
  }

  @Test
  void pairsInOrderAndSurelyWrongOnesAreCounted() {
    // True 99, good 90, bad 95: one of three pairs is upside down, and surely so.
    String text =
        printed(
            judged(PlayedTrial.TRUE, 0, 99, 0.5),
            judged("good", 2, 90, 1),
            judged("bad", 4, 95, 1));
    assertThat(text).contains("| all | 66.7 % of 3 | – |");
    assertThat(text).contains("| without the true ones | 0.0 % of 1 | – |");
    assertThat(text).contains("| said surely, and wrong | 1 of 3 | 0 of 0 |");
    assertThat(text).contains("| first in its range | 1 of 1 | 0 of 0 |");
    assertThat(text).contains("| 98 or more on added | 1 of 1 | 0 of 0 |");
    assertThat(text).contains("| good | 90.00; 2.00 dB, 2.00 dB, 0.20 |");
  }

  @Test
  void whatIsUndecidedInTruthIsNoPair() {
    String text =
        printed(judged(PlayedTrial.TRUE, 0, 80, 3), judged("a", 4, 90, 3), judged("b", 4.3, 70, 3));
    assertThat(text).contains("| all | 50.0 % of 2 | – |");
    assertThat(text).contains("| first in its range | 0 of 1 | 0 of 0 |");
  }
}
