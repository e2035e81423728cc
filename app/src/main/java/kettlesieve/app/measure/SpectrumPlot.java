package kettlesieve.app.measure;

import java.util.List;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.Ticks;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Entry;

/** A reading per third-octave band: source in ink, this version strong, the others faint. */
final class SpectrumPlot extends ReadingPlot {
  private static final double UNIT_BOTTOM = 24;
  private static final double LEFT = 46;

  /** Room for a frequency under the axis. */
  private static final double LABEL = 46;

  private static final double BOTTOM = 20;

  SpectrumPlot() {
    setAccessibleText("The reading by frequency band");
  }

  private BandSpectrum spectrum(Entry e) {
    return e.reading(declaration().id()).map(Reading::spectrum).orElse(BandSpectrum.NONE);
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
    if (entry() == null) {
      return;
    }
    BandSpectrum main = spectrum(entry());
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(javafx.geometry.VPos.BASELINE);
    if (main.hz().length == 0) {
      g.setFill(Ink.quiet());
      g.fillText("This reading is not split into bands.", 14, height / 2);
      return;
    }
    double[] range = range();
    axes(g, main, range, width, height);
    for (Entry other : others()) {
      draw(g, main.hz(), spectrum(other).version(), range, width, height, color(other), 1);
    }
    draw(g, main.hz(), main.source(), range, width, height, Ink.ink(), 1.2);
    draw(g, main.hz(), main.version(), range, width, height, color(entry()), 2.2);
    g.setFill(Ink.quiet());
    g.setTextAlign(TextAlignment.RIGHT);
    g.fillText(
        main.source().length > 0 ? "source in ink, this version in its colour" : "this version",
        width - 8,
        14);
  }

  private double[] range() {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (Entry e : entries()) {
      for (double[] values : List.of(spectrum(e).version(), spectrum(e).source())) {
        for (double v : values) {
          if (Double.isFinite(v)) {
            low = Math.min(low, v);
            high = Math.max(high, v);
          }
        }
      }
    }
    double margin = Math.max(0.5, 0.08 * (high - low));
    // Room at the top for the words.
    return new double[] {low - margin, high + 2.5 * margin};
  }

  private static double x(double hz, double[] all, double width) {
    double first = Math.log(all[0]);
    double last = Math.log(all[all.length - 1]);
    return LEFT + (Math.log(hz) - first) / (last - first) * (width - LEFT - 14);
  }

  private static double y(double value, double[] range, double height) {
    return (height - BOTTOM) * (1 - (value - range[0]) / (range[1] - range[0]));
  }

  private void axes(Pen g, BandSpectrum main, double[] range, double width, double height) {
    g.setFill(Ink.quiet());
    double taken = LEFT - LABEL / 2;
    for (double hz : new double[] {100, 300, 1000, 3000, 10000}) {
      if (hz >= main.hz()[0] && hz <= main.hz()[main.hz().length - 1]) {
        double x = Math.round(x(hz, main.hz(), width)) + 0.5;
        g.setStroke(Ink.grid());
        g.strokeLine(x, 1, x, height - BOTTOM);
        g.setTextAlign(TextAlignment.CENTER);
        if (x - LABEL / 2 >= taken) {
          g.fillText(Numbers.hz(hz), x, height - 6);
          taken = x + LABEL / 2;
        }
      }
    }
    for (double value : Ticks.between(range[0], range[1], 4)) {
      double y = Math.round(y(value, range, height)) + 0.5;
      g.setStroke(Ink.grid());
      g.strokeLine(LEFT, y, width - 1, y);
      // The unit stands at the top, above the figures.
      if (y > UNIT_BOTTOM) {
        g.setTextAlign(TextAlignment.RIGHT);
        g.fillText(Ticks.text(value, range), LEFT - 5, y + 4);
      }
    }
    g.setTextAlign(TextAlignment.LEFT);
    g.fillText(declaration().unit().equals("Hz") ? "dB" : declaration().unit(), 6, 14);
  }

  private static void draw(
      Pen g,
      double[] hz,
      double[] values,
      double[] range,
      double width,
      double height,
      Color color,
      double thickness) {
    g.setStroke(color);
    g.setLineWidth(thickness);
    double lastX = Double.NaN;
    double lastY = 0;
    for (int i = 0; i < values.length; i++) {
      if (!Double.isFinite(values[i])) {
        lastX = Double.NaN;
        continue;
      }
      double x = x(hz[i], hz, width);
      double y = y(values[i], range, height);
      if (!Double.isNaN(lastX)) {
        g.strokeLine(lastX, lastY, x, y);
      }
      lastX = x;
      lastY = y;
    }
  }
}
