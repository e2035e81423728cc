package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ClockTest {
  private static Clock clock(TimeFormat.As as, FrameRate rate, Double start) {
    Comparison c = Comparison.empty("x", Job.DENOISE).withTimes(new TimeFormat(as, rate, start));
    return Clock.of(c, null, 48_000);
  }

  @ParameterizedTest
  @CsvSource({
    "MINUTES,0:14.3",
    "SECONDS,14.26 s",
    "HOURS,10:00:14.260",
    "SAMPLES,1 728 684 480",
    "TIMECODE,10:00:14:06"
  })
  void oneTimeIsToldInFiveWays(TimeFormat.As as, String words) {
    // Only what is told by the clock counts from the source's start at ten o'clock.
    assertThat(clock(as, FrameRate.FPS_25, 36_000.0).text(14.26).replace('\u202f', ' '))
        .isEqualTo(words);
  }

  @Test
  void whatTheFileSaysCountsUnlessAStartIsTyped() {
    Comparison c =
        Comparison.empty("x", Job.DENOISE)
            .withTimes(new TimeFormat(TimeFormat.As.TIMECODE, FrameRate.FPS_25, null));
    assertThat(Clock.of(c, 3600.0, 48_000).text(1)).isEqualTo("01:00:01:00");
    Comparison typed = c.withTimes(new TimeFormat(TimeFormat.As.TIMECODE, FrameRate.FPS_25, 60.0));
    assertThat(Clock.of(typed, 3600.0, 48_000).text(1)).isEqualTo("00:01:01:00");
    assertThat(Clock.of(Comparison.empty("x", Job.DENOISE), 3600.0, 48_000).text(61))
        .isEqualTo("1:01.0");
  }

  @ParameterizedTest
  @CsvSource({
    "TIMECODE,10:00:14:06,14.24",
    "TIMECODE,14.5,14.5",
    "TIMECODE,1:02.5,62.5",
    "HOURS,10:00:14.260,14.26",
    "HOURS,'10:01:00,5',60.5",
    "SAMPLES,1 728 048 000,1",
    "SAMPLES,1:00.0,60",
    "MINUTES,0:14.3,14.3",
    "SECONDS,14.26 s,14.26",
    "TIMECODE,09:00:00:00,0"
  })
  void whatIsToldCanBeTyped(TimeFormat.As as, String typed, double seconds) {
    assertThat(clock(as, FrameRate.FPS_25, 36_000.0).seconds(typed))
        .isCloseTo(seconds, within(1e-9));
  }

  @ParameterizedTest
  @CsvSource({"soon", "''", "-3", "1:2:3:4:5", "10:00:14:99"})
  void whatIsNoTimeIsRefused(String typed) {
    assertThatThrownBy(() -> clock(TimeFormat.As.TIMECODE, FrameRate.FPS_25, 0.0).seconds(typed))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void itIsKeptInTheFile() throws Exception {
    TimeFormat times = new TimeFormat(TimeFormat.As.TIMECODE, FrameRate.FPS_29_97_DROP, 3600.0);
    var folder = java.nio.file.Files.createTempDirectory("clock");
    var file = folder.resolve("a.sieve");
    ComparisonFile.save(Comparison.empty("x", Job.DENOISE).withTimes(times), file);
    assertThat(java.nio.file.Files.readString(file))
        .contains("\"as\" : \"timecode\"", "\"rate\" : \"29.97 drop\"", "\"start\" : 3600.0");
    assertThat(ComparisonFile.load(file).times()).isEqualTo(times);
    java.nio.file.Files.delete(file);
    java.nio.file.Files.delete(folder);
  }
}
