package kettlesieve.core.measure.stretch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** Flaws by hand on what was played anew at another tempo, and on speech. */
class AddedByStretchTest {
  private static final int RATE = 22_050;
  private static final double RATIO = 1.25;
  private static final float[] SOURCE = chords(1);
  private static final float[] TRUE = chords(RATIO);

  /** Plucked chords, a new one every 0.6 s: they ring as long at any tempo. */
  private static float[] chords(double ratio) {
    double[][] notes = {{220, 277.2, 329.6}, {196, 246.9, 392}, {174.6, 261.6, 349.2}};
    float[] x = new float[(int) (9.6 * ratio * RATE)];
    for (int c = 0; c < 15; c++) {
      int at = (int) ((0.3 + 0.6 * c) * ratio * RATE);
      SplittableRandom random = new SplittableRandom(c);
      for (double hz : notes[c % notes.length]) {
        for (int h = 1; h <= 8; h++) {
          double phase = 2 * Math.PI * random.nextDouble();
          for (int i = 0; i < 1.2 * RATE && at + i < x.length; i++) {
            double loud = 0.06 / h * Math.exp(-3.0 * i / RATE) * Math.min(1, i / 60.0);
            x[at + i] += (float) (loud * Math.sin(phase + 2 * Math.PI * h * hz * i / RATE));
          }
        }
      }
      for (int i = 0; i < 200 && at + i < x.length; i++) {
        x[at + i] += (float) (0.05 * (2 * random.nextDouble() - 1) * Math.exp(-i / 40.0));
      }
    }
    return x;
  }

  private static Readings measured(
      float[] source, float[] version, int rate, Double ratio, Double semitones, String... ids)
      throws Exception {
    Job job = semitones == null ? Job.STRETCH : Job.PITCH;
    MatchSettings settings = new MatchSettings(job, LevelMode.WANTED, ratio, semitones);
    PreparedExcerpt excerpt =
        PreparedExcerpt.of(Audio.of(rate, source), null, null, null, settings);
    return excerpt.measure(
        excerpt.matchAny(Audio.of(rate, version), MatchOverride.NONE, null, Stop.NEVER),
        Set.of(ids));
  }

  private static double read(float[] version, String id) throws Exception {
    return measured(SOURCE, version, RATE, RATIO, null, id)
        .reading(id)
        .map(Reading::value)
        .orElse(Double.NaN);
  }

  private static float[] plus(float[] x, float[] more, double db) {
    return Sounds.mix(x, more, Math.pow(10, db / 20) * Sounds.rms(x) / Sounds.rms(more));
  }

  @Test
  void whatWasPlayedAtThatTempoHasNothingAdded() throws Exception {
    assertThat(read(TRUE, "noise-added")).isLessThan(-60);
    assertThat(read(TRUE, "join-clicks")).isLessThan(0.3);
    assertThat(read(TRUE, "roughness")).isLessThan(0.5);
    assertThat(read(TRUE, "doubled-hits")).isZero();
    assertThat(read(TRUE, "timing-drift")).isLessThan(5);
    assertThat(read(TRUE, "dropouts")).isLessThan(1);
  }

  /** A noise of known power. */
  @Test
  void hissReadsWhatItIsUnderTheSound() throws Exception {
    float[] white = Sounds.white(TRUE.length, 3);
    for (double db : new double[] {-45, -35, -25}) {
      assertThat(read(plus(TRUE, white, db), "noise-added")).isCloseTo(db, within(2.5));
    }
    assertThat(read(plus(TRUE, white, -35), "roughness")).isLessThan(0.5);
  }

  @Test
  void aClickASecondIsOneASecond() throws Exception {
    float[] x = TRUE.clone();
    for (int i = RATE / 2; i < x.length; i += RATE) {
      x[i] += 0.0316f;
    }
    assertThat(read(x, "join-clicks") - read(TRUE, "join-clicks")).isCloseTo(1, within(0.3));
    assertThat(read(x, "noise-added")).isLessThan(-55);
  }

  @Test
  void quickTremblingIsRoughAndSlowIsNot() throws Exception {
    float[] quick = TRUE.clone();
    float[] slow = TRUE.clone();
    for (int i = 0; i < quick.length; i++) {
      quick[i] *= (float) (1 + 0.3 * Math.sin(2 * Math.PI * 50 * i / RATE));
      slow[i] *= (float) (1 + 0.3 * Math.sin(2 * Math.PI * 4 * i / RATE));
    }
    assertThat(read(quick, "roughness")).isGreaterThan(5);
    assertThat(read(slow, "roughness")).isLessThan(1);
  }

