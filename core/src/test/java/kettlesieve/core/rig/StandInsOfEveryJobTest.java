package kettlesieve.core.rig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.SplittableRandom;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Each stand-in does what its method is published for. */
class StandInsOfEveryJobTest {
  private static final int RATE = 16_000;
  private static final float[] SPEECH = Sounds.speech16();

  private static StandIn named(String id) {
    return StandIns.ALL.stream().filter(s -> s.id().equals(id)).findFirst().orElseThrow();
  }

  private static double sdr(float[] truth, float[] estimate) {
    double signal = 0;
    double error = 0;
    for (int i = 0; i < truth.length; i++) {
      signal += (double) truth[i] * truth[i];
      error += Math.pow(truth[i] - estimate[i], 2);
    }
    return 10 * Math.log10(signal / Math.max(1e-20, error));
  }

  @ParameterizedTest
  @EnumSource(Job.class)
  void everyJobHasAStandIn(Job job) {
    assertThat(StandIns.of(job)).isNotEmpty();
  }

  static Stream<StandIn> all() {
    return StandIns.ALL.stream();
  }

  @ParameterizedTest
  @MethodSource("all")
  void theSameAgainIsTheSameAndShortOrSilentSoundsAreTaken(StandIn tool) {
    float[] x = java.util.Arrays.copyOfRange(SPEECH, 20_000, 36_000);
    Audio stereo = Audio.of(RATE, x, Sounds.mix(x, Sounds.white(x.length, 3), 0.01));
    Setup setup = new Setup(60, 1.25, 2);
    Map<String, Audio> once = tool.make(stereo, setup, Progress.SILENT);
    Map<String, Audio> again = tool.make(stereo, setup, Progress.SILENT);
    once.forEach(
        (role, audio) -> {
          assertThat(audio.channels()).isEqualTo(2);
          float[] samples = audio.wholeChannel(1);
          assertThat(samples).isEqualTo(again.get(role).wholeChannel(1));
          for (float s : samples) {
            assertThat(s).isFinite();
          }
        });
    for (int length : new int[] {1, 90}) {
      Audio tiny = Audio.of(RATE, new float[length], new float[length]);
      assertThat(tool.make(tiny, setup, Progress.SILENT)).isNotEmpty();
    }
    assertThat(tool.description()).startsWith("Stand-in");
  }

  private static float[] clipped(double drive, float level) {
    float[] out = SPEECH.clone();
    for (int i = 0; i < out.length; i++) {
      out[i] = (float) Math.max(-level, Math.min(level, drive * SPEECH[i]));
    }
    return out;
  }

  private static float[] driven(double drive) {
    float[] out = SPEECH.clone();
    for (int i = 0; i < out.length; i++) {
      out[i] *= (float) drive;
    }
    return out;
  }

  @Test
  void rebuiltTopsAreNearerToTheTruthAndPredictionIsNearest() {
    float[] truth = driven(2);
    float[] clipped = clipped(2, 0.25f);
    Audio in = Audio.of(RATE, clipped);
    double before = sdr(truth, clipped);
    float[] cubic = named("cubic-tops").process(in, 100, Progress.SILENT).wholeChannel(0);
    float[] predicted = named("predicted-tops").process(in, 100, Progress.SILENT).wholeChannel(0);
    assertThat(sdr(truth, predicted)).isGreaterThan(before + 3);
    assertThat(sdr(truth, predicted)).isGreaterThan(sdr(truth, cubic) + 2);
    // Over short runs the cubic is good too; on long ones it is known to be wild.
    float[] lightly = clipped(2, 0.8f * peak(truth));
    float[] repaired =
        named("cubic-tops").process(Audio.of(RATE, lightly), 100, Progress.SILENT).wholeChannel(0);
    assertThat(sdr(truth, repaired)).isGreaterThan(sdr(truth, lightly) + 3);
    // What was never clipped stays bit for bit, and nothing rebuilt lies under the clip level.
    for (int i = 0; i < truth.length; i++) {
      if (Math.abs(clipped[i]) < 0.2497f) {
        assertThat(predicted[i]).isEqualTo(clipped[i]);
      } else {
        assertThat(Math.abs(predicted[i])).isGreaterThanOrEqualTo(0.2497f);
      }
    }
    double half =
        sdr(truth, named("predicted-tops").process(in, 50, Progress.SILENT).wholeChannel(0));
    assertThat(half).isBetween(before, sdr(truth, predicted));
  }

