package kettlesieve.app.model;

import java.util.Locale;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;

/** Numbers for people: a true minus sign, fixed decimals. */
public final class Numbers {
  private Numbers() {}

  /** A number with so many decimals. */
  public static String fixed(double value, int decimals) {
    String text = String.format(Locale.ROOT, "%." + decimals + "f", value);
    boolean zero = text.matches("-0\\.?0*");
    return (zero ? text.substring(1) : text).replace('-', '−');
  }

  /** A number with the decimals it has. */
  public static String plain(double value) {
    return java.math.BigDecimal.valueOf(value).toPlainString().replace('-', '−');
  }

  /** A number with its sign, even if it is positive. */
  public static String signed(double value, int decimals) {
    String text = fixed(value, decimals);
    return text.startsWith("−") || text.matches("0\\.?0*") ? text : "+" + text;
  }

  /** A reading in its unit, with the decimals that make sense there. */
  public static String reading(double value, String unit) {
    return switch (unit) {
      case "Hz" -> fixed(value, 0);
      case "ln ratio" -> fixed(value, 2);
      default -> fixed(value, 1);
    };
  }

  /** A reading as it is shown everywhere: with its sign where it is only a bound. */
  public static String reading(Reading r) {
    return r.limit().sign() + reading(r.value(), Measures.declaration(r.measure()).unit());
  }

  /** Minutes and seconds with tenths. */
  public static String clock(double seconds) {
    long tenths = Math.round(Math.max(0, seconds) * 10);
    return String.format(Locale.ROOT, "%d:%02d.%d", tenths / 600, tenths / 10 % 60, tenths % 10);
  }

  /** A frequency, short. */
  public static String hz(double hz) {
    return hz >= 1000 ? fixed(hz / 1000, hz >= 10000 ? 0 : 1) + " kHz" : fixed(hz, 0) + " Hz";
  }
}
