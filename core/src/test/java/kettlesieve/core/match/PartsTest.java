package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.Activity;
import kettlesieve.core.ground.Attacks;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Spectrogram;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The parts that matching is made of. */
class PartsTest {

  @Test
  void aRobustLineIgnoresOutliers() {
    List<double[]> points = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      points.add(new double[] {i, 3 + 0.5 * i + (i % 7 == 3 ? 50 : 0)});
    }
    double[] line = RobustLine.through(points);
    assertThat(line[0]).isCloseTo(3, within(0.2));
    assertThat(line[1]).isCloseTo(0.5, within(0.02));
    assertThat(RobustLine.through(List.of(new double[] {1, 4}, new double[] {2, 6})))
        .containsExactly(5, 0);
    assertThat(RobustLine.through(List.of())).containsExactly(0, 0);
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.05, 0.31, -0.48, 0.9})
  void phaseSlopeFindsPartsOfASample(double delay) {
    float[] noise = Sounds.white(48_000, 3);
    Audio late = LinearTimeAudio.map(Audio.of(48_000, noise), 48_000, 48_000, -delay, 1);
    PhaseSlope slope = new PhaseSlope(48_000);
    for (int at = 0; at + 8192 <= 48_000; at += 8192) {
      slope.addBlock(
          at + 4096, java.util.Arrays.copyOfRange(noise, at, at + 8192), late.samples(0, at, 8192));
    }
    assertThat(slope.line().delay()).isCloseTo(delay, within(0.01));
    assertThat(slope.line().slope()).isCloseTo(0, within(1e-6));
  }

  @Test
  void silenceHasNoPhaseToSpeakOf() {
    PhaseSlope slope = new PhaseSlope(16_000);
    slope.addBlock(0, new float[4096], new float[4096]);
    assertThat(slope.line()).isEqualTo(new PhaseSlope.Line(0, 0, Double.NaN, 0));
  }

  @Test
  void theStrongestAttackIsWhereTheSoundSetsIn() {
    float[] x = Sounds.white(32_000, 9);
    for (int i = 0; i < x.length; i++) {
      x[i] *= i < 20_000 ? 0.001f : 0.3f;
    }
    assertThat(Attacks.strongest(Audio.of(16_000, x), 0, 2)).isCloseTo(1.25, within(0.005));
  }

  @Test
  void masksCountTheirCells() {
    CellMask mask = new CellMask(2, 200);
    mask.set(1, 0);
    mask.set(1, 63);
    mask.set(1, 64);
    mask.set(1, 199);
    assertThat(mask.has(1, 63)).isTrue();
    assertThat(mask.has(0, 63)).isFalse();
    assertThat(mask.count(1, 0, 199)).isEqualTo(4);
    assertThat(mask.count(1, 1, 64)).isEqualTo(2);
  }

  @Test
  void loudCellsAreWantedAndBareOnesAreNot() {
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 8);
    float[] source = Sounds.mix(speech, noise, Sounds.noiseFactor(speech, noise, 15));
    SourceMaterial material = SourceMaterial.of(Audio.of(16_000, source), null, null);
    PauseGround cells = material.pauses();
    Spectrogram clean = new Spectrogram(Audio.of(16_000, speech), 0);
    int wrong = 0;
    int wanted = 0;
    int strong = 0;
    for (int t = 0; t < material.framing().count(); t++) {
      for (int k = 5; k < 250; k++) {
        if (cells.strong(0).has(t, k)) {
          strong++;
          assertThat(cells.wanted(0).has(t, k)).isTrue();
        }
        if (cells.wanted(0).has(t, k)) {
          wanted++;
          assertThat(cells.unwanted(0).has(t, k)).isFalse();
          wrong += clean.powers(t)[k] < cells.noise(0, k) ? 1 : 0;
        }
      }
    }
    assertThat(strong).isGreaterThan(500);
    assertThat(wanted).isGreaterThan(strong);
    assertThat((double) wrong / wanted).isLessThan(0.03);
  }

  @Test
  void pausesKeepTheirDistanceFromActivityAndLastAWhile() {
    float[] x = Sounds.white(16_000 * 6, 2);
    for (int i = 0; i < x.length; i++) {
      double t = i / 16_000.0;
      boolean loud = t > 1 && t < 2 || t > 2.3 && t < 3 || t > 4.5 && t < 5;
      x[i] *= loud ? 0.3f : 0.003f;
    }
    Activity activity = Activity.find(SourceMaterial.spectra(Audio.of(16_000, x)));
    assertThat(activity.problem()).isEmpty();
    List<TimeSpan> pauses = activity.pauses();
    // The gap of 0.3 s between the first two is too short once the guard is taken off.
    assertThat(pauses).hasSize(3);
    assertThat(pauses.get(0).to()).isBetween(0.75, 0.95);
    assertThat(pauses.get(1).from()).isBetween(3.1, 3.3);
    assertThat(pauses.get(1).to()).isBetween(4.25, 4.45);
    assertThat(activity.unsteady()).isFalse();
  }

  @Test
  void changingNoiseIsSaid() {
    float[] x = Sounds.white(16_000 * 8, 2);
    for (int i = 0; i < x.length; i++) {
      double t = i / 16_000.0;
      double pause = 0.002 * Math.pow(10, 0.35 * Math.sin(2 * Math.PI * t / 1.6));
      x[i] *= (float) (t % 2 > 1 ? 0.3 : pause);
    }
    Activity activity = Activity.find(SourceMaterial.spectra(Audio.of(16_000, x)));
    assertThat(activity.problem()).isEmpty();
    assertThat(activity.unsteady()).isTrue();
  }

  /** Half a second of sound is enough, though fewer frames fit into it than hops do. */
  @Test
  void whatIsFoundOfPausesIsCountedAsSound() {
    Activity first = null;
    for (int gap = 4000; first == null; gap += 80) {
      float[] x = Sounds.white(16_000 * 4, 3);
      for (int i = 0; i < x.length; i++) {
        boolean silent = i >= 16_000 && i < 16_000 + gap || i >= 40_000 && i < 40_000 + gap;
        x[i] *= silent ? 0.001f : 0.1f;
      }
      Activity activity = Activity.find(SourceMaterial.spectra(Audio.of(16_000, x)));
      if (activity.problem().isEmpty()) {
        first = activity;
      } else {
        assertThat(activity.problem().orElseThrow()).doesNotContain("only 0.50 s");
      }
    }
    double seconds = first.pauses().stream().mapToDouble(p -> p.to() - p.from()).sum();
    assertThat(first.pauses()).hasSize(2);
    assertThat(seconds).isBetween(0.5, 0.54);
  }

  @Test
  void veryShortSoundAndShortMarksHaveAReason() {
    Activity none = Activity.find(SourceMaterial.spectra(Audio.of(16_000, new float[600])));
    assertThat(none.problem().orElseThrow()).contains("too short");
    Activity marked =
        Activity.marked(
            SourceMaterial.spectra(Audio.of(16_000, new float[16_000])),
            List.of(new TimeSpan(0.1, 0.13)));
    assertThat(marked.problem().orElseThrow()).contains("too short");
  }

  @Test
  void silenceEverywhereIsNoDisaster() {
    SourceMaterial material = SourceMaterial.of(Audio.of(16_000, new float[48_000]), null, null);
    assertThat(material.pauses().activity().problem()).isPresent();
    assertThat(material.pauses().signalToNoiseDb()).isNaN();
  }

  @Test
  void theDownmixKeepsThePausesOfTheStereoSource() {
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.white(speech.length, 5);
    float[] source = Sounds.mix(speech, noise, Sounds.noiseFactor(speech, noise, 20));
    SourceMaterial stereo = SourceMaterial.of(Audio.of(16_000, source, source.clone()), null, null);
    SourceMaterial mono = stereo.forChannels(1);
    assertThat(mono.channels()).isEqualTo(1);
    assertThat(mono.originalChannels()).isEqualTo(2);
    assertThat(mono.pauses().activity()).isSameAs(stereo.pauses().activity());
    assertThat(stereo.forChannels(2)).isSameAs(stereo);
    assertThat(stereo.forChannels(1)).isSameAs(mono);
  }
}
