package kettlesieve.app.measure;

import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.Ticks;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.score.Entry;

/** A reading over the source's time, this version strong and the others faint. */
final class TracePlot extends ReadingPlot {
  private static final double RULER = 18;
  private static final double FIGURE_WIDTH = 70;

  private final Workspace workspace;

  TracePlot(Workspace workspace) {
    this.workspace = workspace;
    setAccessibleText("The reading over time");
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    var source = workspace.sourceProperty().get();
    if (entry() == null || source == null) {
      return;
    }
    double total = source.audio().seconds();
    Trace main = trace(entry());
    double[] range = range(main);
    double bottom = height - RULER;
    if (Double.isNaN(range[0])) {
      g.setFill(Ink.quiet());
      g.setFont(Font.font("Source Sans 3", 13));
      g.setTextAlign(TextAlignment.LEFT);
      g.fillText("This reading has no course over time.", 14, bottom / 2 + 4);
    } else {
      levels(g, range, width, bottom, Double.NaN);
      for (Entry other : others()) {
        draw(g, trace(other), range, total, width, bottom, color(other), 1);
      }
      draw(g, main, range, total, width, bottom, color(entry()), 2);
      levels(g, range, width, bottom, freeX(main, total, width));
    }
    TimeRuler.draw(g, workspace.clock(), 0, total, width, bottom, RULER);
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
  }

  private Trace trace(Entry e) {
    return e.reading(declaration().id()).map(Reading::trace).orElse(Trace.NONE);
  }

  private double[] range(Trace main) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (Entry e : entries()) {
      for (double v : trace(e).values()) {
        if (Double.isFinite(v)) {
          low = Math.min(low, v);
          high = Math.max(high, v);
        }
      }
    }
    if (low > high || main.values().length == 0) {
      return new double[] {Double.NaN, Double.NaN};
    }
    double margin = Math.max(0.05 * (high - low), 0.5);
    return new double[] {low - margin, high + margin};
  }

  /** Where the figures of the axis hide nothing of the trace: the first gap wide enough. */
  private static double freeX(Trace main, double total, double width) {
    double last = 0;
    for (int i = 0; i < main.values().length; i++) {
      if (Double.isFinite(main.values()[i])) {
        double x = main.seconds()[i] / total * width;
        if (x - last > FIGURE_WIDTH + 16) {
          return last + 8;
        }
        last = x;
      }
    }
    return 4;
  }

  /**
   * The levels of the axis.
   *
   * @param figuresX where their figures stand; NaN for the lines alone
   */
  private void levels(Pen g, double[] range, double width, double bottom, double figuresX) {
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(javafx.geometry.VPos.BASELINE);
    for (double value : Ticks.between(range[0], range[1], 3)) {
      double y = Math.round(bottom - (value - range[0]) / (range[1] - range[0]) * bottom) + 0.5;
      if (Double.isNaN(figuresX)) {
        g.setStroke(Ink.grid());
        g.strokeLine(0, y, width, y);
      } else if (y > 14) {
        g.setFill(Ink.quiet());
        g.fillText(Ticks.text(value, range) + " " + declaration().unit(), figuresX, y - 2);
      }
    }
  }

  private static void draw(
      Pen g,
      Trace trace,
      double[] range,
      double total,
      double width,
      double bottom,
      Color color,
      double thickness) {
    g.setStroke(color);
    g.setFill(color);
    g.setLineWidth(thickness);
    double lastX = Double.NaN;
    double lastY = 0;
    double lastTime = 0;
    for (int i = 0; i < trace.values().length; i++) {
      double value = trace.values()[i];
      if (!Double.isFinite(value)) {
        lastX = Double.NaN;
        continue;
      }
      double time = trace.seconds()[i];
      double x = time / total * width;
      double y = bottom - (value - range[0]) / (range[1] - range[0]) * bottom;
      if (!Double.isNaN(lastX) && time - lastTime < 0.5) {
        g.strokeLine(lastX, lastY, x, y);
      } else {
        g.fillOval(x - thickness / 2, y - thickness / 2, thickness, thickness);
      }
      lastX = x;
      lastY = y;
      lastTime = time;
    }
  }
}
