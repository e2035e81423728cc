package kettlesieve.core.measure;

import static kettlesieve.core.measure.NoisySpeech.ANALYSED;
import static kettlesieve.core.measure.NoisySpeech.CLEANED;
import static kettlesieve.core.measure.NoisySpeech.FACTOR;
import static kettlesieve.core.measure.NoisySpeech.HARM;
import static kettlesieve.core.measure.NoisySpeech.NOISE;
import static kettlesieve.core.measure.NoisySpeech.NOISY;
import static kettlesieve.core.measure.NoisySpeech.RATE;
import static kettlesieve.core.measure.NoisySpeech.SPEECH;
import static kettlesieve.core.measure.NoisySpeech.preparedExcerpt;
import static kettlesieve.core.measure.NoisySpeech.reading;
import static kettlesieve.core.measure.NoisySpeech.readings;
import static kettlesieve.core.measure.NoisySpeech.take;
import static kettlesieve.core.measure.NoisySpeech.value;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.reference.SiSdr;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Db;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What did no harm is not punished, on real speech with added noise; and what holds for all
 * readings.
 */
class NeutralTest {
  // --- the two neutral cases ---

  static Stream<Arguments> neutralCases() {
    return Stream.of("white", "pink", "hum")
        .flatMap(
            kind ->
                Stream.of(5, 10, 20)
                    .flatMap(
                        snr ->
                            Stream.of(48_000, 16_000).map(rate -> Arguments.of(kind, snr, rate))));
  }

  @ParameterizedTest(name = "{0} noise, {1} dB, {2} Hz")
  @MethodSource("neutralCases")
  void untouchedSourceAndPerfectRemovalAreNotPunished(String kind, int snr, int rate) {
    float[] clean = rate == 48_000 ? SPEECH : Sounds.speech16();
    float[] noise =
        switch (kind) {
          case "white" -> Sounds.white(clean.length, 5);
          case "pink" -> Sounds.pink(clean.length, 5);
          default -> Sounds.hum(clean.length, rate, 5);
        };
    double factor = Sounds.noiseFactor(clean, noise, snr);
    float[] source = Sounds.mix(clean, noise, factor);
    double[] left = {1, 0.316, 0.1, 0};
    PreparedExcerpt preparedExcerpt = preparedExcerpt(rate, source, clean);
    for (double gain : left) {
      float[] version = Sounds.mix(clean, noise, gain * factor);
      Readings taken = take(preparedExcerpt, Audio.of(rate, version), HARM);
      Card card =
          Card.of(
              taken.readings(),
              Scoring.shipped(),
              Scoring.shipped().profileOrDefault(null),
              Job.DENOISE);
      String what =
          "noise times "
              + gain
              + ": "
              + taken.readings().stream()
                  .map(r -> r.measure() + " " + r.value() + " " + r.details())
                  .toList();
      assertThat(card.axes().get(Axis.ADDED).value())
          .as("added, " + what)
          .isGreaterThanOrEqualTo(99);
      assertThat(card.axes().get(Axis.LOST).value()).as("lost, " + what).isGreaterThanOrEqualTo(99);
    }
  }

  // --- noise left ---

  @ParameterizedTest
  @CsvSource({"5", "10", "20"})
  void noiseCutReadsWhatWasTakenOff(double db) {
    float[] version = Sounds.mix(SPEECH, NOISE, FACTOR * Db.toAmplitude(-db));
    assertThat(value(version, "noise-cut")).isCloseTo(db, within(1.0));
  }

  @Test
  void theSourceItselfReadsNothing() {
    Map<String, Reading> r = readings(NOISY);
    assertThat(r.get("noise-cut").value()).isZero();
    assertThat(r.get("noise-under-voice").value()).isCloseTo(0, within(1e-9));
    assertThat(r.get("musical-noise").value()).isCloseTo(0, within(1e-9));
    assertThat(r.get("flutter").value()).isZero();
    assertThat(r.get("voice-loss").value()).isCloseTo(0, within(1e-9));
    assertThat(r.get("dropouts").value()).isZero();
    assertThat(r.get("level-change").value()).isZero();
  }

  @Test
  void pauseLevelsAreThoseOfTheNoise() {
    Reading r = reading(NOISY, "pause-noise");
    double expected = Db.ofAmplitude(Sounds.rms(NOISE) * FACTOR);
    assertThat(r.detail("dBFS")).isCloseTo(expected, within(0.6));
    // A-weighting of white noise to 24 kHz takes off between 1 and 4 dB.
    assertThat(r.detail("dBA")).isBetween(expected - 4, expected - 1);
    assertThat(r.detail("peak")).isBetween(expected + 8, expected + 25);
  }

