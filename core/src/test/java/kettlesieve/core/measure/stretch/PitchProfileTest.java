package kettlesieve.core.measure.stretch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
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

  /** Four seconds, a block a second. */
  private static PitchProfile profile(Audio audio) {
    return new PitchProfile(audio, 4, seconds -> (int) Math.min(3, seconds));
  }

  @ParameterizedTest
  @ValueSource(ints = {3000, 8000, 44_100})
  void aShiftIsFoundAtAnyRate(int rate) {
    PitchProfile.Shift shift =
        profile(note(rate, 220))
            .likelier(profile(note(rate, 220 * Math.pow(2, 50 / 1200.0))), 0, 0);
    assertThat(shift.cents()).isCloseTo(50, within(5.0));
    assertThat(shift.likeness()).isGreaterThan(0.9);
  }

  @Test
  void theSecondGuessIsTakenOnlyWhereItIsClearlyMoreLike() {
    PitchProfile source = profile(note(16_000, 220));
    PitchProfile fifth = profile(note(16_000, 330));
    assertThat(source.likelier(fifth, 0, 700).guess()).isEqualTo(700);
    assertThat(source.likelier(fifth, 700, 0).guess()).isEqualTo(700);
    assertThat(source.likelier(source, 0, 700).guess()).isZero();
  }

  @Test
  void theIntervalHoldsTheShiftAndIsWiderWhereThePitchSlips() {
    PitchProfile source = profile(note(16_000, 220));
    double up = Math.pow(2, 30 / 1200.0);
    Audio even = note(16_000, 220 * up);
    float[] x = even.wholeChannel(0);
    // The last second lies 30 cents lower again.
    System.arraycopy(note(16_000, 220).wholeChannel(0), 48_000, x, 48_000, 16_000);
    double last = -1;
    for (PitchProfile other : List.of(profile(even), profile(Audio.of(16_000, x)))) {
      PitchProfile.Shift found = source.likelier(other, 0, 0);
      Estimate drawn = source.drawn(other, found, new Bootstrap(4));
      assertThat(drawn.value()).isCloseTo(found.cents(), within(1e-9));
      assertThat(drawn.low()).isLessThanOrEqualTo(found.cents());
      assertThat(drawn.high()).isGreaterThanOrEqualTo(found.cents());
      assertThat(drawn.high() - drawn.low()).isGreaterThan(last + 1);
      last = drawn.high() - drawn.low();
    }
    assertThat(last).isGreaterThan(8);
  }
}
