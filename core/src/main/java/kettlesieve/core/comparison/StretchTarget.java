package kettlesieve.core.comparison;

import java.math.BigDecimal;
import java.math.MathContext;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The length that a stretch is to give, in the words that people have at hand: a ratio, a
 * percentage, a new length, two tempos, or a change of speed in semitones.
 */
public final class StretchTarget {
  private static final Pattern TEMPOS =
      Pattern.compile("([\\d.]+)\\s*(?:→|->|>|to|auf|/)\\s*([\\d.]+)(?:\\s*bpm)?");
  private static final Pattern SEMITONES = Pattern.compile("([+-]?[\\d.]+)\\s*(?:st|semitones?)");
  private static final Pattern CLOCK = Pattern.compile("(\\d+):(\\d{1,2}(?:\\.\\d+)?)");
  private static final Pattern SECONDS = Pattern.compile("([\\d.]+)\\s*(?:s|sec|seconds?)");
  private static final Pattern PERCENT = Pattern.compile("([\\d.]+)\\s*%");

  private StretchTarget() {}

  /**
   * The new length over the old one.
   *
   * @param words {@code 0.8}; {@code 80 %}; a length, {@code 12.5 s} or {@code 1:02.5}; two tempos,
   *     {@code 100 → 120}; a speed change, {@code +3 st} (faster, so shorter)
   * @param sourceSeconds length of the source, for a new length; NaN if it is not known
   * @throws NumberFormatException if the words are none of these
   * @throws IllegalArgumentException if a length is given and that of the source is not known
   */
  public static double ratio(String words, double sourceSeconds) {
    String text = words.trim().toLowerCase(Locale.ROOT).replace(',', '.').replace('−', '-');
    Matcher m = TEMPOS.matcher(text);
    if (m.matches()) {
      // Faster by the ratio of the tempos is shorter by it.
      return number(m.group(1)) / number(m.group(2));
    }
    m = SEMITONES.matcher(text);
    if (m.matches()) {
      return Math.pow(2, -number(m.group(1)) / 12);
    }
    m = PERCENT.matcher(text);
    if (m.matches()) {
      return number(m.group(1)) / 100;
    }
    m = CLOCK.matcher(text);
    if (m.matches()) {
      return length(60 * number(m.group(1)) + number(m.group(2)), sourceSeconds);
    }
    m = SECONDS.matcher(text);
    if (m.matches()) {
      return length(number(m.group(1)), sourceSeconds);
    }
    return number(text.startsWith("×") ? text.substring(1).trim() : text);
  }

  private static double length(double seconds, double sourceSeconds) {
    if (!(sourceSeconds > 0)) {
      throw new IllegalArgumentException(
          "a new length needs the source's, and the source is not read yet");
    }
    return seconds / sourceSeconds;
  }

  private static double number(String text) {
    double value = Double.parseDouble(text);
    if (!Double.isFinite(value)) {
      throw new NumberFormatException(text);
    }
    return value;
  }

  /** A length, a shift or an amount with four figures at most. */
  public static String figure(double value) {
    return new BigDecimal(value).round(new MathContext(4)).stripTrailingZeros().toPlainString();
  }

  /** The same with its sign. */
  public static String signed(double value) {
    return (value > 0 ? "+" : "") + figure(value);
  }

  /**
   * A ratio in all the other words.
   *
   * @param sourceSeconds length of the source; NaN if it is not known
   */
  public static String words(double ratio, double sourceSeconds) {
    StringBuilder text = new StringBuilder();
    text.append(String.format(Locale.ROOT, "= %.1f %%", 100 * ratio));
    if (sourceSeconds > 0) {
      double now = ratio * sourceSeconds;
      text.append(
          String.format(
              Locale.ROOT, ", %d:%04.1f long", (int) (now / 60), now - 60 * (int) (now / 60)));
    }
    text.append(String.format(Locale.ROOT, ", tempo 100 → %.1f", 100 / ratio));
    double semitones = -12 * Math.log(ratio) / Math.log(2);
    text.append(String.format(Locale.ROOT, ", as a speed change %+.2f st", semitones + 0.0));
    return text.toString().replace('-', '−');
  }
}
