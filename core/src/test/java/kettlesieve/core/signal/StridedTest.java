package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class StridedTest {
  private static float[] noise(int length) {
    SplittableRandom random = new SplittableRandom(length);
    float[] x = new float[length];
    for (int i = 0; i < length; i++) {
      x[i] = (float) random.nextGaussian();
    }
    return x;
  }

  /** Against the sum as it is written down, over more than one chunk and with gaps between. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 147})
  void anOutputIsTheSumOverTheTaps(int stride) {
    float[] taps = noise(37);
    int count = 1_100;
    int first = 5;
    float[] x = noise(first + (count - 1) * stride + taps.length);
    float[] out = new float[2 * count + 3];
    new Strided(x, stride).filter(first, taps, out, 3, 2, count);
    for (int i = 0; i < count; i++) {
      double sum = 0;
      for (int k = 0; k < taps.length; k++) {
        sum += (double) x[first + i * stride + k] * taps[k];
      }
      assertThat((double) out[3 + 2 * i]).as("output " + i).isCloseTo(sum, within(1e-4));
      assertThat(out[4 + 2 * i]).isZero();
    }
  }

  /**
   * What is read must not depend on how much is read at once: results are the same on any machine.
   */
  @ParameterizedTest
  @CsvSource({"48000, 10000", "44100, 48000", "48000, 16000", "16000, 44100"})
  void piecesOfAResampledRecordingAreThoseOfTheWhole(int from, int to) {
    Audio audio = LinearTimeAudio.resample(Audio.of(from, noise(9_000)), to);
    float[] whole = audio.wholeChannel(0);
    for (int piece : new int[] {1, 7, 511, 1_000}) {
      for (int at = 0; at + piece <= whole.length; at += 997 + piece) {
        float[] part = audio.samples(0, at, piece);
        for (int i = 0; i < piece; i++) {
          assertThat(part[i]).isEqualTo(whole[at + i]);
        }
      }
    }
  }

  @Test
  void aFractionalDelayMovesASineByJustThat() {
    int rate = 48_000;
    float[] x = new float[6_000];
    float[] later = new float[6_000];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) Math.sin(2 * Math.PI * 997 * i / rate);
      later[i] = (float) Math.sin(2 * Math.PI * 997 * (i + 0.37) / rate);
    }
    float[] moved = LinearTimeAudio.map(Audio.of(rate, x), rate, x.length, 0.37, 1).wholeChannel(0);
    for (int i = 100; i < x.length - 100; i++) {
      assertThat(moved[i]).isCloseTo(later[i], within(2e-5f));
    }
  }
}
