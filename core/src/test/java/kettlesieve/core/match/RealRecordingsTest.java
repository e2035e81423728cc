package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.LinearTimeAudio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Matching single real recordings, as they are, in unkind conditions. */
class RealRecordingsTest {

  private static Match match(Audio source, Audio version) {
    SourceMaterial material = SourceMaterial.of(source, null, null);
    try {
      return Matcher.match(material.forChannels(version.channels()), version, MatchOverride.NONE)
          .match();
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "front-center,48000,100.3", "front-left,48000,-77.8", "front-right,48000,4321",
    "rear-center,48000,0", "reading-0870,16000,333.4", "reading-0880,16000,-50.5",
    "reading-0930,16000,12.25"
  })
  void delayPolarityAndLevelOfEachRecording(String name, int rate, double samples) {
    Audio source = Sounds.read("speech/" + name + ".flac");
    Audio version =
        LinearTimeAudio.map(source, rate, source.frames() + 6000, -samples, 1).times(-0.3);
    Match m = match(source, version);
    assertThat(m.delaySamples()).isCloseTo(samples, within(0.1));
    assertThat(m.polarity()).isEqualTo(-1);
    assertThat(m.gainDb()).isCloseTo(10.46, within(0.1));
    assertThat(m.confidence()).isGreaterThan(0.95);
  }

  @ParameterizedTest
  @ValueSource(doubles = {-40, -20, 12})
  void anyLevelIsMatched(double db) {
    Audio source = Sounds.read("speech/reading-0870.flac");
    Match m = match(source, source.times(Math.pow(10, db / 20)));
    assertThat(m.gainDb()).isCloseTo(-db, within(0.02));
    assertThat(m.delaySamples()).isZero();
  }

  @Test
  void aTelephoneVersionIsFoundToo() {
    Audio source = Sounds.read("speech/reading-0870.flac");
    float[] x = source.wholeChannel(0);
    float[] narrow =
        Sounds.mix(Sounds.lowPass(x, 16_000, 3400), Sounds.lowPass(x, 16_000, 300), -1);
    Audio late = LinearTimeAudio.map(Audio.of(16_000, narrow), 8000, 60_000, -400, 2);
    Match m = match(source, late);
    assertThat(m.delaySamples()).isCloseTo(400, within(0.3));
    assertThat(m.originalRate()).isEqualTo(8000);
    assertThat(m.confidence()).isGreaterThan(0.5);
  }

  @Test
  void aVersionTrimmedBySecondsFallsIntoPlace() {
    float[] speech = Sounds.speech16();
    Audio source = Audio.of(16_000, speech);
    Match m = match(source, source.slice(3 * 16_000, speech.length - 16_000));
    assertThat(m.delaySamples()).isCloseTo(-48_000, within(0.1));
    assertThat(m.coveredFrom()).isCloseTo(3, within(0.001));
    assertThat(m.warnings()).anyMatch(w -> w.contains("lacks 4.0 s"));
  }

  @Test
  void otherSpeechIsAnotherRecording() {
    Match m = match(Sounds.read("speech/front-left.flac"), Sounds.read("speech/front-right.flac"));
    assertThat(m.confidence()).isLessThan(0.5);
  }

  /** Clicks many times as strong as the voice are no wanted sound that went missing. */
  @ParameterizedTest
  @ValueSource(ints = {4000, 6000, 9000})
  void aVersionWithoutTheClicksOfItsSourceKeepsItsLevel(int apart) {
    float[] clean = Sounds.speech16();
    float[] hiss = Sounds.white(clean.length, 3);
    for (int i = 0; i < clean.length; i++) {
      clean[i] = 0.03f * clean[i] + 1e-5f * hiss[i];
    }
    float[] x = clean.clone();
    Random random = new Random(apart);
    for (int at = 500; at + 40 < x.length; at += apart / 2 + random.nextInt(apart)) {
      float sign = random.nextBoolean() ? 1 : -1;
      for (int i = 0; i < 40; i++) {
        // A strike that rings for 2 ms.
        x[at + i] += sign * (float) (0.9 * Math.exp(-i / 8.0) * Math.cos(i * 0.7));
      }
    }
    Match m = match(Audio.of(16_000, x), Audio.of(16_000, clean));
    assertThat(m.gainDb()).isCloseTo(0, within(0.5));
  }

  @Test
  void digitalSilenceHasNoPlaceAndNoLevel() {
    Audio source = Sounds.read("speech/reading-0880.flac");
    Match m = match(source, Audio.of(16_000, new float[(int) source.frames()]));
    assertThat(m.confidence()).isZero();
    assertThat(m.warnings()).isNotEmpty();
    assertThat(m.gainDb()).isFinite();
  }
}