  private static float peak(float[] x) {
    float peak = 0;
    for (float v : x) {
      peak = Math.max(peak, Math.abs(v));
    }
    return peak;
  }

  @Test
  void medianSplitTellsTonesFromClicksAndAddsUp() {
    int size = 3 * RATE;
    float[] tone = Sounds.sine(RATE, 3, 700, 0.2, 0);
    float[] clicks = new float[size];
    SplittableRandom random = new SplittableRandom(5);
    for (int at = 4000; at < size - 200; at += 8000) {
      for (int i = 0; i < 60; i++) {
        clicks[at + i] = (float) (0.6 * Math.exp(-i / 12.0) * random.nextGaussian());
      }
    }
    Audio mix = Audio.of(RATE, Sounds.mix(tone, clicks, 1));
    Map<String, Audio> parts = named("median-split").make(mix, Setup.of(50), Progress.SILENT);
    assertThat(parts.keySet()).containsExactly("tonal", "transient");
    assertThat(sdr(tone, parts.get("tonal").wholeChannel(0))).isGreaterThan(12);
    assertThat(sdr(clicks, parts.get("transient").wholeChannel(0))).isGreaterThan(4);
    float[] sum =
        Sounds.mix(parts.get("tonal").wholeChannel(0), parts.get("transient").wholeChannel(0), 1);
    assertThat(sdr(mix.wholeChannel(0), sum)).isGreaterThan(80);
    Map<String, Audio> three = named("median-split").make(mix, Setup.of(80), Progress.SILENT);
    assertThat(three.keySet()).containsExactly("tonal", "transient", "noise");
  }

  @Test
  void centreSplitTakesTheMiddleAndAddsUp() {
    float[] middle = java.util.Arrays.copyOf(SPEECH, 4 * RATE);
    float[] left = Sounds.sine(RATE, 4, 2500, 0.1, 0);
    Audio mix = Audio.of(RATE, Sounds.mix(middle, left, 1), middle.clone());
    Map<String, Audio> parts = named("centre-split").make(mix, Setup.of(60), Progress.SILENT);
    float[] vocals = parts.get("vocals").wholeChannel(0);
    float[] rest = parts.get("everything but vocals").wholeChannel(0);
    assertThat(sdr(mix.wholeChannel(0), Sounds.mix(vocals, rest, 1))).isGreaterThan(80);
    assertThat(level(vocals, 2500)).isLessThan(level(rest, 2500) - 20);
    assertThatThrownBy(
            () -> named("centre-split").make(Audio.of(RATE, middle), Setup.of(60), Progress.SILENT))
        .hasMessageContaining("stereo");
  }

  /** Level of one frequency, dB. */
  private static double level(float[] x, double hz) {
    double re = 0;
    double im = 0;
    for (int i = 0; i < x.length; i++) {
      re += x[i] * Math.cos(2 * Math.PI * hz * i / RATE);
      im += x[i] * Math.sin(2 * Math.PI * hz * i / RATE);
    }
    return 20 * Math.log10(Math.hypot(re, im) / x.length + 1e-12);
  }

