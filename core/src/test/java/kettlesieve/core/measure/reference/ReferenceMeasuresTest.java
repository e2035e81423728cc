package kettlesieve.core.measure.reference;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Map;
import java.util.stream.Collectors;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.signal.DecayTime;
import kettlesieve.core.signal.Intelligibility;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** Readings against the clean recording, on real speech with added noise. */
class ReferenceMeasuresTest {
  private static final int RATE = 16_000;
  private static final float[] SPEECH = Arrays.copyOf(Sounds.speech16(), 10 * RATE);
  private static final float[] NOISE = Sounds.white(SPEECH.length, 31);
  private static final double FACTOR = Sounds.noiseFactor(SPEECH, NOISE, 10);

  private static Map<String, Reading> readings(Audio source, Audio version, Audio clean) {
    try {
      PreparedExcerpt a = PreparedExcerpt.of(source, clean, null, null);
      return a.measure(a.match(version, MatchOverride.NONE)).readings().stream()
          .collect(Collectors.toMap(Reading::measure, r -> r));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  private static Map<String, Reading> readings(float[] version) {
    return readings(
        Audio.of(RATE, Sounds.mix(SPEECH, NOISE, FACTOR)),
        Audio.of(RATE, version),
        Audio.of(RATE, SPEECH));
  }

  @Test
  void whatNoiseIsLeftLowersSirAndArtifactsLowerSar() {
    Map<String, Reading> quieter = readings(Sounds.mix(SPEECH, NOISE, 0.1 * FACTOR));
    assertThat(quieter.get("sir").value()).isCloseTo(30, within(0.5));
    assertThat(quieter.get("sar").value()).isGreaterThan(45);
    float[] foreign = Sounds.white(SPEECH.length, 77);
    Map<String, Reading> damaged = readings(Sounds.mix(SPEECH, foreign, 0.1 * FACTOR));
    // What filters of 512 taps explain of foreign noise by chance is a hundredth and less.
    assertThat(damaged.get("sar").value()).isCloseTo(30, within(0.5));
    assertThat(damaged.get("sir").value()).isGreaterThan(40);
    assertThat(damaged.get("sdr").value()).isLessThan(damaged.get("sar").value() + 0.5);
  }

  @Test
  void theCleanRecordingIsPerfectAndNoiseCostsSteadily() {
    double snr = 100;
    double distance = -1;
    double words = 1.0001;
    for (double gain : new double[] {0, 0.1, 0.3, 1, 3}) {
      Map<String, Reading> r = readings(Sounds.mix(SPEECH, NOISE, gain * FACTOR));
      assertThat(r.get("seg-snr").value()).isLessThan(snr);
      assertThat(r.get("lsd").value()).isGreaterThan(distance);
      assertThat(r.get("stoi").value()).isLessThanOrEqualTo(words);
      snr = r.get("seg-snr").value();
      distance = r.get("lsd").value();
      words = r.get("stoi").value();
      if (gain == 0) {
        assertThat(words).isCloseTo(1, within(1e-3));
        assertThat(distance).isLessThan(0.1);
        assertThat(snr).isEqualTo(35);
      }
    }
    assertThat(words).isLessThan(0.8);
  }

  @Test
  void intelligibilityDoesNotAskForLevelAndNeedsEnoughSpeech() {
    Audio speech = Audio.of(RATE, SPEECH);
    Audio noisy = Audio.of(RATE, Sounds.mix(SPEECH, NOISE, FACTOR));
    double whole = mean(Intelligibility.of(speech, noisy));
    assertThat(mean(Intelligibility.of(speech, noisy.times(0.1)))).isCloseTo(whole, within(1e-4));
    assertThat(whole).isBetween(0.6, 0.99);
    Audio short_ = speech.slice(0, RATE / 5);
    assertThat(Intelligibility.of(short_, short_).values()).isEmpty();
  }

  @Test
  void intelligibilityIsTheSameAtAHigherRate() {
    Audio speech = Audio.of(RATE, SPEECH);
    Audio noisy = Audio.of(RATE, Sounds.mix(SPEECH, NOISE, FACTOR));
    double at16 = mean(Intelligibility.of(speech, noisy));
    double at48 =
        mean(
            Intelligibility.of(
                kettlesieve.core.signal.LinearTimeAudio.resample(speech, 48_000),
                kettlesieve.core.signal.LinearTimeAudio.resample(noisy, 48_000)));
    assertThat(at48).isCloseTo(at16, within(0.01));
  }

  private static double mean(Intelligibility found) {
    return Arrays.stream(found.values()).average().orElseThrow();
  }

  @Test
  void inStereoTheImagesAreTheValue() {
    float[] other = Sounds.white(SPEECH.length, 12);
    Audio clean = Audio.of(RATE, SPEECH, Sounds.mix(SPEECH, SPEECH, -0.4));
    Audio source =
        Audio.of(
            RATE,
            Sounds.mix(SPEECH, NOISE, FACTOR),
            Sounds.mix(Sounds.mix(SPEECH, SPEECH, -0.4), other, FACTOR));
    Audio version =
        Audio.of(
            RATE,
            Sounds.mix(SPEECH, NOISE, 0.2 * FACTOR),
            Sounds.mix(Sounds.mix(SPEECH, SPEECH, -0.4), other, 0.2 * FACTOR));
    Reading r = readings(source, version, clean).get("sdr");
    assertThat(r.details()).extracting(Detail::key).containsExactly("sources", "images", "isr");
    assertThat(r.value()).isEqualTo(r.detail("images"));
    assertThat(r.detail("sources")).isGreaterThan(r.value());
  }

  @Test
  void aSyntheticDecayHasItsKnownTime() {
    // ISO 3382-1: energy that falls by 60 dB in 0.8 s has an early decay time of 0.8 s.
    double[] energy = new double[200];
    for (int i = 0; i < energy.length; i++) {
      energy[i] = Math.pow(10, -6 * (i * 0.01) / 0.8);
    }
    assertThat(DecayTime.early(energy, 0.01)).isCloseTo(0.8, within(0.01));
    assertThat(DecayTime.early(new double[20], 0.01)).isNaN();
  }
}
