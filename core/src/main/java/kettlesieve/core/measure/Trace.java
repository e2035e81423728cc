package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.TimeSpan;

/**
 * A value over time: about ten points a second, or one per event.
 *
 * @param seconds times in the source's time, rising
 * @param values one a time; NaN where there is nothing to measure
 */
public record Trace(double[] seconds, double[] values) {
  private static final double LONGEST_GAP = 0.25;
  private static final double POINT = 0.1;

  /** No trace. */
  public static final Trace NONE = new Trace(new double[0], new double[0]);

  /**
   * Stretches in which the values stay under a limit; a gap of up to a quarter of a second within
   * one does not end it.
   *
   * @param limit in the unit of the values
   * @param shortest shorter ones are left out, seconds
   */
  public List<TimeSpan> below(double limit, double shortest) {
    List<TimeSpan> spans = new ArrayList<>();
    double from = Double.NaN;
    double last = Double.NaN;
    for (int i = 0; i < seconds.length; i++) {
      boolean under = values[i] < limit;
      boolean ends = Double.isFinite(values[i]) && !under || seconds[i] - last > LONGEST_GAP;
      if (!Double.isNaN(from) && ends) {
        add(spans, from, last, shortest);
        from = Double.NaN;
      }
      if (under) {
        from = Double.isNaN(from) ? seconds[i] : from;
        last = seconds[i];
      }
    }
    if (!Double.isNaN(from)) {
      add(spans, from, last, shortest);
    }
    return spans;
  }

  private static void add(List<TimeSpan> spans, double from, double last, double shortest) {
    // A value stands for about a tenth of a second round its time.
    if (last - from + POINT >= shortest) {
      spans.add(new TimeSpan(Math.max(0, from - POINT / 2), last + POINT / 2));
    }
  }
}
