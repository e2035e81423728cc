package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Boersma 1993: the harmonics-to-noise ratio of a periodic sound in white noise is that of powers.
 */
class HarmonicityTest {
  private static final double SECONDS = 2;

  /** Overtones up to 3.9 kHz, all as loud, in noise so many dB under them below 4 kHz. */
  private static Audio tone(int rate, double hz, double hnr) {
    SplittableRandom random = new SplittableRandom(5);
    float[] x = new float[(int) (SECONDS * rate)];
    double power = 0;
    for (int h = 1; h * hz < 3900; h++) {
      double phase = 2 * Math.PI * random.nextDouble();
      for (int i = 0; i < x.length; i++) {
        x[i] += (float) (0.01 * Math.sin(2 * Math.PI * h * hz * i / rate + phase));
      }
      power += 0.01 * 0.01 / 2;
    }
    // White up to half of the rate; what lies under 4 kHz counts.
    double noise = power / Math.pow(10, hnr / 10) * (rate / 2.0) / 4000;
    for (int i = 0; i < x.length; i++) {
      x[i] += (float) (Math.sqrt(noise) * random.nextGaussian());
    }
    return Audio.of(rate, x);
  }

  private static double median(Audio audio) {
    Harmonicity harmonicity = new Harmonicity(audio);
    double[] all = new double[80];
    for (int i = 0; i < all.length; i++) {
      all[i] = harmonicity.at(0.1 + 0.02 * i).hnr();
    }
    return Statistics.median(all);
  }

  @ParameterizedTest
  @CsvSource({
    "16000, 120, 5", "16000, 220, 10", "16000, 310, 15",
    "44100, 120, 10", "44100, 310, 5", "48000, 220, 15"
  })
  void theRatioIsThatOfThePowers(int rate, double hz, double hnr) {
    assertThat(median(tone(rate, hz, hnr))).isCloseTo(hnr, within(1.5));
  }

  @Test
  void noiseAndSilenceAreNotPeriodic() {
    SplittableRandom random = new SplittableRandom(6);
    float[] x = new float[32_000];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) (0.1 * random.nextGaussian());
    }
    assertThat(median(Audio.of(16_000, x))).isLessThan(0);
    Harmonicity.Frame silence = new Harmonicity(Audio.of(16_000, new float[32_000])).at(1);
    assertThat(silence.periodic()).isEqualTo(0.02);
    assertThat(silence.power()).isZero();
  }
}
