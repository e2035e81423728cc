package kettlesieve.core.comparison;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Tells times of a source as its comparison wants them, and reads what is typed.
 *
 * @param format how they are told
 * @param start time of the first sample in seconds, where the format counts it in
 * @param sampleRate of the source, Hz
 */
public record Clock(TimeFormat format, double start, int sampleRate) {
  /** Minutes and seconds, of no source in particular. */
  public static final Clock PLAIN = new Clock(TimeFormat.PLAIN, 0, 48_000);

  private static final Pattern PARTS =
      Pattern.compile("(?:(?:(\\d+):)?(\\d+):)?(\\d+(?:[.,]\\d+)?) ?s?");

  /**
   * The clock of a comparison.
   *
   * @param ownStart what the source's file says of its first sample, seconds; null for nothing
   * @param sampleRate of the source; 0 if it is not known yet
   */
  public static Clock of(Comparison comparison, Double ownStart, int sampleRate) {
    TimeFormat format = comparison.times() == null ? TimeFormat.PLAIN : comparison.times();
    double start = format.start() != null ? format.start() : ownStart == null ? 0 : ownStart;
    return new Clock(
        format, format.as().ofClock() ? start : 0, sampleRate > 0 ? sampleRate : 48_000);
  }

  /** A time of the source, as it is told. */
  public String text(double seconds) {
    double at = Math.max(0, seconds) + start;
    return switch (format.as()) {
      case MINUTES -> {
        long tenths = Math.round(at * 10);
        yield text("%d:%02d.%d", tenths / 600, tenths / 10 % 60, tenths % 10);
      }
      case SECONDS -> text("%.2f s", at);
      case HOURS -> {
        long thousandths = Math.round(at * 1000);
        yield text(
            "%d:%02d:%02d.%03d",
            thousandths / 3_600_000,
            thousandths / 60_000 % 60,
            thousandths / 1000 % 60,
            thousandths % 1000);
      }
      case SAMPLES -> text("%,d", Math.round(at * sampleRate)).replace(',', '\u202f');
      case TIMECODE -> format.rate().code(format.rate().frame(at));
    };
  }

  private static String text(String pattern, Object... values) {
    return String.format(Locale.ROOT, pattern, values);
  }

  /**
   * The time of the source that is meant: told as times are told here, or as seconds, minutes and
   * seconds or hours, minutes and seconds.
   *
   * @return seconds from the source's start; what lies before it is 0
   * @throws IllegalArgumentException if it cannot be understood; the message says what can
   */
  public double seconds(String typed) {
    String text = typed.trim();
    if (format.as() == TimeFormat.As.TIMECODE && text.matches("\\d+[:.]\\d+[:.]\\d+[:;.]\\d+")) {
      return back(format.rate().seconds(format.rate().frame(text)));
    }
    if (format.as() == TimeFormat.As.SAMPLES && text.matches("\\d[\\d\\s\u202f]*")) {
      return back(Double.parseDouble(text.replaceAll("[\\s\u202f]", "")) / sampleRate);
    }
    Matcher parts = PARTS.matcher(text);
    if (!parts.matches()) {
      throw new IllegalArgumentException("a time here is told like " + text(62.5) + " or 1:02.5");
    }
    double hours = parts.group(1) == null ? 0 : Double.parseDouble(parts.group(1));
    double minutes = parts.group(2) == null ? 0 : Double.parseDouble(parts.group(2));
    double at = 3600 * hours + 60 * minutes + Double.parseDouble(parts.group(3).replace(',', '.'));
    // With hours it is the clock's time; without, it is counted from the start.
    return parts.group(1) == null ? at : back(at);
  }

  private double back(double at) {
    return Math.max(0, at - start);
  }
}
