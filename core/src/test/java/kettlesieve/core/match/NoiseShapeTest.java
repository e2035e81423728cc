package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.Activity;
import kettlesieve.core.ground.NoiseEstimate;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.Framing;
import org.junit.jupiter.api.Test;

/** What the pauses tell of the noise: how steady it is, and where it has risen since. */
class NoiseShapeTest {
  private static final int RATE = 16_000;

  /** Speech-like bursts of one second in every two, over a noise. */
  private static float[] over(float[] noise) {
    float[] x = noise.clone();
    float[] voice = Sounds.white(x.length, 77);
    for (int i = 0; i < x.length; i++) {
      double t = i / (double) RATE;
      if (t % 2 > 1) {
        x[i] += (float) (3 * (0.5 + 0.5 * Math.sin(2 * Math.PI * 5 * t)) * voice[i]);
      }
    }
    return x;
  }

  private static PauseGround ground(float[] x) {
    return SourceMaterial.of(Audio.of(RATE, x), null, null).pauses();
  }

  private static float[] gaussian(int seconds) {
    return Sounds.white(seconds * RATE, 5);
  }

  @Test
  void hissIsSteadyAndRainOfDropsIsNot() {
    float[] hiss = gaussian(16);
    for (int i = 0; i < hiss.length; i++) {
      hiss[i] *= 0.1f;
    }
    assertThat(ground(over(hiss)).notSteady()).isFalse();
    float[] drops = new float[hiss.length];
    SplittableRandom random = new SplittableRandom(3);
    float[] grain = gaussian(1);
    for (int n = 0; n < 16 * 25; n++) {
      int at = random.nextInt(drops.length - 400);
      for (int i = 0; i < 400; i++) {
        drops[at + i] += (float) (0.4 * Math.exp(-i / 80.0) * grain[(n * 37 + i) % grain.length]);
      }
    }
    for (int i = 0; i < drops.length; i++) {
      drops[i] += 0.02f * hiss[i];
    }
    assertThat(ground(over(drops)).notSteady()).isTrue();
  }

  @Test
  void noiseThatRisesIsNotTakenForVoice() {
    // From the middle on the noise is 10 dB louder; pauses are marked in the quiet half alone.
    float[] noise = gaussian(16);
    for (int i = 0; i < noise.length; i++) {
      noise[i] *= i < noise.length / 2 ? 0.05f : 0.158f;
    }
    Audio audio = Audio.of(RATE, over(noise));
    List<TimeSpan> marks =
        List.of(new TimeSpan(0.05, 0.95), new TimeSpan(2.05, 2.95), new TimeSpan(4.05, 4.95));
    PauseGround ground = SourceMaterial.of(audio, null, marks).pauses();
    Framing framing = SourceMaterial.of(audio, null, marks).framing();
    int wanted = 0;
    int cells = 0;
    for (int t = 0; t < framing.count(); t++) {
      double at = framing.centreSeconds(t);
      if (at > 10.1 && at < 10.9 || at > 12.1 && at < 12.9) {
        for (int k = 20; k < 200; k++) {
          wanted += ground.wanted(0).has(t, k) ? 1 : 0;
          cells++;
        }
      }
    }
    assertThat((double) wanted / cells).isLessThan(0.01);
    NoiseEstimate covering = ground.covering(0);
    double late = covering.moveTo((int) (12.5 / framing.hopSeconds()))[100];
    double early = covering.moveTo((int) (2.5 / framing.hopSeconds()))[100];
    assertThat(10 * Math.log10(late / early)).isCloseTo(10, within(1.5));
  }

  @Test
  void shortPausesAreUsedWhereThereAreNoLongOnes() {
    float[] x = Sounds.white(RATE * 8, 2);
    for (int i = 0; i < x.length; i++) {
      // Half a second of sound, then 0.35 s without: too little once 0.15 s are left free.
      double t = i / (double) RATE % 0.85;
      x[i] *= t < 0.5 ? 0.3f : 0.003f;
    }
    Activity activity = Activity.find(SourceMaterial.spectra(Audio.of(RATE, x)));
    assertThat(activity.problem()).isEmpty();
    assertThat(activity.pauses()).hasSizeGreaterThan(6).allMatch(p -> p.seconds() < 0.35);
  }

  @Test
  void tooLittlePauseIsSaidWithHowMuchWasFound() {
    float[] x = Sounds.white(RATE * 4, 2);
    for (int i = 0; i < x.length; i++) {
      double t = i / (double) RATE;
      x[i] *= t > 1 && t < 1.4 ? 0.003f : 0.3f;
    }
    Activity activity = Activity.find(SourceMaterial.spectra(Audio.of(RATE, x)));
    assertThat(activity.problem().orElseThrow())
        .contains("in 1 place,")
        .containsPattern("only 0\\.[1-3][0-9] s of pause");
  }

  @Test
  void marksOverClicksLeaveTheRestActive() {
    float[] x = Sounds.white(RATE * 6, 9);
    SplittableRandom random = new SplittableRandom(4);
    for (int i = 0; i < x.length; i++) {
      x[i] *= i / (double) RATE % 2 > 1 ? 0.02f : 0.002f;
    }
    for (int n = 0; n < 120; n++) {
      x[random.nextInt(x.length)] += 0.9f;
    }
    List<TimeSpan> marks = List.of(new TimeSpan(0.1, 0.9), new TimeSpan(2.1, 2.9));
    Activity activity = Activity.marked(SourceMaterial.spectra(Audio.of(RATE, x)), marks);
    int active = 0;
    Framing framing = SourceMaterial.of(Audio.of(RATE, x), null, marks).framing();
    for (int t = 0; t < framing.count(); t++) {
      active += activity.active(t) ? 1 : 0;
    }
    assertThat((double) active / framing.count()).isGreaterThan(0.3);
  }
}
