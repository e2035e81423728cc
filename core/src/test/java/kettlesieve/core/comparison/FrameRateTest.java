package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * SMPTE ST 12-1:2014: at 29.97 the numbers 0 and 1 of each minute are dropped but for every tenth,
 * ten minutes are 17,982 frames.
 */
class FrameRateTest {
  @ParameterizedTest
  @CsvSource({
    "0,00:00:00;00",
    "1799,00:00:59;29",
    "1800,00:01:00;02",
    "3597,00:01:59;29",
    "3598,00:02:00;02",
    "17981,00:09:59;29",
    "17982,00:10:00;00",
    "107892,01:00:00;00",
    "2589407,23:59:59;29",
    "2589408,00:00:00;00"
  })
  void twoNumbersOfAMinuteAreDropped(long frame, String code) {
    assertThat(FrameRate.FPS_29_97_DROP.code(frame)).isEqualTo(code);
    if (frame < FrameRate.FPS_29_97_DROP.framesOfDay()) {
      assertThat(FrameRate.FPS_29_97_DROP.frame(code)).isEqualTo(frame);
    }
  }

  /** The formula that is published for it, on the whole day. */
  @Test
  void dropsAsThePublishedFormula() {
    SplittableRandom random = new SplittableRandom(12);
    for (int i = 0; i < 20_000; i++) {
      long n = random.nextLong(2_589_408);
      long tens = n / 17_982;
      long rest = n % 17_982;
      long counted = n + 18 * tens + (rest < 2 ? 0 : 2 * ((rest - 2) / 1798));
      String want =
          String.format(
              "%02d:%02d:%02d;%02d",
              counted / 108_000, counted / 1800 % 60, counted / 30 % 60, counted % 30);
      assertThat(FrameRate.FPS_29_97_DROP.code(n)).isEqualTo(want);
    }
  }

  /** Over ten minutes timecode with dropped numbers keeps the clock's time, to a frame. */
  @Test
  void droppedNumbersKeepTheTimeOfTheClock() {
    assertThat(FrameRate.FPS_29_97_DROP.code(FrameRate.FPS_29_97_DROP.frame(600.0)))
        .isEqualTo("00:10:00;00");
    assertThat(FrameRate.FPS_59_94_DROP.code(FrameRate.FPS_59_94_DROP.frame(600.0)))
        .isEqualTo("00:10:00;00");
    // Without it is 18 frames late by then.
    assertThat(FrameRate.FPS_29_97.code(FrameRate.FPS_29_97.frame(600.0))).isEqualTo("00:09:59:12");
  }

  @ParameterizedTest
  @CsvSource({
    "23.976,1001,00:16:40:00",
    "24,1.5,00:00:01:12",
    "25,3661.04,01:01:01:01",
    "30,59.999,00:00:59:29",
    "50,0.98,00:00:00:49",
    "59.94,1.001,00:00:01:00"
  })
  void otherRatesCountThrough(String rate, double seconds, String code) {
    FrameRate r = FrameRate.of(rate);
    assertThat(r.code(r.frame(seconds))).isEqualTo(code);
  }

  @ParameterizedTest
  @EnumSource(FrameRate.class)
  void everyCodeLeadsBackToItsFrame(FrameRate rate) {
    SplittableRandom random = new SplittableRandom(rate.ordinal());
    for (int i = 0; i < 3000; i++) {
      long frame = random.nextLong(rate.framesOfDay());
      assertThat(rate.frame(rate.code(frame))).isEqualTo(frame);
      assertThat(rate.frame(rate.seconds(frame))).isEqualTo(frame);
    }
    assertThat(rate.seconds(rate.framesOfDay())).isCloseTo(86_400, within(90.0));
  }

  @ParameterizedTest
  @CsvSource({
    "29.97 drop,00:01:00;00,dropped",
    "29.97 drop,00:12:00;01,dropped",
    "25,00:00:00:25,no such",
    "25,24:00:00:00,no such",
    "25,00:61:00:00,no such",
    "25,12:00,hours"
  })
  void whatIsNoTimecodeIsToldWhy(String rate, String code, String word) {
    assertThatThrownBy(() -> FrameRate.of(rate).frame(code))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(word);
  }

  @Test
  void theTenthMinuteKeepsItsNumbers() {
    assertThat(FrameRate.FPS_29_97_DROP.frame("00:10:00;00")).isEqualTo(17_982);
    assertThat(FrameRate.FPS_59_94_DROP.frame("00:10:00;03")).isEqualTo(35_967);
    assertThatThrownBy(() -> FrameRate.FPS_59_94_DROP.frame("00:11:00;03"))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
