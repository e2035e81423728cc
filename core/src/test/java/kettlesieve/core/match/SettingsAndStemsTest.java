package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class SettingsAndStemsTest {
  private static final int RATE = 16_000;
  private static final Audio SPEECH = Audio.of(RATE, Sounds.speech16());

  private static MatchedVersion match(Audio source, Audio version, Job job, LevelMode level)
      throws MatchException {
    return Matcher.match(
        SourceMaterial.of(source, null, null),
        version,
        MatchOverride.NONE,
        new MatchSettings(job, level, null, null),
        null,
        Stop.NEVER);
  }

  @ParameterizedTest
  @EnumSource(LevelMode.class)
  void everyLevelModeDoesWhatItSays(LevelMode mode) throws Exception {
    float[] noise = Sounds.white((int) SPEECH.frames(), 4);
    // Louder by 6 dB with a click that decides the peak.
    float[] x = Sounds.mix(SPEECH.wholeChannel(0), noise, 0.001);
    for (int i = 0; i < x.length; i++) {
      x[i] *= 2;
    }
    x[50_000] = 3.2f;
    MatchedVersion v = match(SPEECH, Audio.of(RATE, x), Job.DENOISE, mode);
    double peak = 0;
    for (float s : SPEECH.wholeChannel(0)) {
      peak = Math.max(peak, Math.abs(s));
    }
    double expected =
        switch (mode) {
          case WANTED, LOUDNESS -> -6.02;
          case PEAK -> 20 * Math.log10(peak / 3.2);
          case OFF -> 0;
        };
    assertThat(v.match().gainDb()).isCloseTo(expected, within(0.1));
  }

  /** What is heard is equally loud: 0.3 LU is under what is noticed (common practice). */
  @Test
  void afterMatchingAllIsEquallyLoud() throws Exception {
    for (LevelMode mode : new LevelMode[] {LevelMode.WANTED, LevelMode.LOUDNESS}) {
      MatchedVersion v = match(SPEECH, SPEECH.times(0.2), Job.DENOISE, mode);
      double before = Loudness.of(SPEECH).integrated().orElseThrow();
      assertThat(Loudness.of(v.wholeAudio()).integrated().orElseThrow())
          .isCloseTo(before, within(0.3));
    }
  }

  @Test
  void declipIsMatchedOnWhatWasNeverClipped() throws Exception {
    float[] full = SPEECH.wholeChannel(0).clone();
    float[] clipped = full.clone();
    for (int i = 0; i < full.length; i++) {
      full[i] *= 3;
      clipped[i] = Math.max(-0.3f, Math.min(0.3f, full[i]));
    }
    // The repair is the truth itself, 4 dB down: its tops are higher, the rest is what it was.
    Audio repaired = Audio.of(RATE, full).times(Math.pow(10, -4 / 20.0));
    MatchedVersion v = match(Audio.of(RATE, clipped), repaired, Job.DECLIP, LevelMode.WANTED);
    assertThat(v.match().gainDb()).isCloseTo(4, within(0.02));
    assertThat(v.match().levelBasis()).contains("never clipped");
  }

  /** Cut tops tilt the correlation; good samples tell the place to the sample, or between two. */
  @Test
  void aRepairLiesWhereTheGoodSamplesSay() throws Exception {
    float[] full = SPEECH.wholeChannel(0);
    float peak = 0;
    for (float x : full) {
      peak = Math.max(peak, Math.abs(x));
    }
    float[] clipped = full.clone();
    float[] tooHigh = full.clone();
    for (int i = 0; i < full.length; i++) {
      clipped[i] = Math.max(-0.1f * peak, Math.min(0.1f * peak, full[i]));
      tooHigh[i] = clipped[i] + 2.3f * (full[i] - clipped[i]);
    }
    assertThat(delay(clipped, Audio.of(RATE, full))).isZero();
    assertThat(delay(clipped, Audio.of(RATE, tooHigh))).isZero();
    Audio late = LinearTimeAudio.map(Audio.of(RATE, tooHigh), RATE, full.length, -3, 1);
    assertThat(delay(clipped, late)).isEqualTo(3);
    Audio between = LinearTimeAudio.map(Audio.of(RATE, clipped), RATE, full.length, -0.4, 1);
    assertThat(delay(clipped, between)).isCloseTo(0.4, within(0.05));
  }

  private static double delay(float[] clipped, Audio version) throws Exception {
    return match(Audio.of(RATE, clipped), version, Job.DECLIP, LevelMode.WANTED)
        .match()
        .delaySamples();
  }

  private static Map<String, Audio> stems(double shift, double factor) {
    float[] tone = Sounds.sine(RATE, SPEECH.seconds(), 440, 0.05, 0);
    Map<String, Audio> stems = new LinkedHashMap<>();
    long frames = SPEECH.frames() + 1000;
    stems.put("vocals", LinearTimeAudio.map(SPEECH, RATE, frames, -shift, 1).times(factor));
    stems.put(
        "other", LinearTimeAudio.map(Audio.of(RATE, tone), RATE, frames, -shift, 1).times(factor));
    return stems;
  }

  private static Audio mix() {
    return Audio.of(
        RATE,
        Sounds.mix(SPEECH.wholeChannel(0), Sounds.sine(RATE, SPEECH.seconds(), 440, 0.05, 0), 1));
  }

  @Test
  void theSumOfStemsIsPutInPlaceAndLevelsStay() throws Exception {
    MatchedStems m =
        Matcher.matchStems(
            SourceMaterial.of(mix(), null, List.of()),
            stems(320, -0.5),
            MatchOverride.NONE,
            null,
            Stop.NEVER);
    assertThat(m.match().delaySamples()).isCloseTo(320, within(0.1));
    assertThat(m.match().polarity()).isEqualTo(-1);
    assertThat(m.match().gainDb()).isZero();
    float[] sum = m.sum().samples(0, 40_000, 16_000);
    float[] whole = mix().samples(0, 40_000, 16_000);
    for (int i = 0; i < sum.length; i += 97) {
      assertThat(sum[i]).isCloseTo(0.5f * whole[i], within(1e-3f));
    }
  }

  @Test
  void sumsAndRemaindersNullAgainstTheMix() throws Exception {
    MatchedStems m =
        Matcher.matchStems(
            SourceMaterial.of(mix(), null, List.of()),
            stems(0, 1),
            MatchOverride.NONE,
            null,
            Stop.NEVER);
    Audio without = m.of(new RoleSum("mix without vocals", List.of("vocals"), true));
    Audio other = m.stems().get("other");
    float[] a = without.samples(0, 30_000, 8000);
    float[] b = other.samples(0, 30_000, 8000);
    for (int i = 0; i < a.length; i++) {
      assertThat(a[i]).isCloseTo(b[i], within(1e-4f));
    }
    assertThat(Sounds.rms(m.remainder(m.stems().keySet()).samples(0, 0, 100_000))).isLessThan(1e-5);
    assertThat(m.has(new RoleSum("x", List.of("drums"), false))).isFalse();
    assertThat(Sounds.rms(m.sum(List.of("drums")).samples(0, 0, 1000))).isZero();
  }

  @Test
  void stemsMayComeInAnotherRateAndInMono() throws Exception {
    float[] mono = mix().wholeChannel(0);
    Audio wide = Audio.of(RATE, mono, mono);
    Map<String, Audio> stems = new LinkedHashMap<>();
    stems.put("all", LinearTimeAudio.resample(mix(), 44_100));
    MatchedStems m =
        Matcher.matchStems(
            SourceMaterial.of(wide, null, List.of()), stems, MatchOverride.NONE, null, Stop.NEVER);
    assertThat(m.match().warnings()).anyMatch(w -> w.contains("mono against a mix in stereo"));
    assertThat(m.match().notes()).anyMatch(n -> n.contains("44100"));
    assertThat(m.match().delaySamples()).isCloseTo(0, within(0.1));
  }
}
