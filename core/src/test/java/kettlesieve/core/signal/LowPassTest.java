package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;

import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The anchors of ITU-R BS.1534-3: 3.5 and 7 kHz. */
class LowPassTest {
  private static double gainDb(int rate, double edge, double hz) {
    float[] x = new float[rate];
    for (int i = 0; i < x.length; i++) {
      x[i] = (float) Math.sin(2 * Math.PI * hz * i / rate);
    }
    float[] y = LowPass.of(Audio.of(rate, x), edge).wholeChannel(0);
    double before = 0;
    double after = 0;
    for (int i = rate / 4; i < 3 * rate / 4; i++) {
      before += x[i] * x[i];
      after += y[i] * y[i];
    }
    return 10 * Math.log10(after / before);
  }

  @ParameterizedTest
  @CsvSource({"48000, 3500", "48000, 7000", "44100, 3500", "44100, 7000", "96000, 7000"})
  void theEdgeLiesWithinFivePerCent(int rate, double edge) {
    assertThat(gainDb(rate, edge, 0.95 * edge)).isBetween(-0.1, 0.1);
    assertThat(gainDb(rate, edge, 0.5 * edge)).isBetween(-0.1, 0.1);
    assertThat(gainDb(rate, edge, edge)).isBetween(-6.5, -5.5);
    assertThat(gainDb(rate, edge, 1.05 * edge)).isLessThan(-50);
  }

  @Test
  void whatIsReadInBlocksIsTheSameAsTheWhole() {
    Audio filtered = LowPass.of(Audio.of(48_000, kettlesieve.core.Sounds.white(9_000, 3)), 3_500);
    float[] whole = filtered.wholeChannel(0);
    for (int from = 0; from < whole.length; from += 256) {
      float[] block = filtered.samples(0, from, 256);
      for (int i = 0; i < block.length; i++) {
        float expected = from + i < whole.length ? whole[from + i] : 0;
        assertThat(block[i]).isCloseTo(expected, org.assertj.core.api.Assertions.within(1e-6f));
      }
    }
  }

  @Test
  void nothingIsDelayedAndALowRateIsLeftAlone() {
    float[] click = new float[4096];
    click[2000] = 1;
    float[] y = LowPass.of(Audio.of(48_000, click), 7_000).wholeChannel(0);
    int peak = 0;
    for (int i = 0; i < y.length; i++) {
      peak = y[i] > y[peak] ? i : peak;
    }
    assertThat(peak).isEqualTo(2000);
    Audio slow = Audio.of(8_000, click);
    assertThat(LowPass.of(slow, 7_000)).isSameAs(slow);
  }
}
