package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;

/**
 * How times are told in a comparison.
 *
 * @param as in what
 * @param rate frames of timecode; null where none are counted
 * @param start time of the source's first sample in seconds since midnight; null for what the file
 *     itself says, and 0 where it says nothing
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record TimeFormat(As as, FrameRate rate, Double start) {
  /** In what times are told. */
  public enum As {
    /**
     * Minutes and seconds with tenths, from the source's start: what is told if nothing is said.
     */
    @JsonProperty("minutes")
    MINUTES("Minutes and seconds", false),
    @JsonProperty("seconds")
    SECONDS("Seconds", false),
    /** Hours, minutes, seconds and thousandths, of the clock. */
    @JsonProperty("hours")
    HOURS("Hours, minutes, seconds", true),
    /** Samples of the source since its start, or since midnight where a start is known. */
    @JsonProperty("samples")
    SAMPLES("Samples", true),
    @JsonProperty("timecode")
    TIMECODE("Timecode", true);

    private final String title;
    private final boolean ofClock;

    As(String title, boolean ofClock) {
      this.title = title;
      this.ofClock = ofClock;
    }

    /** For people. */
    public String title() {
      return title;
    }

    /** Whether the source's own start counts in. */
    public boolean ofClock() {
      return ofClock;
    }
  }

  /** Minutes and seconds from the source's start. */
  public static final TimeFormat PLAIN = new TimeFormat(As.MINUTES, null, null);

  private static final double DAY = 24 * 3600;

  public TimeFormat {
    as = as == null ? As.MINUTES : as;
    rate = as != As.TIMECODE ? null : rate == null ? FrameRate.FPS_25 : rate;
    if (start != null && !(start >= 0 && start < DAY)) {
      throw new IllegalArgumentException("a start lies within a day");
    }
  }
}
