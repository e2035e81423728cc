package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Frame rates of timecode, and the arithmetic of it: SMPTE ST 12-1:2014. Where frames are dropped,
 * the first two numbers of each minute (at 59.94 the first four) are left out, except in every
 * tenth, so that ten minutes are 17,982 frames and timecode keeps up with the clock.
 */
public enum FrameRate {
  FPS_23_976("23.976", 24, true, 0),
  FPS_24("24", 24, false, 0),
  FPS_25("25", 25, false, 0),
  FPS_29_97_DROP("29.97 drop", 30, true, 2),
  FPS_29_97("29.97", 30, true, 0),
  FPS_30("30", 30, false, 0),
  FPS_50("50", 50, false, 0),
  FPS_59_94_DROP("59.94 drop", 60, true, 4),
  FPS_59_94("59.94", 60, true, 0);

  private static final Pattern CODE =
      Pattern.compile("(\\d{1,2})[:.](\\d{1,2})[:.](\\d{1,2})[:;.](\\d{1,2})");

  /** A time this close under a frame counts as on it: times are kept as binary fractions. */
  private static final double ON_FRAME = 1e-6;

  private final String title;
  private final int counted;
  private final boolean slow;
  private final int dropped;

  FrameRate(String title, int counted, boolean slow, int dropped) {
    this.title = title;
    this.counted = counted;
    this.slow = slow;
    this.dropped = dropped;
  }

  /** For people and in files, such as "29.97 drop". */
  @JsonValue
  public String title() {
    return title;
  }

  /**
   * @throws IllegalArgumentException if there is no such rate
   */
  @JsonCreator
  public static FrameRate of(String title) {
    for (FrameRate rate : values()) {
      if (rate.title.equals(title)) {
        return rate;
      }
    }
    throw new IllegalArgumentException("there is no frame rate " + title);
  }

  /** Frames in a second. */
  public double perSecond() {
    return slow ? counted * 1000.0 / 1001 : counted;
  }

  /** The frame in which a time lies, counted from 0. */
  public long frame(double seconds) {
    return (long) Math.floor(seconds * perSecond() + ON_FRAME);
  }

  /** Frames of a whole day of timecode, after which it begins again. */
  public long framesOfDay() {
    return 24 * 6 * framesOfTenMinutes();
  }

  private long framesOfTenMinutes() {
    return 600L * counted - 9L * dropped;
  }

  /** A frame's timecode; a semicolon before the last figures says that numbers are dropped. */
  public String code(long frame) {
    long number = Math.floorMod(frame, framesOfDay());
    if (dropped > 0) {
      long minute = 60L * counted - dropped;
      long tens = number / framesOfTenMinutes();
      long rest = number % framesOfTenMinutes();
      // The first minute of ten is whole.
      long minutes = rest < 60L * counted ? 0 : 1 + (rest - 60L * counted) / minute;
      number += 9L * dropped * tens + dropped * minutes;
    }
    long seconds = number / counted;
    return String.format(
        Locale.ROOT,
        "%02d:%02d:%02d%s%02d",
        seconds / 3600,
        seconds / 60 % 60,
        seconds % 60,
        dropped > 0 ? ";" : ":",
        number % counted);
  }

  /**
   * The frame of a timecode.
   *
   * @throws IllegalArgumentException if it is none at this rate, also if its number is dropped; the
   *     message says why
   */
  public long frame(String code) {
    Matcher parts = CODE.matcher(code.trim());
    if (!parts.matches()) {
      throw new IllegalArgumentException(
          "a timecode has hours, minutes, seconds and frames, such as 01:02:03:04");
    }
    long hours = Long.parseLong(parts.group(1));
    long minutes = Long.parseLong(parts.group(2));
    long seconds = Long.parseLong(parts.group(3));
    long frames = Long.parseLong(parts.group(4));
    if (hours > 23 || minutes > 59 || seconds > 59 || frames >= counted) {
      throw new IllegalArgumentException("there is no such timecode at " + title + " frames");
    }
    boolean leftOut = frames < dropped && seconds == 0 && minutes % 10 != 0;
    if (leftOut) {
      throw new IllegalArgumentException("this number is dropped at " + title + " frames");
    }
    long allMinutes = 60 * hours + minutes;
    return (60 * allMinutes + seconds) * counted
        + frames
        - dropped * (allMinutes - allMinutes / 10);
  }

  /** When a frame begins, in seconds. */
  public double seconds(long frame) {
    return frame / perSecond();
  }
}
