package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import kettlesieve.core.Outside;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** ITU-R BS.1770-5; EBU Tech 3341 and 3342, values from memory. */
class LoudnessTest {
  private static final double SINE_PEAK = 1;

  /** A 1 kHz tone in stereo, its level (peak, dBFS) by parts: level, seconds, level, seconds … */
  private static Audio tone(int rate, double... parts) {
    List<Float> samples = new ArrayList<>();
    long n = 0;
    for (int i = 0; i < parts.length; i += 2) {
      double amplitude = SINE_PEAK * Db.toAmplitude(parts[i]);
      for (long end = n + Math.round(parts[i + 1] * rate); n < end; n++) {
        samples.add((float) (amplitude * Math.sin(2 * Math.PI * 1000 * n / rate)));
      }
    }
    float[] x = new float[samples.size()];
    for (int i = 0; i < x.length; i++) {
      x[i] = samples.get(i);
    }
    return Audio.of(rate, x, x.clone());
  }

  @Test
  void fullScaleToneOfOneFrontChannelReadsMinus301() {
    Audio audio = Audio.of(48_000, Sounds.sine(48_000, 5, 997, 1, 0));
    assertThat(Loudness.of(audio).integrated().orElseThrow()).isCloseTo(-3.01, within(0.01));
  }

