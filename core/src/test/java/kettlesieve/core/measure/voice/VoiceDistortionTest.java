package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;

/** How much the clear voice was changed; noise that was taken out of it is no change. */
class VoiceDistortionTest {
  private static double read(float[] version) {
    return Scene.read(new VoiceDistortion(), Scene.pair(version)).value();
  }

  @Test
  void nothingIsChangedByTakingTheNoiseAway() {
    assertThat(read(Scene.NOISY)).isCloseTo(-35, within(1e-9));
    assertThat(read(Scene.SPEECH)).isLessThan(-30);
    for (double share : new double[] {1.5, 0.6, 0.3, 0.1}) {
      assertThat(read(Scene.withNoiseTimes(share))).as("noise times " + share).isLessThan(-30);
    }
  }

  /** 0.2·sin t changes the voice by 20·log10 0.2 less 6 dB on average over its course. */
  @Test
  void aGainThatMovesIsReadAsFarAsItMoves() {
    assertThat(read(moved(0.2))).isBetween(-21.5, -17.5);
    assertThat(read(moved(0.05))).isBetween(-34.5, -29.0);
    assertThat(read(moved(0.4))).isBetween(-15.5, -11.5);
  }

  private static float[] moved(double depth) {
    float[] version = Scene.NOISY.clone();
    for (int i = 0; i < version.length; i++) {
      version[i] *= (float) (1 + depth * Math.sin(2 * Math.PI * 0.7 * i / Scene.RATE));
    }
    return version;
  }

  /** What a band lost as a whole, voice loss and bandwidth tell. */
  @Test
  void aFixedToneControlIsNoChange() {
    float[] low = Sounds.lowPass(Scene.NOISY, Scene.RATE, 900);
    assertThat(read(Sounds.mix(Scene.NOISY, low, -0.5))).isLessThan(-29);
  }

  @Test
  void theStrongerTheProcessorTheMoreItChanges() {
    double last = -35.1;
    for (int amount : new int[] {0, 20, 50}) {
      Audio made =
          new SmoothedWiener().process(Audio.of(Scene.RATE, Scene.NOISY), amount, Progress.SILENT);
      double now = read(made.wholeChannel(0));
      assertThat(now).as("amount " + amount).isGreaterThan(last);
      last = now;
    }
  }

  @Test
  void placesLieWhereTheVoiceWasChanged() {
    float[] version = Scene.NOISY.clone();
    for (int i = 6 * Scene.RATE; i < 9 * Scene.RATE; i++) {
      version[i] *= 0.6f;
    }
    Pair pair = Scene.pair(version);
    Reading reading = Scene.read(new VoiceDistortion(), pair);
    assertThat(reading.spots())
        .isNotEmpty()
        .allSatisfy(s -> assertThat(s.from()).isBetween(5.5, 9.2));
  }
}
