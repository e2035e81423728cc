package kettlesieve.calibrate.odds;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.Scene;
import kettlesieve.calibrate.trial.SweepTrial;
import kettlesieve.calibrate.trial.Verdict;
import kettlesieve.calibrate.truth.Truth;
import kettlesieve.core.score.odds.Validity;
import org.junit.jupiter.api.Test;

/** Plateaus hold the best amount as often as they say. */
class SweepFitTest {
  private static final int STEPS = 14;

  private static Truth truth(double value) {
    return new Truth(value, value / 100, value, 0, 0, 0, 0, 0);
  }

  /** Sweeps whose scores miss the truth by a tilt and a bend, so many points each. */
  private static SweepTrial trial(Half half, int number, double tilt, double bend) {
    SplittableRandom random = new SplittableRandom(number);
    List<SweepTrial.Sweep> sweeps = new ArrayList<>();
    for (int s = 0; s < 6; s++) {
      double top = 1.6 * random.nextDouble() - 0.8;
      double a = tilt * random.nextGaussian();
      double b = bend * random.nextGaussian();
      List<SweepTrial.Step> steps = new ArrayList<>();
      for (int i = 0; i < STEPS; i++) {
        double u = 2.0 * i / (STEPS - 1) - 1;
        double value = 80 - 20 * (u - top) * (u - top);
        double said = value + a * u + b * (2 * u * u - 1);
        float[] draws = new float[40];
        Arrays.fill(draws, (float) said);
        steps.add(new SweepTrial.Step(truth(value), new Verdict(Map.of(), Map.of(), said, draws)));
      }
      sweeps.add(new SweepTrial.Sweep("made", steps));
    }
    Scene scene = new Scene("s" + number, half, "v", "n", "hiss", true, 10, number);
    return new SweepTrial(scene, List.of(), sweeps);
  }

  @Test
  void theBestAmountLiesInThePlateauAsOftenAsItSays() {
    List<SweepTrial> trials = new ArrayList<>();
    for (int i = 0; i < 24; i++) {
      trials.add(trial(i % 2 == 0 ? Half.SETTING : Half.REPORTING, i, 6, 2.4));
    }
    StringWriter text = new StringWriter();
    new SweepFit(new PrintWriter(text), trials).print(new Validity(8, 8, 0.02, 1, 1, ""));
    String row =
        text.toString().lines().filter(l -> l.startsWith("| reporting half")).findFirst().get();
    String held = row.split("\\|")[2].strip();
    assertThat(held).endsWith("of 72");
    int asGood = Integer.parseInt(held.split(" ")[0]);
    assertThat(asGood).isBetween(82, 100);
    int best = Integer.parseInt(row.split("\\|")[3].strip().replace(" %", ""));
    assertThat(best).isBetween(50, asGood);
    int width = Integer.parseInt(row.split("\\|")[4].strip().replace(" %", ""));
    assertThat(width).isBetween(5, 50);
  }

  @Test
  void theBestAmountIsWhatMostTruthsPrefer() {
    List<Truth> truths = new ArrayList<>();
    for (double value : new double[] {3, 9, 7}) {
      truths.add(truth(value));
    }
    // One of three truths against the other two does not count.
    truths.add(new Truth(20, 0, 0, 0, 0, 0, 0, 0));
    assertThat(SweepFit.best(truths)).isEqualTo(1);
  }
}
