package kettlesieve.core.measure.noise;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Scene;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.measure.reference.SiSdr;
import kettlesieve.core.measure.voice.Bandwidth;
import kettlesieve.core.measure.voice.Dropouts;
import kettlesieve.core.measure.voice.Flutter;
import kettlesieve.core.measure.voice.VoiceLoss;
import kettlesieve.core.signal.Db;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Each measure where it should answer, and where it should not. */
class SingleMeasuresTest {

  private static double value(PairMeasure measure, float[] version) {
    return Scene.read(measure, Scene.pair(version)).value();
  }

  // --- noise-cut ---

  @Test
  void moreNoiseThanBeforeIsANegativeCut() {
    assertThat(value(new NoiseCut(), Scene.withNoiseTimes(2))).isCloseTo(-6, within(0.7));
  }

  @Test
  void spotsOfTheNoiseCutAreWhereLeastWasCut() {
    float[] version = Scene.withNoiseTimes(0.1);
    int from = (int) (0.2 * Scene.RATE);
    System.arraycopy(Scene.NOISY, from, version, from, (int) (0.3 * Scene.RATE));
    Reading r = Scene.read(new NoiseCut(), Scene.pair(version));
    assertThat(r.spots()).isNotEmpty();
    assertThat(r.spots().get(0).from()).isBetween(0.05, 0.5);
    assertThat(r.spots().get(0).value()).isLessThan(r.value() - 3);
  }

  // --- noise-under-voice ---

  /** Weak speech hides in these cells: the reading is "no better than", short of the truth. */
  @ParameterizedTest
  @CsvSource({"0.5,-6,-4", "0.316,-10,-6"})
  void noiseUnderTheVoiceFollowsPartialRemoval(double gain, double truth, double reached) {
    assertThat(value(new NoiseUnderVoice(), Scene.withNoiseTimes(gain)))
        .isBetween(truth - 1, reached);
  }

  @Test
  void quietNoiseIsNotToldFromWeakSpeech() {
    float[] source = Sounds.mix(Scene.SPEECH, Scene.NOISE, 0.05 * Scene.FACTOR);
    Pair pair = Scene.pair(null, null, Audio.of(Scene.RATE, source), Audio.of(Scene.RATE, source));
    assertThat(Scene.reason(new NoiseUnderVoice(), pair)).contains("too quiet");
  }

  // --- musical-noise ---

  @Test
  void musicalNoiseOfASilentVersionIsNone() {
    float[] version = Scene.SPEECH.clone();
    Reading r = Scene.read(new MusicalNoise(), Scene.pair(version));
    // The recording's own rest in the pauses lies far below the voice.
    assertThat(r.value()).isLessThan(0.3);
  }

  @Test
  void aFixedToneIsNoMusicalNoise() {
    float[] tone = Sounds.sine(Scene.RATE, (double) Scene.NOISY.length / Scene.RATE, 1000, 0.01, 0);
    float[] version = Sounds.mix(Scene.withNoiseTimes(0.3), tone, 1);
    assertThat(value(new MusicalNoise(), version)).isLessThan(0.3);
  }

  /**
   * Textbook musical noise (Berouti, Schwartz & Makhoul 1979): of the noise in the pauses only lone
   * peaks are left, all else is gone. What is left follows nothing, as weak speech does.
   */
  @Test
  void whatIsLeftWhereMostCellsAreGoneIsMusicalNoise() {
    float[] version = Scene.SPEECH.clone();
    java.util.SplittableRandom random = new java.util.SplittableRandom(12);
    double level = 0.6 * Sounds.rms(Scene.NOISE) * Scene.FACTOR;
    for (int n = 0; n < version.length / Scene.RATE * 60; n++) {
      int at = random.nextInt(version.length - 1000);
      double hz = 400 + 6000 * random.nextDouble();
      for (int i = 0; i < 800; i++) {
        double shape = Math.sin(Math.PI * i / 800);
        version[at + i] +=
            (float) (level * shape * shape * Math.sin(2 * Math.PI * hz * i / Scene.RATE));
      }
    }
    Reading r = Scene.read(new MusicalNoise(), Scene.pair(version));
    assertThat(r.value()).isGreaterThan(1);
    assertThat(r.detail("lone")).isGreaterThan(45);
  }

