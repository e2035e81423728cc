package kettlesieve.core.ground;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Spectrogram;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Bursts of noise that die away at a known pace (60 dB in the decay time, ISO 3382-1). */
class RoomDecayTest {
  private static final int RATE = 16_000;
  private static final double PERIOD = 1.6;
  private static final double BURST = 0.15;
  private static final int BURSTS = 8;

  /** Bursts of 0.15 s each 1.6 s; the decay follows at once, as far as the floor. */
  private static float[] bursts(double decay, double floor) {
    float[] x = new float[(int) (BURSTS * PERIOD * RATE)];
    SplittableRandom random = new SplittableRandom(3);
    for (int i = 0; i < x.length; i++) {
      double t = (double) i / RATE % PERIOD - 0.3;
      double gain = t < 0 ? 0 : t < BURST ? 1 : Math.pow(10, -3 * (t - BURST) / decay);
      x[i] = (float) (0.1 * gain * random.nextGaussian() + floor * random.nextGaussian());
    }
    return x;
  }

  private static List<Spectrogram> spectra(float[]... channels) {
    return SourceMaterial.spectra(Audio.of(RATE, channels));
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.3, 0.6, 1.0})
  void theDecayTimeOfEachOctaveIsFound(double decay) {
    RoomDecay found = new RoomDecay(spectra(bursts(decay, 1e-5)));
    assertThat(found.decays()).isGreaterThanOrEqualTo(30);
    int own = 0;
    double[] seconds = found.seconds();
    for (int o = 0; o < seconds.length; o++) {
      if (!Double.isNaN(seconds[o])) {
        // In the low octaves few bins waver together: what falls without a break is too steep
        // there.
        double least = RoomDecay.octaveHz(o) >= 1000 ? 0.8 : 0.5;
        assertThat(seconds[o] / decay)
            .as(RoomDecay.octaveHz(o) + " Hz, all " + Arrays.toString(seconds))
            .isBetween(least, 1.5);
        own++;
      }
    }
    // 125 to 4,000 Hz whole, 8,000 Hz only in part at this rate.
    assertThat(own).isBetween(5, 7);
  }

  @Test
  void twoChannelsGiveTwiceTheDecays() {
    float[] x = bursts(0.5, 1e-5);
    int one = new RoomDecay(spectra(x)).decays();
    assertThat(new RoomDecay(spectra(x, x.clone())).decays()).isEqualTo(2 * one);
  }

  @Test
  void theFloorIsThatOfTheNoiseWhateverStandsOverIt() {
    float[] noise = Sounds.white(BURSTS * 2 * RATE, 8);
    RoomDecay alone = new RoomDecay(spectra(noise));
    // The floor of steady noise is of the size of its mean power.
    double expected = 0;
    double found = 0;
    Spectrogram own = spectra(noise).get(0);
    for (int t = 0; t < own.framing().count(); t++) {
      for (int k = 20; k < 200; k++) {
        expected += own.powers(t)[k] / own.framing().count() / 180;
      }
    }
    for (int k = 20; k < 200; k++) {
      found += alone.floor(0, k) / 180.0;
    }
    assertThat(found / expected).isBetween(0.5, 2.0);
  }

  @Test
  void lateReverberationBeginsAfterFiftyMillisecondsAndDiesAwayAtTheRoomsPace() {
    double decay = 0.6;
    RoomDecay room = new RoomDecay(spectra(bursts(decay, 1e-5)));
    Spectrogram spectrum = spectra(bursts(decay, 1e-5)).get(0);
    RoomDecay.Late late = room.late(0);
    double hop = spectrum.framing().hopSeconds();
    int bin = spectrum.framing().binAtOrAbove(1000);
    int onset = (int) Math.round(0.3 / hop);
    double[] levels = new double[(int) (1.4 / hop)];
    for (int t = 0; t < levels.length; t++) {
      float[] row = late.row(t);
      for (int k = bin; k < bin + 60; k++) {
        levels[t] += row[k];
      }
    }
    // A frame reaches two hops ahead; nothing late may stand before the burst is 50 ms old.
    double most = java.util.Arrays.stream(levels).max().orElseThrow();
    for (int t = 0; t < onset; t++) {
      assertThat(levels[t]).isLessThan(1e-3 * most);
    }
    int from = (int) Math.round((0.3 + BURST + 0.15) / hop);
    int to = (int) Math.round((0.3 + BURST + 0.45) / hop);
    double perSecond = 10 * Math.log10(levels[from] / levels[to]) / 0.3;
    assertThat(60 / perSecond).isCloseTo(decay, within(0.35 * decay));
  }

  @Test
  void silenceAndSteadySoundHaveNoDecay() {
    assertThat(new RoomDecay(spectra(new float[4 * RATE])).decays()).isZero();
    assertThat(new RoomDecay(spectra(Sounds.sine(RATE, 4, 440, 0.3, 0))).decays()).isLessThan(10);
  }
}
