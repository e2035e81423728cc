package kettlesieve.calibrate.tables;

import java.io.PrintWriter;
import java.util.List;
import java.util.Locale;
import java.util.function.BiPredicate;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import kettlesieve.calibrate.corpus.Half;

/**
 * Tables in Markdown with a column for each half.
 *
 * @param <T> a trial
 */
final class Tables<T> {
  private final PrintWriter out;
  private final List<T> setting;
  private final List<T> reporting;

  /**
   * @param half which half a trial belongs to
   */
  Tables(PrintWriter out, List<T> trials, Function<T, Half> half) {
    this.out = out;
    this.setting = trials.stream().filter(t -> half.apply(t) == Half.SETTING).toList();
    this.reporting = trials.stream().filter(t -> half.apply(t) == Half.REPORTING).toList();
  }

  List<T> setting() {
    return setting;
  }

  List<T> reporting() {
    return reporting;
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

  /**
   * How many pairs of versions of the same source are said to be in the right order. Equal figures
   * count half, and a version without a figure cannot be right.
   *
   * @param sources the versions of each source
   * @param said what the program says, more is better
   * @param truth the same in truth
   * @param apart pairs that are no further apart in truth do not count
   * @param counted which pairs count
   */
  static <V> String right(
      List<List<V>> sources,
      ToDoubleFunction<V> said,
      ToDoubleFunction<V> truth,
      double apart,
      BiPredicate<V, V> counted) {
    double right = 0;
    int clear = 0;
    for (List<V> versions : sources) {
      for (V a : versions) {
        for (V b : versions) {
          if (truth.applyAsDouble(a) - truth.applyAsDouble(b) <= apart || !counted.test(a, b)) {
            continue;
          }
          double difference = said.applyAsDouble(a) - said.applyAsDouble(b);
          clear++;
          right += difference > 0 ? 1 : difference == 0 ? 0.5 : 0;
        }
      }
    }
    return percent(right, clear);
  }

  /** How many trials pass a test. */
  static <T> String share(List<T> trials, Predicate<T> test) {
    return trials.stream().filter(test).count() + " of " + trials.size();
  }

  static String percent(double part, double of) {
    return of == 0 ? "–" : String.format(Locale.ROOT, "%.1f %% of %.0f", 100 * part / of, of);
  }

  static String two(double value) {
    return Double.isNaN(value) ? "–" : String.format(Locale.ROOT, "%.2f", value);
  }
}
