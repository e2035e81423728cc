package kettlesieve.core.rig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.concurrent.atomic.AtomicInteger;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Db;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SpectralGainTest {
  private static final SpectralGain.Rule NOTHING =
      (power, noise, gain) -> java.util.Arrays.fill(gain, 1);

  @ParameterizedTest
  @ValueSource(ints = {8_000, 16_000, 44_100, 48_000, 96_000})
  void aGainOfOneGivesTheSoundBack(int rate) {
    float[] x = Sounds.white(rate + 123, 3);
    Audio y = SpectralGain.process(Audio.of(rate, x), 50, Progress.SILENT, () -> NOTHING);
    float[] error = Sounds.mix(y.wholeChannel(0), x, -1);
    assertThat(Db.ofAmplitude(Sounds.rms(error) / Sounds.rms(x))).isLessThan(-110);
  }

  @Test
  void aGainOfAHalfIsSixDecibelsDown() {
    float[] x = Sounds.white(48_000, 3);
    Audio y =
        SpectralGain.process(
            Audio.of(48_000, x),
            50,
            Progress.SILENT,
            () -> (power, noise, gain) -> java.util.Arrays.fill(gain, 0.5f));
    assertThat(Sounds.rms(y.wholeChannel(0)) / Sounds.rms(x)).isCloseTo(0.5, within(0.001));
  }

  @Test
  void eachChannelHasItsOwnRule() {
    AtomicInteger rules = new AtomicInteger();
    Audio in = Audio.of(16_000, new float[8000], new float[8000], new float[8000]);
    SpectralGain.process(
        in,
        50,
        Progress.SILENT,
        () -> {
          rules.incrementAndGet();
          return NOTHING;
        });
    assertThat(rules.get()).isEqualTo(3);
  }

  @Test
  void theNoiseIsThatOfThePauses() {
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 4);
    double factor = Sounds.noiseFactor(speech, noise, 20);
    double[] seen = new double[1];
    SpectralGain.process(
        Audio.of(16_000, Sounds.mix(speech, noise, factor)),
        50,
        Progress.SILENT,
        () ->
            (power, estimate, gain) -> {
              java.util.Arrays.fill(gain, 1);
              for (double n : estimate) {
                seen[0] += n;
              }
            });
    double frames = speech.length / 128.0;
    // |X|² of white noise under a root-Hann window of 256: σ² times the window's energy, 128.
    double perBin = seen[0] / frames / 129;
    double sigma = Sounds.rms(noise) * factor;
    assertThat(Db.ofPower(perBin / (sigma * sigma * 128))).isBetween(-0.5, 2.0);
  }
}
