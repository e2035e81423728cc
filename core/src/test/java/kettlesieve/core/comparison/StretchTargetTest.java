package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StretchTargetTest {
  @ParameterizedTest
  @CsvSource({
    "0.8,0.8",
    "80 %,0.8",
    "80%,0.8",
    "'100 → 120',0.833333",
    "100->120,0.833333",
    "120 to 90,1.333333",
    "24 s,0.8",
    "0:24,0.8",
    "0:24.0,0.8",
    "'0,8',0.8",
    "× 1.25,1.25",
    "+12 st,0.5",
    "-12 semitones,2",
    "2 st,0.890899"
  })
  void takesTheWordsThatPeopleHave(String words, double ratio) {
    // Tempo 100 → 120: 0.8333 (arithmetic); two semitones: a ratio of 1.12246 (equal temperament).
    assertThat(StretchTarget.ratio(words, 30)).isCloseTo(ratio, within(1e-6));
  }

  @Test
  void refusesWhatItCannotRead() {
    assertThatThrownBy(() -> StretchTarget.ratio("a fifth", 30))
        .isInstanceOf(NumberFormatException.class);
    assertThatThrownBy(() -> StretchTarget.ratio("12 s", Double.NaN))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("not read yet");
  }

  @Test
  void saysItInAllTheOtherWords() {
    assertThat(StretchTarget.words(0.8, 75))
        .isEqualTo("= 80.0 %, 1:00.0 long, tempo 100 → 125.0, as a speed change +3.86 st");
    assertThat(StretchTarget.words(2, Double.NaN)).contains("−12.00 st").doesNotContain("long");
  }

  @Test
  void figuresHaveNoMoreDigitsThanTheyNeed() {
    assertThat(StretchTarget.figure(1.25)).isEqualTo("1.25");
    assertThat(StretchTarget.figure(2)).isEqualTo("2");
    assertThat(StretchTarget.figure(40)).isEqualTo("40");
    assertThat(StretchTarget.figure(2.0 / 3)).isEqualTo("0.6667");
    assertThat(StretchTarget.signed(3)).isEqualTo("+3");
    assertThat(StretchTarget.signed(-2.5)).isEqualTo("-2.5");
  }
}
