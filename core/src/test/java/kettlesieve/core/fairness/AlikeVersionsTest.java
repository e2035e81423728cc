package kettlesieve.core.fairness;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import org.junit.jupiter.api.Test;

/** The null test: what is left of one minus the other after fitting the level. */
class AlikeVersionsTest {
  private static final float[] SPEECH = Sounds.speech16();

  private static float[] times(float[] x, double gain) {
    return Sounds.mix(new float[x.length], x, gain);
  }

  @Test
  void aChangeOfLevelAloneNulls() {
    assertThat(AlikeVersions.nullDb(SPEECH, times(SPEECH, 0.3))).isLessThan(-100);
    assertThat(AlikeVersions.nullDb(SPEECH, times(SPEECH, -2))).isLessThan(-100);
  }

  @Test
  void whatIsAddedIsWhatIsLeft() {
    float[] noise = Sounds.white(SPEECH.length, 6);
    for (int down : new int[] {20, 50, 70}) {
      double factor = Sounds.rms(SPEECH) / Sounds.rms(noise) * Math.pow(10, -down / 20.0);
      double left = AlikeVersions.nullDb(SPEECH, Sounds.mix(SPEECH, noise, factor));
      assertThat(left).isCloseTo(-down, within(0.5));
    }
  }

  @Test
  void silenceIsLikeNothing() {
    assertThat(AlikeVersions.nullDb(new float[100], SPEECH)).isZero();
    assertThat(AlikeVersions.nullDb(SPEECH, new float[100])).isZero();
  }
}
