package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class VoiceGainsTest {
  /** Abramowitz &amp; Stegun 1964, table 5.1 ; values of SciPy 1.17, exp1. */
  @ParameterizedTest
  @CsvSource({
    "0.01, 4.037929576538113",
    "0.5, 0.5597735947761607",
    "1, 0.21938393439552029",
    "2, 0.04890051070806112",
    "10, 4.156968929685324e-6"
  })
  void theExponentialIntegralIsThatOfTheTables(double x, double expected) {
    assertThat(VoiceGains.exponentialIntegral(x))
        .isCloseTo(expected, within(1e-9 + 1e-7 * expected));
  }
}
