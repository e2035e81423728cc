package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class ClippingTest {
  private static final int RATE = 48_000;

  private static float[] clipped(float[] x, double low, double high) {
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = (float) Math.max(low, Math.min(high, x[i]));
    }
    return y;
  }

  private static float[] times(float[] x, double factor) {
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = (float) (factor * x[i]);
    }
    return y;
  }

  /** A file of 16 bits. */
  private static float[] rounded(float[] x) {
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = Math.round(x[i] * 32_767) / 32_767f;
    }
    return y;
  }

  private static double peak(float[] x) {
    double peak = 0;
    for (float v : x) {
      peak = Math.max(peak, Math.abs(v));
    }
    return peak;
  }

  @ParameterizedTest
  @CsvSource({"0.3, 440", "0.5, 997", "0.7, 180.3", "0.8, 440", "0.9, 3001.7", "0.98, 440"})
  void theShareOfAClippedSineIsThatOfGeometry(double theta, double hz) {
    // Geometry: a sine clipped at θ of its peak is clipped 1 − (2/π)·asin θ of the time.
    float[] sine = Sounds.sine(RATE, 5, hz, 1, 0.3);
    double expected = 100 * (1 - 2 / Math.PI * Math.asin(theta));
    Clipping whole = Clipping.of(Audio.of(RATE, clipped(sine, -theta, theta)));
    assertThat(whole.percent()).isCloseTo(expected, within(0.1));
    assertThat(whole.ceilings()).hasSize(2).allMatch(c -> !c.soft());
    assertThat(whole.ceiling(0, 1).level()).isCloseTo(theta, within(1e-3 * theta));
    // Turned down afterwards, and stored with 16 bits.
    float[] quiet = rounded(times(clipped(sine, -theta, theta), 0.2));
    assertThat(Clipping.of(Audio.of(RATE, quiet)).percent()).isCloseTo(expected, within(0.5));
  }

  @Test
  void onePolarityIsFoundByItself() {
    float[] sine = Sounds.sine(RATE, 3, 440, 0.9, 0);
    Clipping found = Clipping.of(Audio.of(RATE, clipped(sine, -1, 0.5)));
    assertThat(found.ceilings()).hasSize(1);
    assertThat(found.ceiling(0, 1).level()).isCloseTo(0.5, within(1e-3));
    assertThat(found.ceiling(0, -1)).isNull();
  }

  static Stream<String> recordings() {
    return Stream.of(
        "speech/front-center.flac",
        "speech/front-left.flac",
        "speech/rear-center.flac",
        "speech/reading-0870.flac",
        "speech/reading-0930.flac");
  }

  @ParameterizedTest
  @MethodSource("recordings")
  void realRecordingsAreNotClippedUntilTheyAre(String name) {
    float[] speech = Sounds.read(name).wholeChannel(0);
    int rate = Sounds.read(name).sampleRate();
    assertThat(Clipping.of(Audio.of(rate, speech)).any()).isFalse();
    double level = 0.4 * peak(speech);
    float[] cut = clipped(speech, -level, level);
    long count = 0;
    for (float v : speech) {
      count += Math.abs(v) >= level ? 1 : 0;
    }
    for (double factor : new double[] {1, 0.25}) {
      Clipping found = Clipping.of(Audio.of(rate, times(cut, factor)));
      assertThat(found.ceiling(0, 1).level() / factor).isCloseTo(level, within(1e-3 * level));
      assertThat(found.samples()).isBetween(count, count + count / 50);
    }
  }

  @ParameterizedTest
  @ValueSource(doubles = {40, 50, 60, 100, 150, 220, 1000, 7000})
  void pureTonesAreNotClipped(double hz) {
    for (double level : new double[] {1, 0.05}) {
      float[] tone = rounded(Sounds.sine(RATE, 3, hz, level, 0.1));
      assertThat(Clipping.of(Audio.of(RATE, tone)).any()).as(hz + " Hz at " + level).isFalse();
    }
  }

  @Test
  void noiseAndSilenceAreNotClipped() {
    assertThat(Clipping.of(Audio.of(RATE, Sounds.white(RATE * 3, 4))).any()).isFalse();
    assertThat(Clipping.of(Audio.of(RATE, new float[RATE])).any()).isFalse();
    assertThat(Clipping.of(Audio.of(RATE, new float[0])).percent()).isZero();
  }

  @Test
  void roundedTopsAreSoftClipping() {
    float[] speech = Sounds.speech48();
    double peak = peak(speech);
    float[] soft = new float[speech.length];
    for (int i = 0; i < soft.length; i++) {
      soft[i] = (float) Math.tanh(12 * speech[i] / peak);
    }
    Clipping found = Clipping.of(Audio.of(RATE, soft));
    assertThat(found.any()).isTrue();
    assertThat(found.percent()).isGreaterThan(1);
  }

  @Test
  void passagesAreSortedByHowBadTheyAre() {
    float[] x = new float[RATE * 4];
    float[] loud = Sounds.sine(RATE, 1, 300, 2, 0);
    System.arraycopy(clipped(loud, -0.8, 0.8), 0, x, 0, RATE);
    float[] touching = Sounds.sine(RATE, 1, 300, 0.8004, 0);
    System.arraycopy(clipped(touching, -0.8, 0.8), 0, x, 2 * RATE, RATE / 20);
    Clipping found = Clipping.of(Audio.of(RATE, x));
    assertThat(found.passages()).hasSize(2);
    assertThat(found.passages().get(0).severity()).isEqualTo(Clipping.Severity.HEAVY);
    assertThat(found.passages().get(1).severity()).isNotEqualTo(Clipping.Severity.HEAVY);
    assertThat(found.passages().get(1).from()).isCloseTo(2, within(0.01));
    assertThat(found.firstRunFrom(0, 2 * RATE)).isLessThan(found.runs(0));
    assertThat(found.run(0, found.firstRunFrom(0, 2 * RATE)).from())
        .isBetween(2L * RATE, 2L * RATE + 100);
  }
}
