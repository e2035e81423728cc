package kettlesieve.calibrate.tables;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.makers.Maker;
import kettlesieve.calibrate.trial.Trial;
import kettlesieve.calibrate.truth.Truth;
import org.junit.jupiter.api.Test;

/** What a score could reach if it knew the truth of its questions. */
class TruthScoreTest {
  /** Versions whose readings say nothing: by overall quality, noise left, SAR and distortion. */
  private static Trial trial(double[]... versions) {
    List<Trial.Judged> all = new ArrayList<>();
    for (double[] v : versions) {
      Truth truth = new Truth(v[0], v[0] / 40, v[0], v[2], 20, v[1], v[3], -20);
      all.add(
          new Trial.Judged(
              "m" + all.size(),
              Maker.Kind.REAL,
              truth,
              Map.of(),
              Map.of(),
              Map.of(),
              null,
              0,
              0,
              List.of(),
              new float[0]));
    }
    return new Trial(
        new Scene("s", Half.SETTING, "reader", "hiss", "hiss", true, 10, 1), List.of(), all);
  }

  @Test
  void whereTheQuestionsAgreeWithTheWholeNothingIsMissing() {
    List<Trial> trials =
        List.of(
            trial(
                new double[] {20, -12, 30, 30},
                new double[] {16, -9, 25, 25},
                new double[] {12, -6, 20, 20},
                new double[] {8, -3, 15, 15},
                new double[] {4, -1, 10, 10}));
    TruthScore score = new TruthScore(trials);
    assertThat(score.correlation(trials)).isCloseTo(1, within(1e-9));
    assertThat(score.order(trials).share()).isEqualTo(1);
  }

  @Test
  void whatNoQuestionTellsOfNoScaleBringsBack() {
    // Alike in all three questions, far apart as a whole.
    List<Trial> trials =
        List.of(
            trial(
                new double[] {20, -6, 20, 20},
                new double[] {16, -6, 20, 20},
                new double[] {12, -6, 20, 20},
                new double[] {8, -6, 20, 20},
                new double[] {4, -1, 10, 10}));
    TruthScore score = new TruthScore(trials);
    assertThat(score.correlation(trials)).isLessThan(0.8);
    // Equal scores count half: four pairs of ten are right, six are even.
    assertThat(score.order(trials).right()).isEqualTo(7);
  }
}
