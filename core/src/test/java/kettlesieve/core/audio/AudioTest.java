package kettlesieve.core.audio;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Outside;
import kettlesieve.core.Sounds;
import kettlesieve.core.picture.PeakPyramid;
import kettlesieve.core.signal.Clicks;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.FullScale;
import kettlesieve.core.signal.Histogram;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;

class AudioTest {
  private final Audio ramp =
      Audio.of(1000, new float[] {1, 2, 3, 4, 5}, new float[] {5, 4, 3, 2, 1});

  @Test
  void outsideTheRecordingIsSilence() {
    assertThat(ramp.samples(0, -2, 9)).containsExactly(0, 0, 1, 2, 3, 4, 5, 0, 0);
    assertThat(ramp.samples(0, 20, 3)).containsExactly(0, 0, 0);
    assertThat(ramp.slice(1, 4).samples(1, -1, 5)).containsExactly(0, 4, 3, 2, 0);
  }

  @Test
  void viewsChain() {
    assertThat(ramp.times(-2).samples(0, 0, 2)).containsExactly(-2, -4);
    assertThat(ramp.downmix().wholeChannel(0)).containsExactly(3, 3, 3, 3, 3);
    assertThat(ramp.asChannels(1).asChannels(3).channels()).isEqualTo(3);
    assertThat(ramp.times(1)).isSameAs(ramp);
  }

  @Test
  void wholeStepsAreCopiedBitForBit() {
    float[] noise = Sounds.white(5000, 7);
    Audio moved = LinearTimeAudio.map(Audio.of(48_000, noise), 48_000, 4000, 123, 1);
    assertThat(moved.samples(0, 0, 4000)).isEqualTo(java.util.Arrays.copyOfRange(noise, 123, 4123));
  }

  @Test
  void fractionalDelayOfAToneIsExact() {
    int rate = 48_000;
    for (double hz : new double[] {100, 3000, 12_000, 18_000}) {
      Audio tone = Audio.of(rate, Sounds.sine(rate, 0.5, hz, 1, 0));
      Audio moved = LinearTimeAudio.map(tone, rate, tone.frames(), 10.37, 1);
      float[] expected = Sounds.sine(rate, 0.5, hz, 1, 2 * Math.PI * hz / rate * 10.37);
      float[] error = Sounds.mix(moved.samples(0, 5000, 8000), slice(expected, 5000, 8000), -1);
      assertThat(Db.ofAmplitude(Sounds.rms(error) / 0.7071)).isLessThan(-80);
    }
  }

  @Test
  void resamplingAgreesWithSciPy() {
    var outside = Outside.read().path("resample");
    int rate = outside.path("from").asInt();
    float[] x = new float[rate];
    for (int i = 0; i < rate; i++) {
      double sum = 0;
      for (int k = 0; k < outside.path("tones").size(); k++) {
        double hz = outside.path("tones").get(k).asDouble();
        sum += Math.sin(2 * Math.PI * hz * i / rate + k);
      }
      x[i] = (float) (sum / outside.path("tones").size());
    }
    Audio y = LinearTimeAudio.resample(Audio.of(rate, x), outside.path("to").asInt());
    assertThat(y.frames()).isEqualTo(48_000);
    int first = outside.path("first").asInt();
    for (int i = 0; i < outside.path("values").size(); i++) {
      double expected = outside.path("values").get(i).asDouble();
      assertThat((double) y.samples(0, first + i, 1)[0]).isCloseTo(expected, within(1e-4));
    }
  }

  /** A drift is read from rows of the kernel's table: as exact as a delay is. */
  @Test
  void aDriftKeepsTonesWhatTheyAre() {
    int rate = 48_000;
    for (double step : new double[] {1 + 50e-6, 1 - 80e-6, 1 + 1500e-6}) {
      for (double hz : new double[] {100, 3000, 12_000, 18_000}) {
        Audio tone = Audio.of(rate, Sounds.sine(rate, 0.5, hz, 1, 0));
        Audio moved = LinearTimeAudio.map(tone, rate, 20_000, 3.7, step);
        float[] expected = Sounds.sine(rate, 0.5, hz * step, 1, 2 * Math.PI * hz / rate * 3.7);
        float[] error = Sounds.mix(moved.samples(0, 5000, 8000), slice(expected, 5000, 8000), -1);
        assertThat(Db.ofAmplitude(Sounds.rms(error) / 0.7071)).as(step + ", " + hz).isLessThan(-80);
      }
    }
  }