  @Test
  void isolatedTonesAreMusicalNoiseWhereTheyAre() {
    float[] version = Scene.withNoiseTimes(0.1);
    for (int n = 0; n < 3; n++) {
      int at = (int) ((0.15 + 0.15 * n) * Scene.RATE);
      for (int i = 0; i < 800; i++) {
        double shape = Math.sin(Math.PI * i / 800);
        version[at + i] +=
            (float) (0.01 * shape * Math.sin(2 * Math.PI * (1500 + 1100 * n) * i / Scene.RATE));
      }
    }
    Reading r = Scene.read(new MusicalNoise(), Scene.pair(version));
    assertThat(r.value())
        .isGreaterThan(value(new MusicalNoise(), Scene.withNoiseTimes(0.1)) + 0.05);
    assertThat(r.spots().subList(0, 5))
        .anyMatch(spot -> spot.from() < 0.7 && spot.low() > 1000 && spot.low() < 3700);
  }

  // --- flutter ---

  @ParameterizedTest
  @ValueSource(doubles = {-20, -6, 6})
  void aFixedGainIsNoFlutter(double db) {
    float[] version = Sounds.mix(Scene.NOISY, Scene.NOISY, Db.toAmplitude(db) - 1);
    assertThat(value(new Flutter(), version)).isZero();
  }

  @Test
  void flutterInOneBandIsPlacedThere() {
    float[] middle =
        Sounds.mix(
            Sounds.lowPass(Scene.SPEECH, Scene.RATE, 1500),
            Sounds.lowPass(Scene.SPEECH, Scene.RATE, 700),
            -1);
    float[] version = Scene.SPEECH.clone();
    for (int i = 0; i < version.length; i++) {
      double db = 6 * Math.sin(2 * Math.PI * 11 * i / Scene.RATE);
      version[i] += (float) ((Db.toAmplitude(db) - 1) * middle[i]);
    }
    Reading r = Scene.read(new Flutter(), Scene.pair(version));
    assertThat(r.spots()).isNotEmpty();
    long inside = r.spots().stream().filter(s -> s.low() > 550 && s.high() < 1850).count();
    assertThat(inside).isGreaterThan(r.spots().size() / 2);
  }

  @Test
  void withoutStrongVoiceFlutterIsNotMeasured() {
    float[] source = Sounds.mix(Scene.SPEECH, Scene.NOISE, 30 * Scene.FACTOR);
    Pair pair =
        Scene.pair(
            null,
            java.util.List.of(new TimeSpan(0, 0.7)),
            Audio.of(Scene.RATE, source),
            Audio.of(Scene.RATE, source));
    assertThat(Scene.reason(new Flutter(), pair)).contains("too little");
  }

  // --- voice-loss and bandwidth ---

  @Test
  void voiceLossReadsAShelfInItsRange() {
    float[] low = Sounds.lowPass(Scene.SPEECH, Scene.RATE, 2000);
    // Everything above 2 kHz down by 6 dB.
    float[] version = Sounds.mix(low, Sounds.mix(Scene.SPEECH, low, -1), 0.5);
    Reading r = Scene.read(new VoiceLoss(), Scene.pair(version));
    assertThat(r.detail("presence")).isCloseTo(-6, within(0.8));
    assertThat(r.value()).isBetween(-7.5, -5.2);
    assertThat(r.detail("body")).isCloseTo(0, within(0.5));
  }

  @Test
  void aBoostIsNoLoss() {
    float[] low = Sounds.lowPass(Scene.SPEECH, Scene.RATE, 2000);
    float[] version = Sounds.mix(low, Sounds.mix(Scene.SPEECH, low, -1), 2);
    assertThat(value(new VoiceLoss(), version)).isGreaterThan(-1);
  }

  @ParameterizedTest
  @ValueSource(doubles = {1500, 2500, 3400, 5000})
  void bandwidthFollowsALowPass(double hz) {
    double third = Math.pow(10, 0.1);
    Reading r =
        Scene.read(new Bandwidth(), Scene.pair(Sounds.lowPass(Scene.SPEECH, Scene.RATE, hz)));
    assertThat(r.value()).isBetween(hz / third, hz * third);
    assertThat(r.detail("source")).isGreaterThan(6000);
    assertThat(r.detail("octaves"))
        .isCloseTo(Math.log(r.detail("source") / r.value()) / Math.log(2), within(1e-6));
  }

