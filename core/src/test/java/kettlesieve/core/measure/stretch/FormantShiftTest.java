package kettlesieve.core.measure.stretch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Voices of known formants, at another pitch: with the formants where they were, and moved along.
 */
class FormantShiftTest {
  private static final int RATE = 16_000;

  /** Formants of vowels of men; Peterson and Barney, JASA 24, 1952, the upper two from memory. */
  private static final double[][] VOWELS = {
    {730, 1090, 2440, 3500, 4500}, {270, 2290, 3010, 3600, 4600},
    {530, 1840, 2480, 3500, 4500}, {300, 870, 2240, 3400, 4400}
  };

  /** Pulses through resonances in a row, as in Klatt's synthesiser (JASA 67, 1980). */
  private static Audio voice(double pitch, double formants) {
    float[] x = new float[6 * RATE];
    double phase = 0;
    for (int i = 0; i < x.length; i++) {
      double glide = 1 + 0.05 * Math.sin(2 * Math.PI * 0.4 * i / RATE);
      phase += pitch * glide / RATE;
      if (phase >= 1) {
        phase -= 1;
        x[i] = 0.05f;
      }
    }
    for (int f = 0; f < 5; f++) {
      double back = 0;
      double twoBack = 0;
      for (int i = 0; i < x.length; i++) {
        double hz = formants * VOWELS[i / (RATE / 2) % VOWELS.length][f];
        double radius = Math.exp(-Math.PI * (60 + 20 * f) / RATE);
        double a = 2 * radius * Math.cos(2 * Math.PI * hz / RATE);
        double y = (1 - a + radius * radius) * x[i] + a * back - radius * radius * twoBack;
        twoBack = back;
        back = y;
        x[i] = (float) y;
      }
    }
    return Audio.of(RATE, x);
  }

  private static double read(double pitch, double semitones, double formants) throws Exception {
    Audio source = voice(pitch, 1);
    Audio version = voice(pitch * Math.pow(2, semitones / 12), Math.pow(2, formants / 12));
    MatchSettings settings = new MatchSettings(Job.PITCH, LevelMode.WANTED, null, semitones);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(source, null, null, null, settings);
    return preparedExcerpt
        .measure(
            preparedExcerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER),
            Set.of("formant-shift"))
        .reading("formant-shift")
        .orElseThrow()
        .value();
  }

  @ParameterizedTest
  @CsvSource({"110, -5", "110, 3", "190, -3", "190, 5"})
  void whatIsReadIsWhatTheyMoved(double pitch, double semitones) throws Exception {
    assertThat(read(pitch, semitones, semitones)).isCloseTo(semitones, within(0.5));
    assertThat(read(pitch, semitones, 0)).isCloseTo(0, within(0.5));
  }

  /** The formants stay, and with them the shape of the whole spectrum: it would read too little. */
  @ParameterizedTest
  @CsvSource({"110, 40", "190, -60"})
  void aPitchThatDriftsUnderItsFormantsIsReadAsItIs(double pitch, double cents) throws Exception {
    Audio version = voice(pitch * Math.pow(2, cents / 1200), 1);
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.0, null);
    PreparedExcerpt excerpt = PreparedExcerpt.of(voice(pitch, 1), null, null, null, settings);
    double read =
        excerpt
            .measure(
                excerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER),
                Set.of("pitch-drift"))
            .reading("pitch-drift")
            .orElseThrow()
            .value();
    assertThat(read).isCloseTo(cents, within(2.0));
  }

  /**
   * An octave up, the partials lie on every other one of the source: it looks as if not shifted.
   */
  @ParameterizedTest
  @CsvSource({"110, 12", "220, -12"})
  void anOctaveWithTheSameFormantsIsAnOctave(double pitch, double semitones) throws Exception {
    Audio version = voice(pitch * Math.pow(2, semitones / 12), 1);
    MatchSettings settings = new MatchSettings(Job.PITCH, LevelMode.WANTED, null, semitones);
    PreparedExcerpt excerpt = PreparedExcerpt.of(voice(pitch, 1), null, null, null, settings);
    var taken =
        excerpt.measure(
            excerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER),
            Set.of("pitch-error", "formant-shift"));
    assertThat(taken.reading("pitch-error").orElseThrow().value()).isCloseTo(0, within(5.0));
    assertThat(taken.reading("formant-shift").orElseThrow().value()).isCloseTo(0, within(0.5));
  }
}
