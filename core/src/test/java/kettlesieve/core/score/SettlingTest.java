package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.OptionalDouble;
import kettlesieve.core.score.odds.Validity;
import org.junit.jupiter.api.Test;

/** How much more would have to be measured. */
class SettlingTest {
  private static final Validity VALIDITY = new Validity(6, 9, 0.02, 1, 100, "");

  private static OptionalDouble more(double points, double deviation) {
    return Settling.more(points, deviation, 30, VALIDITY, false);
  }

  @Test
  void soMuchMoreBringsTheOddsToSure() {
    double more = more(14, 10).orElseThrow();
    assertThat(more).isBetween(20.0, 200.0);
    // The scatter falls with the root of the length.
    double then = 10 * Math.sqrt(30 / (30 + more));
    assertThat(VALIDITY.better(14, then, false)).isCloseTo(Validity.SURE, within(1e-6));
    assertThat(VALIDITY.better(14, 10, false)).isLessThan(Validity.SURE);
  }

  @Test
  void whatFiguresMissNoLengthMendsAndWhatIsSureNeedsNone() {
    assertThat(more(8, 3)).isEmpty();
    assertThat(more(14, 1)).hasValue(0);
    assertThat(Settling.more(14, 1, 30, VALIDITY, true)).isEmpty();
  }
}
