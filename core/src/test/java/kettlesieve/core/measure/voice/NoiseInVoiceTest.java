package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** How much noise is left within the voice: told by what was taken away, known here. */
class NoiseInVoiceTest {
  private static double read(float[] version) {
    return Scene.read(new NoiseInVoice(), Scene.pair(version)).value();
  }

  @Test
  void nothingWasTakenOutOfTheSource() {
    assertThat(read(Scene.NOISY)).isCloseTo(0, within(0.01));
  }

  /** The noise is told generously where somebody speaks: so rather too much seems to be left. */
  @ParameterizedTest
  @ValueSource(doubles = {0.7, 0.5, 0.3})
  void aShareOfTheNoiseIsReadNearToWhatItIs(double share) {
    double known = 20 * Math.log10(share);
    assertThat(read(Scene.withNoiseTimes(share))).isBetween(known - 0.5, 0.55 * known);
  }

  @Test
  void ofTheCleanRecordingHardlyAnythingIsLeft() {
    assertThat(read(Scene.withNoiseTimes(0))).isLessThan(-10);
  }

  /** Turning the whole, a band or the pauses down leaves the noise where it is in the voice. */
  @Test
  void whatOnlyTurnsDownTakesNothingOut() {
    float[] quieter = Scene.NOISY.clone();
    float[] gated = Scene.NOISY.clone();
    for (int i = 0; i < quieter.length; i++) {
      quieter[i] *= 0.3f;
      gated[i] *= (float) (0.8 + 0.2 * Math.sin(2 * Math.PI * 0.5 * i / Scene.RATE));
    }
    assertThat(read(quieter)).isCloseTo(0, within(0.1));
    // A band at half its level, and half of the noise: the one must not pass for the other.
    float[] half = Scene.withNoiseTimes(0.5);
    float[] halfDull = Sounds.mix(half, Sounds.lowPass(half, Scene.RATE, 900), -0.5);
    assertThat(read(halfDull)).isCloseTo(read(half), within(1.0));
    assertThat(read(gated)).isGreaterThan(-2);
    float[] low = Sounds.lowPass(Scene.NOISY, Scene.RATE, 900);
    assertThat(read(Sounds.mix(Scene.NOISY, low, -0.5))).isGreaterThan(-2);
  }

  /** What holds a hundredth of the noise counts for little, in however many bands it stood. */
  @Test
  void bandsCountByTheNoiseThatIsInThem() {
    float[] loud = Sounds.lowPass(Scene.NOISE, Scene.RATE, 700);
    float[] soft = Sounds.mix(Scene.NOISE, loud, -1);
    float[] withLoud = Sounds.mix(Scene.SPEECH, loud, Scene.FACTOR);
    float[] withSoft = Sounds.mix(Scene.SPEECH, soft, 0.1 * Scene.FACTOR);
    float[] source = Sounds.mix(withLoud, soft, 0.1 * Scene.FACTOR);
    assertThat(of(source, withLoud)).isGreaterThan(-3.5);
    assertThat(of(source, withSoft)).isLessThan(-8);
  }

  private static double of(float[] source, float[] version) {
    return Scene.read(
            new NoiseInVoice(),
            Scene.pair(null, null, Audio.of(Scene.RATE, source), Audio.of(Scene.RATE, version)))
        .value();
  }

  @Test
  void subtractionTakesOutMoreTheMoreItTakes() {
    double last = 0.1;
    for (int amount : new int[] {0, 30, 90}) {
      Audio made =
          new PlainSubtraction()
              .process(Audio.of(Scene.RATE, Scene.NOISY), amount, Progress.SILENT);
      double now = read(made.wholeChannel(0));
      assertThat(now).as("amount " + amount).isLessThan(last);
      last = now;
    }
    assertThat(last).isBetween(-16.0, -3.0);
  }
}
