package kettlesieve.calibrate.corpus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A simulated room is what was asked for. */
class ShoeboxRoomTest {
  private static final int RATE = 16_000;

  private static double energy(double[] x, int from, int to) {
    double sum = 0;
    for (int i = from; i < Math.min(to, x.length); i++) {
      sum += x[i] * x[i];
    }
    return sum;
  }

  @ParameterizedTest
  @CsvSource({"0.3, -5", "0.6, 0", "1.0, 4"})
  void itDiesAwayInItsTimeAndTheDirectSoundStandsOut(double decay, double directDb) {
    ShoeboxRoom room = ShoeboxRoom.of(decay, directDb, RATE, 12);
    int length = room.direct().length;
    double direct = energy(room.direct(), 0, length);
    double reflected = energy(room.early(), 0, length) + energy(room.late(), 0, length);
    assertThat(10 * Math.log10(direct / reflected)).isCloseTo(directDb, within(0.2));
    // Late begins 50 ms after the direct sound; a filter's flank may reach a little before.
    assertThat(energy(room.late(), 0, (int) (0.045 * RATE)))
        .isLessThan(0.01 * energy(room.late(), 0, length));
    assertThat(energy(room.early(), (int) (0.057 * RATE), length))
        .isLessThan(0.01 * energy(room.early(), 0, length));
    // Backward integration (ISO 3382-1): from −5 to −25 dB, three times that is the decay time.
    // A box with uneven walls keeps sound longer between its parallel ones.
    double[] whole = new double[length];
    for (int i = 0; i < length; i++) {
      whole[i] = room.early()[i] + room.late()[i];
    }
    double all = energy(whole, 0, length);
    double rest = all;
    int at5 = 0;
    int at25 = 0;
    for (int i = 0; i < length && rest > all * Math.pow(10, -2.5); i++) {
      rest -= whole[i] * whole[i];
      at5 = rest > all * Math.pow(10, -0.5) ? i : at5;
      at25 = i;
    }
    assertThat(3.0 * (at25 - at5) / RATE).isBetween(0.7 * decay, 1.7 * decay);
  }
}
