package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.LinearTimeAudio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** On real speech with 10 dB of white noise unless said otherwise. */
class MatcherTest {
  private static final int RATE = 48_000;
  private static final float[] SPEECH = Sounds.speech48();
  private static final float[] NOISE = Sounds.white(SPEECH.length, 11);
  private static final double FACTOR = Sounds.noiseFactor(SPEECH, NOISE, 10);
  private static final float[] NOISY = Sounds.mix(SPEECH, NOISE, FACTOR);

  /** Noise 20 dB down: perfect partial removal. */
  private static final float[] CLEANED = Sounds.mix(SPEECH, NOISE, 0.1 * FACTOR);

  private static final SourceMaterial SOURCE = SourceMaterial.of(Audio.of(RATE, NOISY), null, null);

  private static Match match(Audio version) {
    return match(SOURCE, version);
  }

  private static Match match(SourceMaterial source, Audio version) {
    try {
      return Matcher.match(source.forChannels(version.channels()), version, MatchOverride.NONE)
          .match();
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  /** A copy that comes later by a number of samples, fractions included. */
  private static Audio late(float[] x, double samples) {
    return LinearTimeAudio.map(Audio.of(RATE, x), RATE, x.length + 96_000, -samples, 1);
  }

  @Test
  void theSourceItselfNeedsNothing() {
    Match m = match(Audio.of(RATE, NOISY));
    assertThat(m.delaySamples()).isZero();
    assertThat(m.gainDb()).isZero();
    assertThat(m.polarity()).isEqualTo(1);
    assertThat(m.driftPpm()).isZero();
    assertThat(m.confidence()).isCloseTo(1, within(1e-6));
    assertThat(m.notes()).isEmpty();
    assertThat(m.warnings()).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(doubles = {0, 0.5, 7.25, 1152, -480.6, 33_333.33, -20_000})
  void delayOfAnInvertedQuieterCopyIsExact(double samples) {
    Match m = match(late(NOISY, samples).times(-0.25));
    assertThat(m.delaySamples()).isCloseTo(samples, within(0.1));
    assertThat(m.delayMs()).isCloseTo(samples / 48, within(0.003));
    assertThat(m.polarity()).isEqualTo(-1);
    assertThat(m.gainDb()).isCloseTo(12.04, within(0.1));
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.31, 250.77, -96.5})
  void twentyDecibelsOfProcessingChangeNothing(double samples) {
    Match m = match(late(CLEANED, samples).times(-0.5));
    assertThat(m.delaySamples()).isCloseTo(samples, within(0.1));
    assertThat(m.polarity()).isEqualTo(-1);
    assertThat(m.gainDb()).isCloseTo(6.02, within(0.1));
  }

  @ParameterizedTest
  @ValueSource(doubles = {0, 0.2, -0.45, 0.8, 1.3, -3})
  void whatLiesNextToItsPlaceIsNotTakenForInPlace(double samples) {
    Match m = match(late(CLEANED, samples));
    assertThat(m.delaySamples()).isCloseTo(samples, within(0.05));
    assertThat(m.polarity()).isEqualTo(1);
  }

  /** Seen as a whole, a loud hum agrees with itself at the wrong place. */
  @Test
  void aHumLateByItsOwnPeriodDoesNotHideThatTheVoiceIs() {
    float[] hummed = NOISY.clone();
    for (int i = 0; i < hummed.length; i++) {
      for (int h = 1; h <= 10; h++) {
        hummed[i] += (float) (0.3 / h * Math.sin(2 * Math.PI * 50 * h * i / RATE));
      }
    }
    Audio version = late(hummed, RATE / 50.0);
    Match m = match(SourceMaterial.of(Audio.of(RATE, hummed), null, null), version);
    assertThat(m.delaySamples()).isCloseTo(RATE / 50.0, within(0.1));
  }

  @Test
  void delaysOfManySecondsAreFoundByOnsets() {
    Match m = match(late(NOISY, 4.5 * RATE).slice(0, NOISY.length + 5 * RATE));
    assertThat(m.delaySamples()).isCloseTo(4.5 * RATE, within(0.1));
  }

  @ParameterizedTest
  @ValueSource(ints = {44_100, 96_000, 16_000})
  void otherRatesAreBroughtBack(int rate) {
    Audio version = LinearTimeAudio.resample(late(CLEANED, 100), rate);
    Match m = match(version);
    assertThat(m.delaySamples()).isCloseTo(100, within(0.1));
    assertThat(m.gainDb()).isCloseTo(0, within(0.1));
    assertThat(m.originalRate()).isEqualTo(rate);
    assertThat(m.notes()).anyMatch(n -> n.contains("resampled from " + rate));
  }

  @ParameterizedTest
  @ValueSource(doubles = {20, -50, 200})
  void driftIsFound(double ppm) {
    Audio version =
        LinearTimeAudio.map(
            Audio.of(RATE, CLEANED), RATE, CLEANED.length + 4800, -60, 1 / (1 + ppm * 1e-6));
    Match m = match(version);
    assertThat(m.driftPpm()).isCloseTo(ppm, within(2.0));
    assertThat(m.delaySamples()).isCloseTo(60, within(0.3));
  }

  @Test
  void aLowPassDoesNotMoveTheDelay() {
    Match m = match(Audio.of(RATE, Sounds.lowPass(CLEANED, RATE, 3400)));
    assertThat(m.delaySamples()).isCloseTo(0, within(0.1));
    assertThat(m.gainDb()).isCloseTo(0, within(0.2));
  }

  @Test
  void anotherRecordingIsWarnedAbout() {
    float[] other = Sounds.white(NOISY.length, 99);
    Match m = match(Audio.of(RATE, other).times(0.1));
    assertThat(m.confidence()).isLessThan(0.3);
    assertThat(m.warnings()).anyMatch(w -> w.contains("another recording"));
  }

  @Test
  void stereoAndMonoMeetOnTheDownmix() {
    Match m = match(Audio.of(RATE, CLEANED, CLEANED));
    assertThat(m.gainDb()).isCloseTo(0, within(0.1));
    assertThat(m.warnings()).anyMatch(w -> w.contains("stereo against mono"));
  }

  @Test
  void halfOfTheExcerptMustBeThere() {
    assertThatThrownBy(
            () ->
                Matcher.match(
                    SOURCE,
                    Audio.of(RATE, NOISY).slice(0, NOISY.length * 2 / 5),
                    MatchOverride.NONE))
        .isInstanceOf(MatchException.class)
        .hasMessageContaining("covers only");
    Match m = match(Audio.of(RATE, NOISY).slice(0, NOISY.length - 2 * RATE));
    assertThat(m.warnings()).anyMatch(w -> w.contains("lacks 2.0 s"));
    Match half = match(Audio.of(RATE, CLEANED).times(0.5).slice(0, NOISY.length * 3 / 5));
    assertThat(half.gainDb()).isCloseTo(6.02, within(0.1));
  }

  @Test
  void aPersonsWordCountsMore() throws MatchException {
    MatchOverride byHand = new MatchOverride(48.0, 1, -3.0, null, null);
    MatchedVersion v = Matcher.match(SOURCE, late(NOISY, 10).times(-1), byHand);
    assertThat(v.match().delaySamples()).isEqualTo(48);
    assertThat(v.match().polarity()).isEqualTo(1);
    assertThat(v.match().gainDb()).isEqualTo(-3);
    assertThat(v.match().notes()).anyMatch(n -> n.contains("set by hand"));
  }

  @Test
  void excerptsMatchLikeTheWhole() throws MatchException {
    SourceMaterial part = SourceMaterial.of(Audio.of(RATE, NOISY), new TimeSpan(2, 8), null);
    MatchedVersion v = Matcher.match(part, late(CLEANED, 321.5), MatchOverride.NONE);
    assertThat(v.match().delaySamples()).isCloseTo(321.5, within(0.1));
    assertThat(v.aligned().frames()).isEqualTo(6L * RATE);
  }

  @ParameterizedTest
  @CsvSource({"5", "10", "20"})
  void pausesAreWhereNobodySpeaks(double snr) {
    float[] noisy = Sounds.mix(SPEECH, NOISE, Sounds.noiseFactor(SPEECH, NOISE, snr));
    SourceMaterial source = SourceMaterial.of(Audio.of(RATE, noisy), null, null);
    assertThat(source.pauses().activity().problem()).isEmpty();
    assertThat(source.pauses().signalToNoiseDb()).isBetween(snr, snr + 11);
    for (TimeSpan pause : source.pauses().activity().pauses()) {
      int from = (int) (pause.from() * RATE);
      int to = (int) (pause.to() * RATE);
      float[] inside = java.util.Arrays.copyOfRange(SPEECH, from, to);
      assertThat(Sounds.rms(inside)).isLessThan(0.12 * Sounds.rms(SPEECH));
    }
  }

  @Test
  void marksOfAPersonAreTakenAsTheyStand() {
    SourceMaterial source =
        SourceMaterial.of(
            Audio.of(RATE, NOISY), null, List.of(new TimeSpan(0, 0.7), new TimeSpan(2.4, 2.9)));
    assertThat(source.pauses().activity().problem()).isEmpty();
    assertThat(source.pauses().activity().pauses()).hasSize(2);
    assertThat(source.pauses().activity().pauses().get(1).from()).isCloseTo(2.4, within(0.02));
    assertThat(source.pauses().activity().pauses().get(1).to()).isCloseTo(2.9, within(0.02));
  }

  @Test
  void steadyNoiseAloneHasNoPauses() {
    SourceMaterial source = SourceMaterial.of(Audio.of(RATE, NOISE).times(0.1), null, null);
    assertThat(source.pauses().activity().problem()).isPresent();
    assertThat(source.ground().problem()).isPresent();
  }
}
