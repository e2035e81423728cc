package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;

/**
 * Tables in Markdown with a column for each half.
 *
 * @param <T> a trial
 */
final class Tables<T> {
  private final PrintWriter out;
  private final List<T> setting;
  private final List<T> reporting;

  Tables(PrintWriter out, List<T> setting, List<T> reporting) {
    this.out = out;
    this.setting = setting;
    this.reporting = reporting;
  }

  void head(String title, String first) {
    out.println();
    out.println("### " + title);
    out.println();
    out.println("| " + first + " | setting half | reporting half |");
    out.println("|---|---|---|");
  }

  void row(String what, Function<List<T>, String> of) {
    out.println("| " + what + " | " + of.apply(setting) + " | " + of.apply(reporting) + " |");
  }

  static String percent(double part, double of) {
    return of == 0 ? "–" : String.format(Locale.ROOT, "%.1f %% of %.0f", 100 * part / of, of);
  }

  static String two(double value) {
    return Double.isNaN(value) ? "–" : String.format(Locale.ROOT, "%.2f", value);
  }
}
