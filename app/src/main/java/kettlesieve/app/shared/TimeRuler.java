package kettlesieve.app.shared;

import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.TimeFormat;

/** Draws times along the bottom of a picture. */
public final class TimeRuler {
  private static final double[] STEPS = {
    0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 120, 300, 600, 1800
  };

  private TimeRuler() {}

  /** Marks round times between two ends, with their figures in seconds. */
  public static void draw(Pen g, double from, double to, double width, double y, double height) {
    draw(g, Clock.PLAIN, from, to, width, y, height);
  }

  /** The same with figures as a comparison tells its times, and marks where those are round. */
  public static void draw(
      Pen g, Clock clock, double from, double to, double width, double y, double height) {
    boolean plain = clock.format().as() == TimeFormat.As.MINUTES;
    double step = STEPS[STEPS.length - 1];
    for (double candidate : STEPS) {
      if (candidate / (to - from) * width >= (plain ? 70 : 100)) {
        step = candidate;
        break;
      }
    }
    g.setStroke(Ink.rule());
    g.setFill(Ink.quiet());
    g.setLineWidth(1);
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(javafx.geometry.VPos.BASELINE);
    double start = clock.start();
    for (long n = (long) Math.ceil((from + start) / step); n * step - start <= to; n++) {
      double at = n * step - start;
      double x = Math.floor((at - from) / (to - from) * width) + 0.5;
      g.strokeLine(x, y, x, y + height);
      g.fillText(plain ? text(at, step) : clock.text(at), x + 3, y + height - 3);
    }
  }

  private static String text(double seconds, double step) {
    int decimals = step < 0.01 ? 3 : step < 0.1 ? 2 : step < 1 ? 1 : 0;
    if (seconds >= 60) {
      long minutes = (long) (seconds / 60);
      double rest = seconds - 60 * minutes;
      return minutes + ":" + (rest < 10 ? "0" : "") + Numbers.fixed(rest, decimals);
    }
    return Numbers.fixed(seconds, decimals) + " s";
  }
}
