package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.task.Progress;
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

  /** The body of the voice, taken away by and by; and a processor that goes over it twice. */
  @Test
  void whatWasTakenBeyondTheNoiseIsOrdered() {
    float[] body = Sounds.lowPass(Scene.SPEECH, Scene.RATE, 1500);
    double last = -15;
    for (double share : new double[] {0.4, 0.6, 0.9}) {
      float[] thinned = Sounds.mix(Scene.SPEECH, body, -share);
      double now = read(OVER, thinned).value();
      assertThat(now).as("without " + share + " of its body").isGreaterThan(last + 1);
      last = now;
    }
    assertThat(last).isGreaterThan(0);
    Audio noisy = Audio.of(Scene.RATE, Scene.NOISY);
    Audio once = new PlainSubtraction().process(noisy, 90, Progress.SILENT);
    assertThat(read(OVER, once.wholeChannel(0)).value()).isLessThan(-10);
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
