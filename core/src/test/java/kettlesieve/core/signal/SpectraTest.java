package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Outside;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.picture.FrequencyScale;
import kettlesieve.core.picture.SpectrumColumns;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SpectraTest {
  @ParameterizedTest
  @CsvSource({"8000,256", "16000,512", "22050,1024", "44100,2048", "48000,2048", "96000,4096"})
  void framesAreTheNextPowerOfTwoOver30Milliseconds(int rate, int length) {
    Framing framing = Framing.of(Audio.of(rate, new float[rate]));
    assertThat(framing.length()).isEqualTo(length);
    assertThat(framing.hop()).isEqualTo(length / 4);
    assertThat(framing.count()).isEqualTo((rate - length) / (length / 4) + 1);
  }

  @Test
  void soundShorterThanAFrameHasNoFrames() {
    assertThat(Framing.of(Audio.of(48_000, new float[2047])).count()).isZero();
    assertThat(Framing.of(Audio.of(48_000, new float[2048])).count()).isEqualTo(1);
  }

  @Test
  void powersOfAFrameAgreeWithSciPy() {
    Spectrogram spectrogram = new Spectrogram(Audio.of(48_000, Sounds.congruential(2048)), 0);
    var outside = Outside.read().path("periodogram");
    // SciPy scales for the height of a tone, we for the power of noise: the ratio is the window's.
    double windows = Math.pow(1024, 2) / (2048 * 768.0);
    for (int i = 0; i < outside.path("bins").size(); i++) {
      int bin = outside.path("bins").get(i).asInt();
      double expected = outside.path("power").get(i).asDouble() * windows;
      assertThat((double) spectrogram.powers(0)[bin]).isCloseTo(expected, within(1e-5 * expected));
    }
  }

  @Test
  void summedPowersAreTheMeanSquare() {
    Audio noise = Audio.of(48_000, Sounds.white(48_000, 1)).times(0.1);
    Spectrogram spectrogram = new Spectrogram(noise, 0);
    double sum = 0;
    for (int t = 0; t < spectrogram.framing().count(); t++) {
      for (float p : spectrogram.powers(t)) {
        sum += p;
      }
    }
    assertThat(Db.ofPower(sum / spectrogram.framing().count())).isCloseTo(-20, within(0.1));
  }

  /** IEC 61672-1, table of A-weighting (from memory), and its tolerance of rounding. */
  @ParameterizedTest
  @CsvSource({
    "31.5,-39.4", "63,-26.2", "125,-16.1", "250,-8.6", "500,-3.2",
    "1000,0", "2000,1.2", "4000,1.0", "8000,-1.1", "16000,-6.6"
  })
  void aWeighting(double hz, double expected) {
    double exact = 1000 * Math.pow(10, Math.round(10 * Math.log10(hz / 1000)) / 10.0);
    assertThat(AWeighting.db(exact)).isCloseTo(expected, within(0.06));
  }

  /** IEC 61260-1, base ten: mid-bands 1000·10^(n/10). */
  @Test
  void thirdOctavesHaveTheStandardsFrequencies() {
    ThirdOctaveBands bands = new ThirdOctaveBands(Framing.of(Audio.of(48_000, new float[48_000])));
    assertThat(ThirdOctaveBands.middleHz(0)).isCloseTo(50.119, within(0.001));
    assertThat(ThirdOctaveBands.middleHz(bands.bandAt(1000))).isCloseTo(1000, within(1e-9));
    assertThat(ThirdOctaveBands.middleHz(bands.bandAt(3150))).isCloseTo(3162.28, within(0.01));
    assertThat(ThirdOctaveBands.middleHz(bands.count() - 1)).isCloseTo(19952.6, within(0.1));
    assertThat(ThirdOctaveBands.highHz(5)).isCloseTo(ThirdOctaveBands.lowHz(6), within(1e-9));
    assertThat(bands.bandAt(20)).isEqualTo(-1);
  }

  @Test
  void bandsWithoutBinsAreKnown() {
    Framing framing = Framing.of(Audio.of(48_000, new float[48_000]));
    ThirdOctaveBands bands = new ThirdOctaveBands(framing);
    int empty = 0;
    for (int b = 0; b < bands.count(); b++) {
      boolean any = false;
      for (int k = 0; k < framing.bins(); k++) {
        double hz = k * framing.binHz();
        any |= hz >= ThirdOctaveBands.lowHz(b) && hz < ThirdOctaveBands.highHz(b);
      }
      assertThat(bands.hasBins(b)).as("band " + ThirdOctaveBands.middleHz(b)).isEqualTo(any);
      empty += any ? 0 : 1;
    }
    // Bins 23 Hz apart: around 80 Hz a band of 18 Hz falls between them.
    assertThat(empty).isEqualTo(1);
    assertThat(bands.hasBins(bands.bandAt(80))).isFalse();
  }

  @Test
  void everyBinBelongsToTheBandItLiesIn() {
    Framing framing = Framing.of(Audio.of(16_000, new float[16_000]));
    ThirdOctaveBands bands = new ThirdOctaveBands(framing);
    for (int k = 2; k < framing.bins(); k++) {
      int band = bands.ofBin(k);
      if (band >= 0) {
        assertThat(k * framing.binHz())
            .isBetween(ThirdOctaveBands.lowHz(band), ThirdOctaveBands.highHz(band));
      }
    }
    assertThat(ThirdOctaveBands.middleHz(bands.count() - 1)).isLessThan(8000);
  }

  @Test
  void kWeightingAgreesWithTheStandardsCoefficients() {
    var outside = Outside.read().path("kWeighting48k");
    for (int i = 0; i < outside.path("hz").size(); i++) {
      double hz = outside.path("hz").get(i).asDouble();
      double db =
          response(KWeighting.shelf(48_000), hz, 48_000)
              + response(KWeighting.highPass(48_000), hz, 48_000);
      assertThat(db).isCloseTo(outside.path("db").get(i).asDouble(), within(0.01));
    }
  }

  private static double response(Biquad b, double hz, int rate) {
    double w = 2 * Math.PI * hz / rate;
    double numerator =
        square(b.b0() + b.b1() * Math.cos(w) + b.b2() * Math.cos(2 * w))
            + square(b.b1() * Math.sin(w) + b.b2() * Math.sin(2 * w));
    double denominator =
        square(1 + b.a1() * Math.cos(w) + b.a2() * Math.cos(2 * w))
            + square(b.a1() * Math.sin(w) + b.a2() * Math.sin(2 * w));
    return Db.ofPower(numerator / denominator);
  }

  private static double square(double x) {
    return x * x;
  }

  @Test
  void boxMeansAreMeansOfWhatExists() {
    float[][] rows = {{1, 2, 3, 4}, {5, 6, 7, 8}, {9, 10, 11, 12}};
    BoxMean box = new BoxMean(1, 4, 3, t -> rows[t]);
    assertThat(box.row(0)[0]).isEqualTo((1 + 2 + 5 + 6) / 4f);
    assertThat(box.row(1)[1]).isEqualTo((1 + 2 + 3 + 5 + 6 + 7 + 9 + 10 + 11) / 9f);
    assertThat(box.row(2)[3]).isEqualTo((7 + 8 + 11 + 12) / 4f);
  }

  @Test
  void pictureLevelsPutAToneInItsRow() {
    Audio tone = Audio.of(48_000, Sounds.sine(48_000, 1, 4000, 0.5, 0));
    float[][] levels =
        SpectrumColumns.levels(tone, 0.2, 0.01, 20, 64, FrequencyScale.LINEAR, 16_000);
    int loudest = 0;
    for (int r = 0; r < 64; r++) {
      loudest = levels[10][r] > levels[10][loudest] ? r : loudest;
    }
    assertThat((loudest + 0.5) / 64 * 16_000).isCloseTo(4000, within(260.0));
    assertThat((double) levels[10][loudest]).isCloseTo(-6.0, within(1.5));
  }

  @ParameterizedTest
  @CsvSource({"LINEAR", "MEL", "LOG"})
  void frequencyScalesTurnBack(FrequencyScale scale) {
    for (double hz : new double[] {60, 440, 1000, 8000}) {
      assertThat(scale.hz(scale.height(hz, 16_000), 16_000)).isCloseTo(hz, within(1e-6 * hz));
    }
  }
}
