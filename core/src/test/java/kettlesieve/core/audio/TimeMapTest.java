package kettlesieve.core.audio;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.picture.ChangeColumns;
import kettlesieve.core.picture.FrequencyScale;
import kettlesieve.core.signal.Biquad;
import org.junit.jupiter.api.Test;

class TimeMapTest {
  @Test
  void aLineGoesThereAndBack() {
    TimeMap map = TimeMap.line(0.08, 0.8);
    assertThat(map.at(10)).isCloseTo(8.08, within(1e-12));
    assertThat(map.inverse(8.08)).isCloseTo(10, within(1e-12));
    assertThat(map.inverse(map.at(-3))).isCloseTo(-3, within(1e-12));
    assertThat(map.slope(100)).isCloseTo(0.8, within(1e-12));
    assertThat(TimeMap.line(0, 1).identity()).isTrue();
  }

  @Test
  void knotsAreJoinedAndTheEndsGoOn() {
    TimeMap map = TimeMap.through(new double[] {0, 1, 2}, new double[] {0, 2, 3});
    assertThat(map.at(0.5)).isEqualTo(1);
    assertThat(map.at(1.5)).isEqualTo(2.5);
    assertThat(map.at(3)).isEqualTo(4);
    assertThat(map.at(-1)).isEqualTo(-2);
    assertThat(map.inverse(2.5)).isEqualTo(1.5);
    assertThat(map.later(0.5).at(1.5)).isEqualTo(3);
  }

  @Test
  void knotsThatDoNotRiseAreLeftOut() {
    TimeMap map = TimeMap.through(new double[] {0, 1, 2, 3}, new double[] {0, 5, 4, 6});
    assertThat(map.at(2)).isEqualTo(5.5);
    assertThatThrownBy(() -> TimeMap.through(new double[] {0, 1}, new double[] {1, 0}))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> TimeMap.line(0, 0)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void sumsAndRemaindersAddUp() {
    Audio a = Audio.of(8000, new float[] {1, 2, 3});
    Audio b = Audio.of(8000, new float[] {10, 20});
    Audio stereo = Audio.of(8000, new float[] {1, 1, 1}, new float[] {0, 0, 0});
    assertThat(SumAudio.of(java.util.List.of(a, b)).samples(0, 0, 4)).containsExactly(11, 22, 3, 0);
    assertThat(SumAudio.remainder(a, java.util.List.of(b)).samples(0, -1, 3))
        .containsExactly(0, -9, -18);
    Audio wide = SumAudio.of(java.util.List.of(stereo, a));
    assertThat(wide.channels()).isEqualTo(2);
    assertThat(wide.samples(1, 0, 3)).containsExactly(1, 2, 3);
    assertThatThrownBy(() -> SumAudio.of(java.util.List.of()))
        .isInstanceOf(IllegalArgumentException.class);
  }

  /** Second-order Butterworth: −3.01 dB at its corner, −12.3 dB an octave beyond (theory). */
  @Test
  void filtersHaveTheResponseOfTheirOrder() {
    double q = Math.sqrt(0.5);
    assertThat(db(Biquad.lowPass(1000, q, 48_000), 1000)).isCloseTo(-3.01, within(0.01));
    assertThat(db(Biquad.lowPass(1000, q, 48_000), 2000)).isCloseTo(-12.3, within(0.1));
    assertThat(db(Biquad.highPass(1000, q, 48_000), 1000)).isCloseTo(-3.01, within(0.01));
    assertThat(db(Biquad.highPass(1000, q, 48_000), 500)).isCloseTo(-12.3, within(0.1));
    assertThat(db(Biquad.highPass(1000, q, 48_000), 10_000)).isCloseTo(0, within(0.01));
  }

  private static double db(Biquad f, double hz) {
    double w = 2 * Math.PI * hz / 48_000;
    double[] top = at(f.b0(), f.b1(), f.b2(), w);
    double[] bottom = at(1, f.a1(), f.a2(), w);
    return 20 * Math.log10(Math.hypot(top[0], top[1]) / Math.hypot(bottom[0], bottom[1]));
  }

  private static double[] at(double c0, double c1, double c2, double w) {
    return new double[] {
      c0 + c1 * Math.cos(w) + c2 * Math.cos(2 * w), -c1 * Math.sin(w) - c2 * Math.sin(2 * w)
    };
  }

  @Test
  void theChangeMapShowsWhatWasTakenOutAndPutIn() {
    int rate = 48_000;
    float[] both = new float[2 * rate];
    float[] one = new float[2 * rate];
    for (int i = 0; i < both.length; i++) {
      double low = 0.2 * Math.sin(2 * Math.PI * 500 * i / rate);
      double high = 0.2 * Math.sin(2 * Math.PI * 5000 * i / rate);
      both[i] = (float) (low + high);
      one[i] = (float) low;
    }
    double[] moments = {0.5, 1.0, 1.5};
    float[][] out =
        ChangeColumns.gains(
            Audio.of(rate, both),
            Audio.of(rate, one),
            TimeMap.IDENTITY,
            moments,
            0,
            64,
            FrequencyScale.LINEAR,
            16_000);
    assertThat(out[1][2]).isCloseTo(0, within(0.5f));
    assertThat(out[1][20]).isLessThan(-30);
    float[][] in =
        ChangeColumns.gains(
            Audio.of(rate, one),
            Audio.of(rate, both),
            TimeMap.IDENTITY,
            moments,
            0,
            64,
            FrequencyScale.LINEAR,
            16_000);
    assertThat(in[1][20]).isGreaterThan(30);
    // Silence against silence is no change.
    assertThat(in[1][60]).isCloseTo(0, within(0.5f));
  }
}
