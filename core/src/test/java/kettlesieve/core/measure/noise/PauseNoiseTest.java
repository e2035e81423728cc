package kettlesieve.core.measure.noise;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.signal.Db;
import org.junit.jupiter.api.Test;

class PauseNoiseTest {
  private final PauseNoise measure = new PauseNoise();

  @Test
  void followsTheNoiseDecibelByDecibel() {
    double whole = Scene.read(measure, Scene.pair(Scene.NOISY)).value();
    for (double db : new double[] {3, 10, 20}) {
      float[] version = Scene.withNoiseTimes(Db.toAmplitude(-db));
      assertThat(Scene.read(measure, Scene.pair(version)).value())
          .isCloseTo(whole - db, within(0.7));
    }
  }

  @Test
  void theIntervalHoldsTheValueAndIsNarrowForSteadyNoise() {
    Reading r = Scene.read(measure, Scene.pair(Scene.NOISY));
    assertThat(r.estimate().low()).isLessThanOrEqualTo(r.value());
    assertThat(r.estimate().high()).isGreaterThanOrEqualTo(r.value());
    assertThat(r.estimate().high() - r.estimate().low()).isLessThan(1.5);
  }

  @Test
  void marksOfAPersonDecideWhatCounts() {
    // Noise twice as strong in the second marked pause: only the marks make the difference.
    float[] source = Scene.NOISY.clone();
    int from = (int) (3.9 * Scene.RATE);
    for (int i = from; i < from + (int) (0.5 * Scene.RATE); i++) {
      source[i] += (float) (3 * Scene.FACTOR * Scene.NOISE[i]);
    }
    Audio audio = Audio.of(Scene.RATE, source);
    double quiet =
        Scene.read(measure, Scene.pair(null, List.of(new TimeSpan(0, 0.7)), audio, audio)).value();
    double loud =
        Scene.read(measure, Scene.pair(null, List.of(new TimeSpan(3.9, 4.4)), audio, audio))
            .value();
    // The wanted level is the same but for the noise taken off: about 12 dB more noise.
    assertThat(loud - quiet).isBetween(9.0, 15.0);
  }

  @Test
  void theLoudestPauseIsTheWorstSpot() {
    float[] version = Scene.withNoiseTimes(0.1);
    float[] tone = Sounds.sine(Scene.RATE, 0.15, 1000, 0.01, 0);
    int at = (int) (0.3 * Scene.RATE);
    for (int i = 0; i < tone.length; i++) {
      version[at + i] += tone[i];
    }
    Spot worst = Scene.read(measure, Scene.pair(version)).spots().get(0);
    assertThat(worst.from()).isBetween(0.1, 0.45);
    assertThat(worst.low()).isLessThan(1000);
    assertThat(worst.high()).isGreaterThan(1000);
  }

  @Test
  void theTraceHasPointsOnlyInPauses() {
    Reading r = Scene.read(measure, Scene.pair(Scene.NOISY));
    List<TimeSpan> pauses = Scene.pair(Scene.NOISY).source().pauses().activity().pauses();
    int points = 0;
    for (int i = 0; i < r.trace().values().length; i++) {
      if (Double.isFinite(r.trace().values()[i])) {
        double t = r.trace().seconds()[i];
        assertThat(pauses).anyMatch(p -> t > p.from() - 0.15 && t < p.to() + 0.15);
        points++;
      }
    }
    assertThat(points).isGreaterThan(10);
  }

  @Test
  void theSpectrumOfWhiteNoiseRisesWithTheWidthOfTheBands() {
    Reading r = Scene.read(measure, Scene.pair(Scene.NOISY));
    double[] values = r.spectrum().version();
    double[] hz = r.spectrum().hz();
    // Third-octaves widen tenfold in ten bands: 10 dB.
    int low = index(hz, 400);
    int high = index(hz, 4000);
    assertThat(values[high] - values[low]).isCloseTo(10, within(1.5));
    assertThat(r.spectrum().source()).hasSameSizeAs(values);
  }

  private static int index(double[] hz, double near) {
    int best = 0;
    for (int i = 0; i < hz.length; i++) {
      best = Math.abs(hz[i] - near) < Math.abs(hz[best] - near) ? i : best;
    }
    return best;
  }

  @Test
  void stereoChannelsArePooledAsTheirMean() {
    Audio source = Audio.of(Scene.RATE, Scene.NOISY, Scene.NOISY);
    float[] cleaned = Scene.withNoiseTimes(0.1);
    double both =
        Scene.read(measure, Scene.pair(null, null, source, Audio.of(Scene.RATE, cleaned, cleaned)))
            .value();
    double one =
        Scene.read(
                measure, Scene.pair(null, null, source, Audio.of(Scene.RATE, cleaned, Scene.NOISY)))
            .value();
    double mono = Scene.read(measure, Scene.pair(cleaned)).value();
    assertThat(both).isCloseTo(mono, within(0.05));
    // One channel as noisy as ever: half of the power.
    double noisy = Scene.read(measure, Scene.pair(Scene.NOISY)).value();
    assertThat(one).isCloseTo(noisy - 3, within(0.5));
  }

  @Test
  void aVersionWithoutThePausesIsNotMeasured() {
    float[] noPause = new float[Scene.NOISY.length];
    Audio source = Audio.of(Scene.RATE, Scene.NOISE).times(0.1);
    assertThat(Scene.reason(measure, Scene.pair(null, null, source, Audio.of(Scene.RATE, noPause))))
        .contains("cannot be told apart");
  }

  /** Nothing is heard in the pauses of what is silent; it has cleaned nothing. */
  @Test
  void aSilentVersionAndHalfOfOneAnswerNothing() {
    float[] half = Scene.withNoiseTimes(0.1);
    java.util.Arrays.fill(half, half.length / 2, half.length, 0);
    for (float[] version : new float[][] {new float[half.length], half}) {
      assertThat(Scene.reason(new PauseNoise(), Scene.pair(version)))
          .contains("of the wanted sound is in it");
    }
    float[] most = Scene.withNoiseTimes(0.1);
    java.util.Arrays.fill(most, (int) (0.8 * most.length), most.length, 0);
    assertThat(Scene.read(new PauseNoise(), Scene.pair(most)).value()).isLessThan(-20);
  }
}
