package kettlesieve.calibrate.makers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.calibrate.truth.PlayedTruth;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Yin;
import org.junit.jupiter.api.Test;

/** Processors of known flaws, and how far what they make is from what was played. */
class StretchersTest {
  private static final int RATE = 22_050;

  /** A tone that is struck each 0.4 s. */
  private static Audio strokes(double ratio) {
    float[] x = new float[(int) (4 * ratio * RATE)];
    for (int i = 0; i < x.length; i++) {
      double since = i / (double) RATE % (0.4 * ratio);
      double tone = Math.sin(2 * Math.PI * 220 * i / RATE) + Math.sin(2 * Math.PI * 660 * i / RATE);
      x[i] = (float) (0.2 * Math.exp(-since / 0.08) * tone);
    }
    return Audio.of(RATE, x);
  }

  @Test
  void allKeepTheLengthAskedFor() {
    Audio in = strokes(1);
    for (Audio made :
        new Audio[] {Stretchers.joined(in, 1.5, 0.02), Stretchers.scattered(in, 1.5)}) {
      assertThat(made.seconds()).isCloseTo(1.5 * in.seconds(), within(0.01));
    }
  }

  @Test
  void readFasterIsHigherAndShorter() {
    Audio high = Stretchers.faster(strokes(1), 1.25);
    assertThat(high.seconds()).isCloseTo(4 / 1.25, within(0.01));
    assertThat(new Yin(high, 100, 500).at(1.3)).isCloseTo(275, within(2.0));
  }

  @Test
  void whatWasPlayedIsNearestAndACloudIsFarthest() {
    Audio played = strokes(1.5);
    PlayedTruth itself = PlayedTruth.of(played, played);
    assertThat(itself.tone()).isCloseTo(0, within(1e-6));
    assertThat(itself.time()).isCloseTo(0, within(1e-6));
    assertThat(itself.attacks()).isCloseTo(0, within(1e-6));
    PlayedTruth joined = PlayedTruth.of(played, Stretchers.joined(strokes(1), 1.5, 0.06));
    PlayedTruth cloud = PlayedTruth.of(played, Stretchers.scattered(strokes(1), 1.5));
    assertThat(itself.against(joined)).isEqualTo(1);
    assertThat(joined.against(itself)).isEqualTo(-1);
    assertThat(cloud.time()).isGreaterThan(joined.time());
    assertThat(cloud.attacks()).isGreaterThan(joined.attacks());
    assertThat(itself.against(itself)).isZero();
  }

  @Test
  void aDelayAndALevelAreNoError() {
    Audio played = strokes(1.5);
    float[] x = played.wholeChannel(0);
    float[] late = new float[x.length];
    for (int i = RATE / 50; i < late.length; i++) {
      late[i] = 0.3f * x[i - RATE / 50];
    }
    PlayedTruth truth = PlayedTruth.of(played, Audio.of(RATE, late));
    assertThat(truth.time()).isLessThan(1);
    assertThat(truth.attacks()).isLessThan(0.05);
  }
}
