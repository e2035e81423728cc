package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** On real speech through the stand-ins; the ratio is known from how they were called. */
class StretchAlignerTest {
  private static final int RATE = 16_000;
  private static final Audio SPEECH = Audio.of(RATE, Sounds.speech16());

  private static Audio stretched(String tool, double ratio) {
    StandIn standIn =
        StandIns.ALL.stream().filter(s -> s.id().equals(tool)).findFirst().orElseThrow();
    return standIn.make(SPEECH, new Setup(100, ratio, 0), Progress.SILENT).get(StandIn.WHOLE);
  }

  private static MatchSettings settings(Double ratio) {
    return new MatchSettings(Job.STRETCH, LevelMode.WANTED, ratio, null);
  }

  private static StretchedVersion match(Audio version, Double ratio) throws MatchException {
    return StretchMatcher.match(
        SourceMaterial.of(SPEECH, null, List.of()),
        version,
        MatchOverride.NONE,
        settings(ratio),
        null,
        Stop.NEVER);
  }

  private static Audio later(Audio audio, int samples) {
    float[] x = new float[(int) audio.frames() + samples];
    System.arraycopy(audio.wholeChannel(0), 0, x, samples, (int) audio.frames());
    return Audio.of(RATE, x);
  }

  @ParameterizedTest
  @CsvSource({
    "waveform-overlap,0.67", "waveform-overlap,0.8", "waveform-overlap,1.25",
    "waveform-overlap,1.5", "plain-phase-stretch,0.8", "plain-phase-stretch,1.25",
    "locked-phase-stretch,0.67", "locked-phase-stretch,1.5", "speed-change,0.8",
    "speed-change,1.25"
  })
  void theRatioIsFoundToATenthOfAPercent(String tool, double ratio) throws Exception {
    Match m = match(stretched(tool, ratio), ratio).match();
    assertThat(m.ratio() / ratio).isCloseTo(1, within(0.001));
    assertThat(Math.abs(m.delayMs())).isLessThan(12);
    assertThat(m.confidence()).isGreaterThan(0.5);
  }

  @Test
  void aDelayIsToldApartFromALengthError() throws Exception {
    Match late = match(later(stretched("speed-change", 0.8), 4800), 0.8).match();
    assertThat(late.ratio()).isCloseTo(0.8, within(0.0008));
    assertThat(late.delayMs()).isCloseTo(300, within(3.0));
    // Asked for 0.8, made 0.81: no delay, but a length error of 1.25 %.
    Match longer = match(stretched("speed-change", 0.81), 0.8).match();
    assertThat(longer.ratio()).isCloseTo(0.81, within(0.0008));
    assertThat(longer.delayMs()).isCloseTo(0, within(3.0));
  }

  @Test
  void whereTheRatioIsNotSaidTheLengthsTellIt() throws Exception {
    assertThat(match(stretched("waveform-overlap", 1.25), null).match().ratio())
        .isCloseTo(1.25, within(0.00125));
  }

  @Test
  void theMapFollowsATimeThatRunsUnevenly() throws Exception {
    double[] from = new double[60];
    double[] to = new double[60];
    for (int i = 0; i < from.length; i++) {
      from[i] = 0.5 * i;
      to[i] = 0.8 * from[i] + 0.02 * Math.sin(2 * Math.PI * from[i] / 8);
    }
    TimeMap truth = TimeMap.through(from, to);
    float[] warped = new float[(int) (0.8 * SPEECH.frames())];
    for (int i = 0; i < warped.length; i += 160) {
      double start = truth.inverse((double) i / RATE) * RATE;
      double end = truth.inverse((i + 160.0) / RATE) * RATE;
      LinearTimeAudio.map(SPEECH, RATE, 160, start, (end - start) / 160)
          .read(0, 0, warped, i, Math.min(160, warped.length - i));
    }
    StretchedVersion v = match(Audio.of(RATE, warped), 0.8);
    double worst = 0;
    double sum = 0;
    int count = 0;
    for (double t = 1; t < SPEECH.seconds() - 1; t += 0.25) {
      double error = Math.abs(v.map().at(t) - truth.at(t));
      worst = Math.max(worst, error);
      sum += error;
      count++;
    }
    assertThat(sum / count).isLessThan(0.004);
    assertThat(worst).isLessThan(0.03);
  }

  @Test
  void anotherRecordingIsWarnedOf() throws Exception {
    Audio other = Audio.of(RATE, Sounds.read("speech/reading-0930.flac").wholeChannel(0));
    Audio source = Sounds.read("speech/reading-0870.flac");
    StretchedVersion v =
        StretchMatcher.match(
            SourceMaterial.of(source, null, List.of()),
            other,
            MatchOverride.NONE,
            settings(null),
            null,
            Stop.NEVER);
    assertThat(v.match().confidence()).isLessThan(0.3);
    assertThat(v.match().warnings()).anyMatch(w -> w.contains("another recording"));
  }

  @ParameterizedTest
  @CsvSource({"resampling-shift,3", "formant-keeping-shift,3", "formant-keeping-shift,-4"})
  void aShiftedVersionLiesOnTheSource(String tool, double semitones) throws Exception {
    StandIn standIn =
        StandIns.ALL.stream().filter(s -> s.id().equals(tool)).findFirst().orElseThrow();
    Audio made =
        standIn.make(SPEECH, new Setup(100, 1, semitones), Progress.SILENT).get(StandIn.WHOLE);
    StretchedVersion v =
        StretchMatcher.match(
            SourceMaterial.of(SPEECH, null, List.of()),
            later(made, 1600),
            MatchOverride.NONE,
            new MatchSettings(Job.PITCH, LevelMode.WANTED, null, semitones),
            null,
            Stop.NEVER);
    assertThat(v.match().ratio()).isCloseTo(1, within(0.001));
    assertThat(v.match().delayMs()).isCloseTo(100, within(8.0));
    assertThat(v.match().confidence()).isGreaterThan(0.3);
  }

  @Test
  void whatWasSetByHandWins() throws Exception {
    StretchedVersion v =
        StretchMatcher.match(
            SourceMaterial.of(SPEECH, null, List.of()),
            stretched("speed-change", 0.8),
            MatchOverride.NONE.withRatio(0.9).withDelaySamples(160.0).withGainDb(-2.0),
            settings(0.8),
            null,
            Stop.NEVER);
    assertThat(v.map().at(10)).isCloseTo(9.01, within(1e-9));
    assertThat(v.match().gainDb()).isEqualTo(-2);
    assertThat(v.match().notes()).anyMatch(n -> n.contains("set by hand"));
  }

  @Test
  void loudnessIsMatched() throws Exception {
    StretchedVersion v = match(stretched("waveform-overlap", 0.8).times(0.25), 0.8);
    assertThat(v.match().gainDb()).isCloseTo(12.04, within(0.3));
    assertThat(v.match().levelBasis()).isEqualTo("integrated loudness");
  }
}
