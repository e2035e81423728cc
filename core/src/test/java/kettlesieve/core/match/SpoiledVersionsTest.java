package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.LinearTimeAudio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Delay to a tenth of a sample and drift to two parts per million on real speech, whatever else
 * happened to the version.
 */
class SpoiledVersionsTest {
  private static final int RATE = 16_000;
  private static final float[] SPEECH = Sounds.speech16();

  /** A version that comes later by some samples and runs longer by some parts per million. */
  private static Audio moved(Audio audio, double delay, double ppm) {
    double step = 1 / (1 + ppm * 1e-6);
    return LinearTimeAudio.map(audio, RATE, audio.frames() + 4 * RATE, -delay * step, step);
  }

  private static Match match(Audio source, Audio version) throws MatchException {
    return Matcher.match(
            SourceMaterial.of(source, null, null).forChannels(version.channels()),
            version,
            MatchOverride.NONE)
        .match();
  }

  @ParameterizedTest(name = "{0}, {1} samples late, {2} ppm")
  @CsvSource({
    "as it is,120.3,0",
    "as it is,-35.75,35",
    "as it is,800.5,-60",
    "another rate,120.3,0",
    "another rate,57.25,40",
    "inverted,310.6,25",
    "band-limited,120.3,0",
    "band-limited,77.4,-30",
    "20 dB down,250.5,50",
    "with noise,99.9,0",
    "with noise,410.2,-45"
  })
  void delayAndDriftAreFound(String how, double delay, double ppm) throws Exception {
    Audio source = Audio.of(RATE, SPEECH);
    Audio clean =
        how.equals("band-limited")
            ? Audio.of(RATE, Sounds.lowPass(SPEECH, RATE, 3400))
            : how.equals("with noise")
                ? Audio.of(RATE, Sounds.mix(SPEECH, Sounds.white(SPEECH.length, 8), 0.003))
                : source;
    Audio version = moved(clean, delay, ppm);
    switch (how) {
      case "another rate" -> version = LinearTimeAudio.resample(version, 44_100);
      case "inverted" -> version = version.times(-1);
      case "20 dB down" -> version = version.times(0.1);
      default -> {
        // Nothing more is done to it.
      }
    }
    Match m = match(source, version);
    assertThat(m.delaySamples()).isCloseTo(delay, within(0.1));
    assertThat(m.driftPpm()).isCloseTo(ppm, within(2.0));
    assertThat(m.polarity()).isEqualTo(how.equals("inverted") ? -1 : 1);
    double level = how.equals("20 dB down") ? 20 : 0;
    assertThat(m.gainDb()).isCloseTo(level, within(0.2));
  }

  @Test
  void aMonoVersionOfAStereoSourceIsComparedOnTheDownmix() throws Exception {
    Audio source =
        Audio.of(RATE, SPEECH, Sounds.mix(SPEECH, Sounds.white(SPEECH.length, 2), 0.002));
    Match m = match(source, moved(source.downmix(), 64.4, 20));
    assertThat(m.delaySamples()).isCloseTo(64.4, within(0.1));
    assertThat(m.driftPpm()).isCloseTo(20, within(2.0));
    assertThat(m.warnings()).anyMatch(w -> w.contains("mono against stereo"));
  }

  @ParameterizedTest
  @CsvSource({"4,0", "0,5", "3.5,2"})
  void trimmedVersionsFallIntoPlace(double fromStart, double fromEnd) throws Exception {
    Audio source = Audio.of(RATE, SPEECH);
    long first = Math.round(fromStart * RATE);
    Match m = match(source, source.slice(first, source.frames() - Math.round(fromEnd * RATE)));
    assertThat(m.delaySamples()).isCloseTo(-first, within(0.1));
    assertThat(m.driftPpm()).isCloseTo(0, within(2.0));
  }

  @Test
  void aDelayOfHalfAMinuteIsFoundByItsOnsets() throws Exception {
    Audio source = Audio.of(RATE, SPEECH);
    float[] late = new float[SPEECH.length + 31 * RATE];
    System.arraycopy(SPEECH, 0, late, 31 * RATE, SPEECH.length);
    Match m = match(source, Audio.of(RATE, late));
    assertThat(m.delaySamples()).isCloseTo(31.0 * RATE, within(0.1));
  }

  @Test
  void anotherRecordingIsWarnedOf() throws Exception {
    Audio source = Sounds.read("speech/reading-0870.flac");
    Audio other = Sounds.read("speech/reading-0930.flac");
    float[] x = java.util.Arrays.copyOf(other.wholeChannel(0), (int) source.frames());
    Match m = match(source, Audio.of(RATE, x));
    assertThat(m.confidence()).isLessThan(0.3);
    assertThat(m.warnings()).anyMatch(w -> w.contains("another recording"));
  }

  @Test
  void driftSetByHandWins() throws Exception {
    Audio source = Audio.of(RATE, SPEECH);
    Match m =
        Matcher.match(
                SourceMaterial.of(source, null, List.of()),
                moved(source, 100, 30),
                MatchOverride.NONE.withDriftPpm(12.0))
            .match();
    assertThat(m.driftPpm()).isEqualTo(12);
    assertThat(m.notes()).anyMatch(n -> n.contains("12.00 ppm, set by hand"));
  }
}