  private static double pitch(Audio audio) {
    int size = 1 << 15;
    float[] x = audio.samples(0, audio.frames() / 2 - size / 2, size);
    Fft.forward(x);
    int best = 1;
    for (int k = 2; k < size / 2; k++) {
      double p = x[2 * k] * x[2 * k] + x[2 * k + 1] * x[2 * k + 1];
      double q = x[2 * best] * x[2 * best] + x[2 * best + 1] * x[2 * best + 1];
      best = p > q ? k : best;
    }
    return (double) best * audio.sampleRate() / size;
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.67, 0.8, 1.25, 1.5})
  void stretchersChangeTheLengthAndOnlySpeedMovesThePitch(double ratio) {
    Audio tone = Audio.of(RATE, Sounds.sine(RATE, 6, 440, 0.3, 0));
    for (StandIn tool : StandIns.of(Job.STRETCH)) {
      Audio made = tool.make(tone, new Setup(100, ratio, 0), Progress.SILENT).get(StandIn.WHOLE);
      assertThat(made.frames()).isEqualTo(Math.round(tone.frames() * ratio));
      double expected = tool.id().equals("speed-change") ? 440 / ratio : 440;
      assertThat(pitch(made)).as(tool.id()).isCloseTo(expected, within(1.5));
      double rms = Sounds.rms(made.samples(0, made.frames() / 4, (int) made.frames() / 2));
      assertThat(20 * Math.log10(rms / (0.3 / Math.sqrt(2)))).isCloseTo(0, within(1.0));
    }
  }

  /** Two semitones are a ratio of 1.12246 (equal temperament). */
  @ParameterizedTest
  @ValueSource(doubles = {-4, 2, 3})
  void shiftersMoveThePitchAndKeepTheLength(double semitones) {
    Audio tone = Audio.of(RATE, Sounds.sine(RATE, 5, 440, 0.3, 0));
    for (StandIn tool : StandIns.of(Job.PITCH)) {
      Audio made =
          tool.make(tone, new Setup(100, 1, semitones), Progress.SILENT).get(StandIn.WHOLE);
      assertThat(made.frames()).isCloseTo(tone.frames(), within(2L));
      assertThat(pitch(made)).isCloseTo(440 * Math.pow(2, semitones / 12), within(1.5));
    }
  }

  @Test
  void lateSubtractionShortensTheTail() {
    SplittableRandom random = new SplittableRandom(11);
    int length = (int) (0.9 * RATE);
    int size = Fft.powerOfTwo(SPEECH.length + length);
    float[] response = new float[size];
    for (int i = 0; i < length; i++) {
      response[i] = (float) (0.03 * random.nextGaussian() * Math.pow(10, -3.0 * i / (0.8 * RATE)));
    }
    response[0] = 1;
    float[] x = java.util.Arrays.copyOf(SPEECH, size);
    Fft.forward(x);
    Fft.forward(response);
    for (int k = 1; k < size / 2; k++) {
      float re = x[2 * k] * response[2 * k] - x[2 * k + 1] * response[2 * k + 1];
      x[2 * k + 1] = x[2 * k] * response[2 * k + 1] + x[2 * k + 1] * response[2 * k];
      x[2 * k] = re;
    }
    Fft.inverse(x);
    Audio room = Audio.of(RATE, java.util.Arrays.copyOf(x, SPEECH.length));
    double before = quietShare(room);
    double some = quietShare(named("late-subtraction").process(room, 50, Progress.SILENT));
    double more = quietShare(named("late-subtraction").process(room, 100, Progress.SILENT));
    assertThat(some).isLessThan(before - 2);
    assertThat(more).isLessThan(some - 1);
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.5, 1.0, 1.6})
  void theDecayIsReadFromTheRecording(double seconds) {
    SplittableRandom random = new SplittableRandom(13);
    float[] x = new float[20 * RATE];
    for (int i = 0; i < x.length; i++) {
      double since = (double) (i % (4 * RATE)) / RATE;
      x[i] = (float) (0.2 * random.nextGaussian() * Math.pow(10, -3 * since / seconds));
    }
    assertThat(LateSubtraction.decaySeconds(Audio.of(RATE, x)) / seconds).isBetween(0.75, 1.3);
  }

  /** Level of the quietest third of the 20 ms frames against the loudest, dB: the room fills it. */
  private static double quietShare(Audio audio) {
    float[] x = audio.wholeChannel(0);
    double[] levels = new double[x.length / 320];
    for (int t = 0; t < levels.length; t++) {
      double p = 1e-12;
      for (int i = 0; i < 320; i++) {
        p += x[t * 320 + i] * x[t * 320 + i];
      }
      levels[t] = 10 * Math.log10(p);
    }
    java.util.Arrays.sort(levels);
    return levels[levels.length / 3] - levels[levels.length * 19 / 20];
  }

  @Test
  void setupsOutsideTheirRangeAreRefused() {
    assertThatThrownBy(() -> Setup.of(-1)).hasMessageContaining("0 to 100");
    assertThatThrownBy(() -> new Setup(50, 20, 0)).hasMessageContaining("ratio");
    assertThatThrownBy(() -> new Setup(50, 1, 40)).hasMessageContaining("semitones");
  }
}