  @Test
  void theTelephoneBandIsNamed() {
    float[] low = Sounds.lowPass(Scene.SPEECH, Scene.RATE, 3200);
    float[] rumble = Sounds.lowPass(low, Scene.RATE, 300);
    Reading r = Scene.read(new Bandwidth(), Scene.pair(Sounds.mix(low, rumble, -1)));
    assertThat(r.value()).isBetween(2800.0, 3600.0);
    assertThat(r.notes()).anyMatch(n -> n.contains("telephone band"));
  }

  // --- dropouts ---

  @ParameterizedTest
  @CsvSource({"0.05,3,16", "0.15,9,30"})
  void dropoutsFollowTheShareOfTimeThatIsGone(double share, double least, double most) {
    float[] version = Scene.withNoiseTimes(0.3);
    int period = Scene.RATE / 2;
    for (int start = 0; start + period < version.length; start += period) {
      for (int i = start; i < start + share * period + 512; i++) {
        version[i] = 0;
      }
    }
    assertThat(value(new Dropouts(), version)).isBetween(least, most);
  }

  @Test
  void aFixedFilterHasNoDropouts() {
    assertThat(value(new Dropouts(), Sounds.lowPass(Scene.NOISY, Scene.RATE, 800))).isLessThan(0.5);
  }

  @Test
  void clicksThatWereRemovedAreNoDropouts() {
    float[] source = Scene.NOISY.clone();
    java.util.SplittableRandom random = new java.util.SplittableRandom(4);
    for (int n = 0; n < 30; n++) {
      source[random.nextInt(source.length)] += 0.7f;
    }
    Pair pair =
        Scene.pair(
            null,
            null,
            Audio.of(Scene.RATE, source),
            Audio.of(Scene.RATE, Scene.withNoiseTimes(0.2)));
    assertThat(Scene.read(new Dropouts(), pair).value()).isLessThan(0.5);
  }

  // --- level-change ---

  @ParameterizedTest
  @ValueSource(doubles = {-12, -3, 4})
  void levelChangeIsInLoudnessUnits(double db) {
    Audio version = Audio.of(Scene.RATE, Scene.NOISY).times(Db.toAmplitude(db));
    Reading r =
        Scene.read(
            new LevelChange(), Scene.pair(null, null, Audio.of(Scene.RATE, Scene.NOISY), version));
    assertThat(r.value()).isCloseTo(db, within(0.01));
    assertThat(r.detail("truePeak")).isFinite();
    assertThat(r.trace().values().length).isGreaterThan(100);
  }

  @Test
  void silenceHasNoLoudness() {
    Audio source = Audio.of(Scene.RATE, Scene.NOISY);
    Audio silent = Audio.of(Scene.RATE, new float[Scene.NOISY.length]);
    assertThat(Scene.reason(new LevelChange(), Scene.pair(null, null, source, silent)))
        .contains("too quiet");
  }

  // --- si-sdr ---

  @ParameterizedTest
  @ValueSource(doubles = {0, 10, 25})
  void siSdrOfAddedNoiseIsItsRatio(double db) {
    float[] version =
        Sounds.mix(Scene.SPEECH, Scene.NOISE, Sounds.noiseFactor(Scene.SPEECH, Scene.NOISE, db));
    Pair pair =
        Scene.pair(
            null,
            null,
            Audio.of(Scene.RATE, Scene.NOISY),
            Audio.of(Scene.RATE, version),
            Audio.of(Scene.RATE, Scene.SPEECH));
    assertThat(Scene.read(new SiSdr(), pair).value()).isCloseTo(db, within(0.1));
  }

  // --- excerpts ---

  @Test
  void placesAreInTheSourcesTimeEvenForAnExcerpt() {
    float[] version = Scene.withNoiseTimes(0.1);
    int from = (int) (5.0 * Scene.RATE);
    for (int i = from; i < from + Scene.RATE / 4; i++) {
      version[i] = 0;
    }
    Pair pair =
        Scene.pair(
            new TimeSpan(3, 12),
            null,
            Audio.of(Scene.RATE, Scene.NOISY),
            Audio.of(Scene.RATE, version));
    assertThat(pair.timeline().blocks()).isEqualTo(9);
    for (Spot spot : Scene.read(new Dropouts(), pair).spots()) {
      assertThat(spot.from()).isBetween(4.7, 5.4);
    }
    double[] seconds = Scene.read(new VoiceLoss(), pair).trace().seconds();
    assertThat(seconds[0]).isBetween(3.0, 3.2);
    assertThat(seconds[seconds.length - 1]).isBetween(11.7, 12.1);
  }
}
