package kettlesieve.calibrate.corpus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.testpiece.MadeNoise;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Noises that are made by code: what their names promise. */
class NoiseMakerTest {
  private static final int RATE = 16_000;
  private static final int LENGTH = 8 * RATE;

  private static float[] made(String how, long seed) throws CalibrationException {
    // Made ones need nothing of packages and recordings.
    NoiseMaker maker = new NoiseMaker(Catalogue.shipped(), null, null, null);
    Catalogue.Noise noise =
        Catalogue.shipped().noises(Half.SETTING).stream()
            .filter(n -> how.equals(n.made()))
            .findFirst()
            .or(
                () ->
                    Catalogue.shipped().noises(Half.REPORTING).stream()
                        .filter(n -> how.equals(n.made()))
                        .findFirst())
            .orElseThrow(() -> new AssertionError("no noise is made by " + how));
    return maker.of(noise, RATE, LENGTH, seed);
  }

  /** Mean power between two frequencies, dB. */
  private static double level(float[] x, double low, double high) {
    Spectrogram s = new Spectrogram(Audio.of(RATE, x), 0);
    double sum = 0;
    int cells = 0;
    for (int t = 0; t < s.framing().count(); t++) {
      float[] row = s.powers(t);
      for (int k = s.framing().binAtOrAbove(low); k <= s.framing().binAtOrBelow(high); k++) {
        sum += row[k];
        cells++;
      }
    }
    return 10 * Math.log10(sum / cells);
  }

  @Test
  void pinkNoiseFallsByThreeDecibelsAnOctave() {
    float[] pink = MadeNoise.pink(LENGTH, 5);
    double fall = level(pink, 200, 400) - level(pink, 1600, 3200);
    assertThat(fall).isCloseTo(9, within(1.0));
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 77})
  void theSameSeedMakesTheSameNoiseAndAnotherAnother(long seed) {
    assertThat(MadeNoise.pink(500, seed)).isEqualTo(MadeNoise.pink(500, seed));
    assertThat(MadeNoise.pink(500, seed)).isNotEqualTo(MadeNoise.pink(500, seed + 1));
  }

  @Test
  void everyMadeNoiseOfTheCatalogueCanBeMade() throws Exception {
    int made = 0;
    for (Half half : Half.values()) {
      for (Catalogue.Noise noise : Catalogue.shipped().noises(half)) {
        if (noise.made() == null || noise.made().startsWith("babble")) {
          continue;
        }
        float[] x = made(noise.made(), 3);
        double energy = 0;
        for (float v : x) {
          assertThat(Float.isFinite(v)).as(noise.id()).isTrue();
          energy += v * v;
        }
        assertThat(x).as(noise.id()).hasSize(LENGTH);
        assertThat(energy).as(noise.id()).isPositive();
        made++;
      }
    }
    assertThat(made).isGreaterThanOrEqualTo(6);
  }

  @Test
  void aNoiseThatNobodyCanMakeIsRefused() {
    NoiseMaker maker = new NoiseMaker(Catalogue.shipped(), null, null, null);
    Catalogue.Noise like = Catalogue.shipped().noises(Half.SETTING).get(0);
    Catalogue.Noise unknown = unknown(like);
    assertThatThrownBy(() -> maker.of(unknown, RATE, LENGTH, 1))
        .isInstanceOf(CalibrationException.class)
        .hasMessageContaining("thunder");
  }

  private static Catalogue.Noise unknown(Catalogue.Noise like) {
    return new Catalogue.Noise(
        like.id(), like.kind(), like.half(), like.steady(), "thunder", null, null);
  }
}