  /** Kernels worked out beforehand are those that are read tap by tap. */
  @Test
  void ratesInASmallRatioAreAsAnyOthers() {
    Audio noise = Audio.of(44_100, Sounds.white(20_000, 3));
    for (int to : new int[] {48_000, 16_000}) {
      double step = 44_100.0 / to;
      float[] quick = LinearTimeAudio.resample(noise, to).samples(0, 700, 3000);
      float[] slow = LinearTimeAudio.map(noise, to, 9000, 0, step).samples(0, 700, 3000);
      assertThat(Db.ofAmplitude(Sounds.rms(Sounds.mix(quick, slow, -1)) / Sounds.rms(slow)))
          .isLessThan(-100);
    }
  }

  @Test
  void goingDownNothingFoldsBack() {
    Audio tone = Audio.of(48_000, Sounds.sine(48_000, 0.5, 11_000, 1, 0));
    Audio low = LinearTimeAudio.resample(tone, 16_000);
    assertThat(Db.ofAmplitude(Sounds.rms(low.samples(0, 2000, 4000)))).isLessThan(-80);
  }

  @Test
  void blocksDoNotShowInTheResult() {
    Audio noise = Audio.of(44_100, Sounds.white(20_000, 3));
    Audio y = LinearTimeAudio.resample(noise, 48_000);
    float[] whole = y.samples(0, 0, 9000);
    for (int at = 0; at < 9000; at += 1000) {
      assertThat(y.samples(0, at, 1000)).isEqualTo(slice(whole, at, 1000));
    }
  }

  @Test
  void nonsenseIsRefused() {
    assertThatThrownBy(() -> Audio.of(48_000, new float[3], new float[4]))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> LinearTimeAudio.map(ramp, 1000, 5, Double.NaN, 1))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> LinearTimeAudio.map(ramp, 1000, 5, 0, 0))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void statisticsByHand() {
    assertThat(Statistics.median(3, 1, 2)).isEqualTo(2);
    assertThat(Statistics.median(4, 1, 2, 3)).isEqualTo(2.5);
    assertThat(Statistics.quantile(new double[] {0, 10}, 0.25)).isEqualTo(2.5);
    assertThat(Statistics.weightedMedian(new double[] {1, 2, 9}, new double[] {1, 1, 3}))
        .isEqualTo(9);
    assertThat(Statistics.robustDeviation(new double[] {1, 2, 3, 4, 100}))
        .isCloseTo(1.4826, within(1e-9));
    assertThat(Statistics.median()).isNaN();
    Histogram histogram = new Histogram(-0.5, 1, 10);
    histogram.add(2, 1);
    histogram.add(2, 1);
    histogram.add(7, 1);
    assertThat(histogram.median()).isBetween(1.5, 2.5);
  }

  @Test
  void clicksAreFoundWhereTheyAreAndSpeechIsNotTakenForThem() {
    Audio clean = Sounds.read("speech/front-center.flac");
    Framing framing = Framing.of(clean);
    float[] x = clean.wholeChannel(0).clone();
    x[64_000] += 0.2f;
    boolean[] marked = new boolean[framing.count()];
    Clicks.mark(Clicks.positions(Audio.of(48_000, x), 0, 18), framing, marked);
    assertThat(marked[64_000 / framing.hop()]).isTrue();
    int count = 0;
    for (boolean m : marked) {
      count += m ? 1 : 0;
    }
    assertThat(count).isLessThan(marked.length / 5);
  }

  @Test
  void fullScaleSamplesAreCountedInRuns() {
    float[] x = {0.2f, 1, 0.1f, 1, 1, 1, 0, -1, -1};
    assertThat(FullScale.samples(Audio.of(8000, x))).isEqualTo(5);
  }

  @Test
  void peaksOfAnyStretchAreExact() {
    float[] noise = Sounds.white(200_000, 5);
    noise[150_003] = 40;
    PeakPyramid peaks = PeakPyramid.of(Audio.of(48_000, noise), 0, Progress.SILENT);
    assertThat(peaks.range(0, 200_000)[1]).isEqualTo(40);
    assertThat(peaks.range(150_003, 150_004)[1]).isEqualTo(40);
    assertThat(peaks.range(150_100, 150_200)[1]).isLessThan(10);
    assertThat(peaks.range(300_000, 300_100)).containsExactly(0, 0);
  }

  private static float[] slice(float[] x, int from, int length) {
    return java.util.Arrays.copyOfRange(x, from, from + length);
  }
}
