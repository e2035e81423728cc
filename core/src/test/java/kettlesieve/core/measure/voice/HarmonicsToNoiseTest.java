package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.measure.Spot;
import org.junit.jupiter.api.Test;

/** Noise and roughness in the voice, whatever the noise is. */
class HarmonicsToNoiseTest {
  private static Reading read(float[] version) {
    return Scene.read(new HarmonicsToNoise(), Scene.pair(version));
  }

  @Test
  void theLessNoiseTheClearerTheVoice() {
    double last = Double.NEGATIVE_INFINITY;
    for (double share : new double[] {4, 2, 1}) {
      double now = read(Scene.withNoiseTimes(share)).value();
      assertThat(now).as("noise times " + share).isGreaterThan(last + 0.5);
      last = now;
    }
    // What is left then is the voice's own.
    assertThat(read(Scene.SPEECH).value()).isGreaterThan(last + 0.3);
  }

  @Test
  void levelTellsNothingAndDetailsAreOnesOwn() {
    float[] quiet = Scene.NOISY.clone();
    for (int i = 0; i < quiet.length; i++) {
      quiet[i] *= 0.3f;
    }
    Reading source = read(Scene.NOISY);
    assertThat(read(quiet).value()).isCloseTo(source.value(), within(0.05));
    assertThat(source.detail("version")).isCloseTo(source.detail("source"), within(0.05));
    // Nothing is clearer than the source was: at least half a decibel is asked for.
    assertThat(source.value()).isLessThanOrEqualTo(-0.5 + 0.05);
  }

  /** A voice that was made rough for two seconds is heard there. */
  @Test
  void roughnessIsFoundAtItsPlace() {
    float[] rough = Scene.SPEECH.clone();
    int from = 4 * Scene.RATE;
    int to = 6 * Scene.RATE;
    float[] noise = Sounds.white(rough.length, 8);
    for (int i = from; i < to; i++) {
      rough[i] *= Math.max(0, 1 + noise[i / 40 * 40]);
    }
    Reading reading = read(rough);
    assertThat(reading.spots()).isNotEmpty();
    Spot worst = reading.spots().get(0);
    assertThat(worst.from()).isBetween(3.9, 6.0);
  }
}
