package kettlesieve.core.fairness;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.LinearTimeAudio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A top end that was cut off is told from one that only has less noise. */
class BandLimitTest {
  private static final int RATE = 48_000;
  private static final float[] SPEECH =
      Sounds.mix(Sounds.speech48(), Sounds.white(Sounds.speech48().length, 21), 0.002);
  private static final Audio SOURCE = Audio.of(RATE, SPEECH);

  @ParameterizedTest
  @ValueSource(doubles = {3400, 5500, 8000, 11_000})
  void aCutIsFoundWhereItIs(double hz) {
    double found = BandLimit.find(SOURCE, Audio.of(RATE, Sounds.lowPass(SPEECH, RATE, hz)));
    assertThat(found).isCloseTo(hz, within(500.0));
  }

  @Test
  void aLowRateIsACutToo() {
    double found = BandLimit.find(SOURCE, LinearTimeAudio.resample(SOURCE, 16_000));
    assertThat(found).isBetween(7000.0, 8500.0);
  }

  @Test
  void lessHissIsNoCut() {
    float[] quieter =
        Sounds.mix(Sounds.speech48(), Sounds.white(Sounds.speech48().length, 22), 0.0001);
    assertThat(BandLimit.find(SOURCE, Audio.of(RATE, quieter))).isNaN();
    assertThat(BandLimit.find(SOURCE, SOURCE.times(0.01))).isNaN();
  }

  @Test
  void aGentleTrebleCutIsNoLimit() {
    float[] soft = SPEECH.clone();
    double low = 0;
    for (int i = 0; i < soft.length; i++) {
      low += 0.25 * (soft[i] - low);
      soft[i] = (float) low;
    }
    assertThat(BandLimit.find(SOURCE, Audio.of(RATE, soft))).isNaN();
  }

  @Test
  void silenceAndScrapsAreTaken() {
    assertThat(BandLimit.find(SOURCE, Audio.of(RATE, new float[10]))).isNaN();
    assertThat(BandLimit.find(Audio.of(RATE, new float[48_000]), SOURCE)).isNaN();
  }
}