  @Test
  void digitalSilenceIsAFlaggedFloorAndNoInfinity() {
    float[] gated = SPEECH.clone();
    Map<String, Reading> r = readings(gated);
    assertThat(r.get("pause-noise").value()).isBetween(-80.0, -60.0);
    float[] silent = new float[SPEECH.length];
    for (int i = 0; i < silent.length; i++) {
      silent[i] = Math.abs(SPEECH[i]) > 1e-3 ? SPEECH[i] : 0;
    }
    Reading pause = reading(silent, "pause-noise");
    assertThat(pause.value()).isEqualTo(-80);
    assertThat(pause.detail("silent")).isPositive();
    assertThat(pause.notes()).isNotEmpty();
  }

  @Test
  void noiseThatComesAndGoesWithTheVoiceIsSeen() {
    // A gate: pauses silent, noise under the voice as before.
    float[] gated = NOISY.clone();
    float level = 0;
    for (int i = 0; i < gated.length; i++) {
      level = Math.max(Math.abs(SPEECH[i]), level * 0.9998f);
      gated[i] *= level > 0.01f ? 1 : 0.03f;
    }
    double gate = value(gated, "noise-under-voice");
    double removed = value(CLEANED, "noise-under-voice");
    assertThat(removed).isLessThan(-6);
    assertThat(gate).isGreaterThan(removed + 4);
    assertThat(value(gated, "noise-cut")).isGreaterThan(15);
  }

  // --- with a reference ---

  @Test
  void siSdrOfOrthogonalNoiseIsTheSignalToNoiseRatio() {
    // Le Roux et al. 2019: orthogonal noise, any scale.
    assertThat(SiSdr.ratioDb(3, 9, 1 + 0.01)).isCloseTo(20, within(1e-9));
    assertThat(SiSdr.ratioDb(3 * 7, 9, (1 + 0.01) * 49)).isCloseTo(20, within(1e-9));
    assertThat(SiSdr.ratioDb(9, 9, 9)).isEqualTo(100);
    assertThat(SiSdr.ratioDb(0, 0, 1)).isNaN();
  }

  @Test
  void siSdrIsTakenOnlyWithAReference() {
    List<String> id = List.of("si-sdr");
    Readings without = take(ANALYSED, Audio.of(RATE, CLEANED), id);
    assertThat(without.notMeasured()).contains(new NotMeasured("si-sdr", "no reference"));
    Readings with = take(preparedExcerpt(RATE, NOISY, SPEECH), Audio.of(RATE, CLEANED), id);
    Reading r =
        with.readings().stream()
            .filter(x -> x.measure().equals("si-sdr"))
            .findFirst()
            .orElseThrow();
    assertThat(r.value()).isCloseTo(35, within(0.5));
  }

  // --- what holds for all ---

  @Test
  void everyReadingIsCompleteAndFinite() {
    for (Reading r :
        readings(new PlainSubtraction().process(Audio.of(RATE, NOISY), 70, Progress.SILENT))
            .values()) {
      Declaration d = Measures.declaration(r.measure());
      assertThat(d.meaning()).isNotBlank();
      assertThat(d.formula()).isNotBlank();
      assertThat(r.estimate().low()).isLessThanOrEqualTo(r.value());
      assertThat(r.estimate().high()).isGreaterThanOrEqualTo(r.value());
      assertThat(r.estimate().draws()).hasSize(Bootstrap.DRAWS);
      assertThat(r.details()).allMatch(x -> Double.isFinite(x.value()));
      assertThat(r.spots()).hasSizeLessThanOrEqualTo(20);
      for (Spot s : r.spots()) {
        assertThat(s.from()).isGreaterThanOrEqualTo(0).isLessThan(s.to());
        assertThat(s.to()).isLessThanOrEqualTo((double) NOISY.length / RATE);
        assertThat(s.low()).isLessThan(s.high());
      }
    }
  }

  @Test
  void withoutPausesTheReasonIsGiven() {
    Readings taken = take(RATE, NOISE, null, Audio.of(RATE, NOISE));
    assertThat(taken.readings())
        .extracting(Reading::measure)
        .containsExactly("clicks-left", "level-change");
    assertThat(taken.notMeasured())
        .anyMatch(n -> n.measure().equals("pause-noise") && n.reason().contains("pause"));
  }

  @Test
  void theSameAgainGivesTheSame() {
    Map<String, Reading> a = readings(CLEANED);
    Map<String, Reading> b = readings(CLEANED);
    a.forEach(
        (id, r) -> {
          assertThat(b.get(id).value()).isEqualTo(r.value());
          assertThat(b.get(id).estimate().draws()).isEqualTo(r.estimate().draws());
          assertThat(b.get(id).spots()).isEqualTo(r.spots());
        });
  }
}
