package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

/** Pitch of sounds of known pitch. */
class YinTest {
  private static double cents(double hz, double of) {
    return 1200 * Math.log(hz / of) / Math.log(2);
  }

  @Test
  void aTrainOfPulsesIsReadWithinFiveCents() {
    for (int rate : new int[] {16_000, 44_100, 48_000}) {
      for (double hz : new double[] {75, 110.5, 207, 333.3, 480}) {
        float[] x = new float[rate];
        for (int i = 0; i < x.length; i++) {
          for (int h = 1; h * hz < 4000; h++) {
            x[i] += (float) (0.1 / h * Math.cos(2 * Math.PI * h * hz * i / rate));
          }
        }
        double found = new Yin(Audio.of(rate, x), 65, 500).at(0.5);
        assertThat(cents(found, hz)).as(rate + " " + hz).isCloseTo(0, within(5.0));
      }
    }
  }

  @Test
  void noiseAndSilenceHaveNoPitch() {
    Yin noise = new Yin(Audio.of(16_000, Sounds.white(16_000, 5)), 65, 500);
    int voiced = 0;
    for (double at = 0.1; at < 0.9; at += 0.02) {
      voiced += Double.isNaN(noise.at(at)) ? 0 : 1;
    }
    assertThat(voiced).isZero();
    assertThat(new Yin(Audio.of(16_000, new float[16_000]), 65, 500).at(0.5)).isNaN();
  }

  /** The second harmonic alone is the octave; where it is expected the lower one is found, too. */
  @Test
  void aPureToneIsNotCalledAnOctaveLower() {
    Audio tone = Audio.of(16_000, Sounds.sine(16_000, 1, 260, 0.5, 0));
    assertThat(cents(new Yin(tone, 65, 500).at(0.5), 260)).isCloseTo(0, within(5.0));
    assertThat(cents(new Yin(tone, 65, 500).near(0.5, 132), 130)).isCloseTo(0, within(8.0));
    assertThat(new Yin(tone, 65, 500).near(0.5, 185)).isNaN();
  }

  /** A voice whose second harmonic is twice as strong is still the lower one. */
  @Test
  void aStrongSecondHarmonicIsNotTheOctave() {
    float[] x = new float[16_000];
    for (int i = 0; i < x.length; i++) {
      double phase = 2 * Math.PI * 150 * i / 16_000;
      x[i] = (float) (0.2 * Math.cos(phase) + 0.4 * Math.cos(2 * phase));
    }
    assertThat(cents(new Yin(Audio.of(16_000, x), 65, 500).at(0.5), 150)).isCloseTo(0, within(5.0));
  }
}