  /** Six decibels softer, on notes that ring on: nothing rises by as much. */
  @Test
  void aStrokeThatComesAgainIsTheSameStroke() throws Exception {
    float[] x = TRUE.clone();
    int late = (int) (0.05 * RATE);
    for (int i = late; i < x.length; i++) {
      x[i] += 0.5f * TRUE[i - late];
    }
    assertThat(read(x, "doubled-hits")).isGreaterThan(40);
    float[] soft = TRUE.clone();
    for (int i = late; i < soft.length; i++) {
      soft[i] += 0.1f * TRUE[i - late];
    }
    assertThat(read(soft, "doubled-hits")).isZero();
  }

  @Test
  void whatEndsInTheMiddleHasLostTheRestAndNoLength() throws Exception {
    Readings taken =
        measured(
            SOURCE,
            Arrays.copyOf(TRUE, (int) (0.45 * TRUE.length)),
            RATE,
            RATIO,
            null,
            "length-error",
            "timing-drift",
            "dropouts",
            "lost-hits");
    assertThat(taken.reading("length-error")).isEmpty();
    assertThat(taken.reading("timing-drift")).isEmpty();
    assertThat(taken.notMeasured())
        .anyMatch(
            n -> n.measure().equals("length-error") && n.reason().contains("could be placed"));
    assertThat(taken.reading("dropouts").orElseThrow().value()).isCloseTo(55, within(12.0));
    // The stronger ones of the attacks are asked.
    assertThat(taken.reading("lost-hits").orElseThrow().value()).isCloseTo(50, within(15.0));
  }

  /** Notes of an instrument are no voice, however single they are. */
  @Test
  void anInstrumentHasNoFormants() throws Exception {
    Readings taken =
        measured(SOURCE, SOURCE, RATE, null, 3.0, "formant-shift", "pitch-slips", "phasiness");
    assertThat(taken.readings()).isEmpty();
    Optional<NotMeasured> why =
        taken.notMeasured().stream().filter(n -> n.measure().equals("formant-shift")).findFirst();
    assertThat(why.orElseThrow().reason()).contains("no single voice");
  }

  /** Speech read faster by a known ratio, stretched back by as much: its pitch is known. */
  @Test
  void theDriftOfASpokenPitchIsReadAsItIs() throws Exception {
    float[] speech = Sounds.speech16();
    for (double cents : new double[] {-40, 15, 60}) {
      double factor = Math.pow(2, cents / 1200);
      float[] moved = new float[(int) (speech.length / factor) - 2];
      for (int i = 0; i < moved.length; i++) {
        int k = (int) (i * factor);
        float f = (float) (i * factor - k);
        moved[i] = (1 - f) * speech[k] + f * speech[k + 1];
      }
      Readings taken = measured(speech, moved, 16_000, 1 / factor, null, "pitch-drift");
      assertThat(taken.reading("pitch-drift").orElseThrow().value())
          .isCloseTo(cents, within(Math.max(2, 0.1 * Math.abs(cents))));
    }
  }

  @Test
  void aSideThatIsGoneIsAChangeOfWidth() throws Exception {
    float[] other = plus(SOURCE, Sounds.lowPass(Sounds.pink(SOURCE.length, 4), RATE, 3000), -8);
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.0, null);
    PreparedExcerpt excerpt =
        PreparedExcerpt.of(Audio.of(RATE, SOURCE, other), null, null, null, settings);
    double[] read = new double[2];
    Audio[] versions = {
      Audio.of(RATE, SOURCE, other), Audio.of(RATE, SOURCE, new float[other.length])
    };
    for (int i = 0; i < 2; i++) {
      read[i] =
          excerpt
              .measure(
                  excerpt.matchAny(versions[i], MatchOverride.NONE, null, Stop.NEVER),
                  Set.of("width-change"))
              .reading("width-change")
              .orElseThrow()
              .value();
    }
    assertThat(read[0]).isCloseTo(0, within(0.01));
    assertThat(read[1]).isGreaterThan(6);
  }
}
