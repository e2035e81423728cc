package kettlesieve.core.measure.cells;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import kettlesieve.core.signal.Audio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Where the partials of a recording lie against another's. */
class PitchProfileTest {
  /** Four partials of a note that glides a little, as played ones do. */
  private static Audio note(int rate, double hertz) {
    float[] x = new float[4 * rate];
    double phase = 0;
    for (int i = 0; i < x.length; i++) {
      phase += 2 * Math.PI * hertz * (1 + 0.01 * Math.sin(6.0 * i / rate)) / rate;
      for (int partial = 1; partial <= 4; partial++) {
        x[i] += (float) (0.2 / partial * Math.sin(partial * phase));
      }
    }
    return Audio.of(rate, x);
  }

  @ParameterizedTest
  @ValueSource(ints = {3000, 8000, 44_100})
  void aShiftIsFoundAtAnyRate(int rate) {
    PitchProfile.Shift shift =
        new PitchProfile(note(rate, 220))
            .likelier(new PitchProfile(note(rate, 220 * Math.pow(2, 50 / 1200.0))), 0, 0);
    assertThat(shift.cents()).isCloseTo(50, within(5.0));
    assertThat(shift.likeness()).isGreaterThan(0.9);
  }

  @Test
  void theSecondGuessIsTakenOnlyWhereItIsClearlyMoreLike() {
    PitchProfile source = new PitchProfile(note(16_000, 220));
    PitchProfile fifth = new PitchProfile(note(16_000, 330));
    assertThat(source.likelier(fifth, 0, 700).guess()).isEqualTo(700);
    assertThat(source.likelier(fifth, 700, 0).guess()).isEqualTo(700);
    assertThat(source.likelier(source, 0, 700).guess()).isZero();
  }
}
