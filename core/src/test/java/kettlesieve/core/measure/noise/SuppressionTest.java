package kettlesieve.core.measure.noise;

import static org.assertj.core.api.Assertions.assertThat;

import kettlesieve.core.Sounds;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;
import org.junit.jupiter.api.Test;

/** What was taken beyond, and what was left beyond, what the program itself takes for the voice. */
class SuppressionTest {
  private static final PairMeasure OVER = new OverSuppression();
  private static final PairMeasure UNDER = new UnderSuppression();

  private static Reading read(PairMeasure measure, float[] version) {
    return Scene.read(measure, Scene.pair(version));
  }

  @Test
  void theCleanRecordingIsWithinDoubt() {
    assertThat(read(OVER, Scene.SPEECH).value()).isLessThan(-10);
    assertThat(read(UNDER, Scene.SPEECH).value()).isLessThan(2);
  }

  @Test
  void theSourceItselfLostNothingAndHasAllItsNoise() {
    assertThat(read(OVER, Scene.NOISY).value()).isEqualTo(-15);
    assertThat(read(UNDER, Scene.NOISY).value())
        .isGreaterThan(read(UNDER, Scene.SPEECH).value() + 2);
  }

  @Test
  void whatIsLeftOfTheNoiseIsOrdered() {
    double last = Double.POSITIVE_INFINITY;
    for (double share : new double[] {1.5, 1, 0.7, 0.4}) {
      double now = read(UNDER, Scene.withNoiseTimes(share)).value();
      assertThat(now).as("noise times " + share).isLessThan(last - 1);
      last = now;
    }
  }

  /** Twice through a strong denoiser takes more of the voice than once, and once more than none. */
  @Test
  void whatWasTakenBeyondTheNoiseIsOrdered() {
    Audio once =
        new PlainSubtraction().process(Audio.of(Scene.RATE, Scene.NOISY), 90, Progress.SILENT);
    Audio twice = new PlainSubtraction().process(once, 90, Progress.SILENT);
    double first = read(OVER, once.wholeChannel(0)).value();
    double second = read(OVER, twice.wholeChannel(0)).value();
    assertThat(second).isGreaterThan(first + 0.5);
    float[] thinned =
        Sounds.mix(Scene.SPEECH, Sounds.lowPass(Scene.SPEECH, Scene.RATE, 1500), -0.9);
    assertThat(read(OVER, thinned).value()).isGreaterThan(0);
  }

  @Test
  void spotsShowWhereTheVoiceIsGone() {
    float[] version = Scene.withNoiseTimes(0.1);
    int loudest = 0;
    double most = 0;
    int length = (int) (0.25 * Scene.RATE);
    for (int from = 0; from + length < version.length; from += length / 2) {
      double energy = 0;
      for (int i = from; i < from + length; i++) {
        energy += Scene.SPEECH[i] * Scene.SPEECH[i];
      }
      if (energy > most) {
        most = energy;
        loudest = from;
      }
    }
    for (int i = loudest; i < loudest + length; i++) {
      version[i] *= 0.05f;
    }
    Pair pair = Scene.pair(version);
    Reading holed = Scene.read(OVER, pair);
    assertThat(holed.value()).isGreaterThan(read(OVER, Scene.withNoiseTimes(0.1)).value() + 5);
    Spot worst = holed.spots().get(0);
    double at = (double) loudest / Scene.RATE;
    assertThat(worst.from()).isBetween(at - 0.15, at + 0.3);
    assertThat(Scene.read(UNDER, pair).value()).isLessThan(2);
  }
}