  static Stream<Arguments> tech3341() {
    return Stream.of(
        Arguments.of("case 1", new double[] {-23, 20}, -23.0),
        Arguments.of("case 2", new double[] {-33, 20}, -33.0),
        Arguments.of("case 3", new double[] {-36, 10, -23, 60, -36, 10}, -23.0),
        Arguments.of("case 4", new double[] {-72, 10, -36, 10, -23, 60, -36, 10, -72, 10}, -23.0),
        Arguments.of("case 5", new double[] {-26, 20, -20, 20.1, -26, 20}, -23.0));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("tech3341")
  void integratedLoudness(String name, double[] parts, double expected) {
    assertThat(Loudness.of(tone(48_000, parts)).integrated().orElseThrow())
        .isCloseTo(expected, within(0.1));
  }

  /** Case 6: five channels, −28 in left and right, −24 in centre, −30 in the surrounds. */
  @Test
  void surroundChannelsWeighMore() {
    float[][] x = new float[5][];
    double[] levels = {-28, -28, -24, -30, -30};
    for (int c = 0; c < 5; c++) {
      x[c] = Sounds.sine(48_000, 20, 1000, Db.toAmplitude(levels[c]), 0);
    }
    assertThat(Loudness.of(Audio.of(48_000, x)).integrated().orElseThrow())
        .isCloseTo(-23.0, within(0.1));
  }

  @ParameterizedTest
  @ValueSource(ints = {8_000, 22_050, 44_100, 96_000, 192_000})
  void anyRateReadsTheSame(int rate) {
    assertThat(Loudness.of(tone(rate, -23, 20)).integrated().orElseThrow())
        .isCloseTo(-23.0, within(0.1));
  }

  @Test
  void momentaryAndShortTermFollowTheLevel() {
    Loudness loudness = Loudness.of(tone(48_000, -23, 5, -33, 5));
    assertThat(loudness.momentary()[10]).isCloseTo(-23, within(0.1));
    assertThat(loudness.momentary()[80]).isCloseTo(-33, within(0.1));
    assertThat(loudness.shortTerm()[10]).isCloseTo(-23, within(0.1));
    assertThat(loudness.shortTerm()[69]).isCloseTo(-33, within(0.1));
  }

  static Stream<Arguments> tech3342() {
    return Stream.of(
        Arguments.of("case 1", new double[] {-20, 20, -30, 20}, 10.0),
        Arguments.of("case 2", new double[] {-20, 20, -15, 20}, 5.0),
        Arguments.of("case 3", new double[] {-40, 20, -20, 20}, 20.0),
        Arguments.of("case 4", new double[] {-50, 20, -35, 20, -20, 20, -35, 20, -50, 20}, 15.0));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("tech3342")
  void loudnessRange(String name, double[] parts, double expected) {
    assertThat(Loudness.of(tone(48_000, parts)).range().orElseThrow())
        .isCloseTo(expected, within(1.0));
  }

  @Test
  void silenceAndVeryShortSoundHaveNoLoudness() {
    assertThat(Loudness.of(Audio.of(48_000, new float[48_000])).integrated()).isEmpty();
    assertThat(Loudness.of(tone(48_000, -23, 0.3)).integrated()).isEmpty();
    assertThat(Loudness.of(tone(48_000, -23, 2)).range()).isEmpty();
  }

  /** Tech 3341 cases 15 to 19: the sample peak hides the true one. */
  @ParameterizedTest
  @CsvSource({"4,0,0.5,-6.0", "4,45,0.5,-6.0", "6,60,0.5,-6.0", "8,67.5,0.5,-6.0", "4,45,1.41,3.0"})
  void truePeak(int divisor, double degrees, double amplitude, double expected) {
    int rate = 48_000;
    float[] x = Sounds.sine(rate, 1, (double) rate / divisor, amplitude, Math.toRadians(degrees));
    for (int i = 0; i < 480; i++) {
      float fade = i / 480f;
      x[i] *= fade;
      x[x.length - 1 - i] *= fade;
    }
    double db = TruePeak.db(Audio.of(rate, x));
    assertThat(db).isBetween(expected - 0.4, expected + 0.2);
  }

  /** Against the resampler, another interpolator: what is passed over does not hold the peak. */
  @ParameterizedTest
  @ValueSource(strings = {"front-center", "rear-center", "reading-0870"})
  void truePeakIsThatOfTheOversampledRecording(String name) {
    Audio audio = Sounds.read("speech/" + name + ".flac");
    double whole = TruePeak.of(audio);
    assertThat(TruePeak.of(audio, TruePeak.samplePeak(audio))).isEqualTo(whole);
    assertThat(Db.ofAmplitude(whole)).isCloseTo(oversampledPeakDb(audio), within(0.05));
  }

  /** The largest that samples far around make between two small ones. */
  @Test
  void truePeakMayLieBetweenSmallSamples() {
    float[] x = new float[4800];
    for (int k = -8; k <= 7; k++) {
      // Signs of the sinc half-way between two samples, where all add up.
      double t = k + 0.5;
      x[2400 + k] =
          (float) (Math.signum(Math.sin(Math.PI * t) / t) * (Math.abs(t) < 2 ? 0.3 : 0.5));
    }
    Audio audio = Audio.of(48_000, x);
    double between = TruePeak.db(audio);
    assertThat(between).isGreaterThan(Db.ofAmplitude(TruePeak.samplePeak(audio)) + 2);
    assertThat(between).isCloseTo(oversampledPeakDb(audio), within(0.5));
  }

  private static double oversampledPeakDb(Audio audio) {
    Audio finely = LinearTimeAudio.resample(audio, 4 * audio.sampleRate());
    return Db.ofAmplitude(TruePeak.samplePeak(finely));
  }

  /** Against FFmpeg's ebur128 on real recordings; it prints one decimal. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "front-center",
        "front-left",
        "front-right",
        "rear-center",
        "reading-0870",
        "reading-0880",
        "reading-0930"
      })
  void realRecordingsAgreeWithOtherSoftware(String name) {
    var outside = Outside.read().path("ebur128").path(name + ".flac");
    Audio audio = Sounds.read("speech/" + name + ".flac");
    assertThat(Loudness.of(audio).integrated().orElseThrow())
        .isCloseTo(outside.path("integrated").asDouble(), within(0.1));
    assertThat(TruePeak.db(audio)).isCloseTo(outside.path("truePeak").asDouble(), within(0.2));
  }
}
