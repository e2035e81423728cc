package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Segments;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Real speech that was moved, turned and drawn out by known amounts. */
class AlignerTest {
  private static final int RATE = 16_000;
  private static final Audio SPEECH = Audio.of(RATE, Sounds.speech16());

  private static Alignment find(Audio version) {
    return new Aligner(new Segments(SPEECH), version, 0, SPEECH.frames()).find();
  }

  /** Version sample delay + n(1 + drift) holds source sample n, as {@link Alignment} says. */
  private static Audio moved(double delay, double driftPpm) {
    double step = 1 / (1 + driftPpm * 1e-6);
    long frames = SPEECH.frames() + (long) Math.abs(delay) + 100;
    return LinearTimeAudio.map(SPEECH, RATE, frames, -delay * step, step);
  }

  @ParameterizedTest
  @CsvSource({
    "0, 0, 1",
    "0.37, 0, 1",
    "123.25, 0, -1",
    "-2000.5, 0, 1",
    "16000, 0, 1",
    "50, 80, 1",
    "-300, -250, -1"
  })
  void findsDelayDriftAndPolarity(double delay, double drift, int polarity) {
    Alignment found = find(moved(delay, drift).times(polarity));
    assertThat(found.delaySamples()).isCloseTo(delay, within(0.05));
    assertThat(found.driftPpm()).isCloseTo(drift, within(1.5));
    assertThat(found.polarity()).isEqualTo(polarity);
    assertThat(found.confidence()).isGreaterThan(0.8);
  }

  /**
   * Up to a thousandth. Within the pieces whose phases are looked at such a drift turns them by
   * whole turns; they then agree on any delay, and it was taken for none.
   */
  @ParameterizedTest
  @ValueSource(doubles = {-1000, -700, -500, -250, -140, 160, 330, 620, 870, 1000})
  void driftsOfAnySizeAreFound(double drift) {
    Audio speech = Audio.of(48_000, Sounds.speech48());
    double step = 1 / (1 + drift * 1e-6);
    Audio version =
        LinearTimeAudio.map(speech, 48_000, speech.frames() + 1000, 123 * step, step).times(-1);
    Alignment found = new Aligner(new Segments(speech), version, 0, speech.frames()).find();
    assertThat(found.driftPpm()).isCloseTo(drift, within(1.0));
    assertThat(found.delaySamples()).isCloseTo(-123, within(0.1));
    assertThat(found.polarity()).isEqualTo(-1);
  }

  /** Beyond two seconds the envelopes find it. */
  @Test
  void findsItFarAway() {
    float[] late = new float[(int) SPEECH.frames() + 6 * RATE];
    System.arraycopy(SPEECH.wholeChannel(0), 0, late, 5 * RATE, (int) SPEECH.frames());
    Alignment found = find(Audio.of(RATE, late));
    assertThat(found.delaySamples()).isCloseTo(5 * RATE, within(0.05));
  }

  /** What has nothing to do with it is left where it is, and not believed. */
  @Test
  void claimsNothingOfAnotherRecording() {
    Alignment found = find(Audio.of(RATE, Sounds.white((int) SPEECH.frames(), 3)));
    assertThat(found.confidence()).isLessThan(0.2);
    assertThat(found.delaySamples()).isZero();
    assertThat(found.polarity()).isEqualTo(1);
  }
}
