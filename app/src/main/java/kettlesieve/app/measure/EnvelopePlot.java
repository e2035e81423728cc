package kettlesieve.app.measure;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.Ticks;
import kettlesieve.core.measure.stretch.Envelope;

/** Envelopes of a voice at one moment: source in ink, versions in colour, formants as triangles. */
final class EnvelopePlot extends CanvasPane {
  private static final double BOTTOM = 20;
  private static final double LEFT = 44;

  private double[] source = new double[0];
  private Map<Color, double[]> versions = Map.of();
  private Color strong;

  EnvelopePlot() {
    setId("envelopes");
    setMinHeight(120);
    setPrefHeight(210);
    setMinWidth(260);
    setAccessibleText("Spectral envelopes of the voice, with its formants");
  }

  /**
   * @param strong colour of the version whose formants are marked
   */
  void show(double[] ofSource, Map<Color, double[]> ofVersions, Color strong) {
    source = ofSource;
    versions = new LinkedHashMap<>(ofVersions);
    this.strong = strong;
    repaint();
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    if (source.length == 0) {
      g.setFill(Ink.quiet());
      g.fillText("Click the trace where the voice sounds.", 14, height / 2);
      return;
    }
    double[] range = {-6, 6};
    range(source, range);
    versions.values().forEach(v -> range(v, range));
    axes(g, range, width, height);
    versions.forEach(
        (color, values) -> {
          boolean now = color.equals(strong);
          line(
              g,
              values,
              range,
              color.deriveColor(0, 1, 1, now ? 1 : 0.45),
              now ? 2.2 : 1.1,
              width,
              height);
        });
    line(g, source, range, Ink.ink(), 1.4, width, height);
    formants(g, source, range, Ink.ink(), width, height);
    if (versions.containsKey(strong)) {
      formants(g, versions.get(strong), range, strong, width, height);
    }
  }

  private static void range(double[] values, double[] range) {
    for (double v : values) {
      range[0] = Math.min(range[0], v - 2);
      range[1] = Math.max(range[1], v + 5);
    }
  }

  private void axes(Pen g, double[] range, double width, double height) {
    for (double value : Ticks.between(range[0], range[1], 4)) {
      double y = y(value, range, height);
      g.setStroke(Ink.grid());
      g.strokeLine(LEFT, y, width - 1, y);
      g.setFill(Ink.quiet());
      g.setTextAlign(TextAlignment.RIGHT);
      g.fillText(Ticks.text(value, range) + " dB", LEFT - 4, y + 4);
    }
    g.setTextAlign(TextAlignment.CENTER);
    for (double hz : new double[] {500, 1000, 2000, 3000}) {
      double point = 1200 * Math.log(hz / Envelope.LOW_HZ) / Math.log(2) / Envelope.GRID_CENTS;
      double x = x(point, width);
      g.setStroke(Ink.grid());
      g.strokeLine(x, 1, x, height - BOTTOM);
      g.setFill(Ink.quiet());
      g.fillText(Numbers.hz(hz), x, height - 6);
    }
  }

  private double x(double point, double width) {
    return LEFT + point / Math.max(1, source.length - 1) * (width - LEFT - 8);
  }

  private static double y(double value, double[] range, double height) {
    return (height - BOTTOM) * (1 - (value - range[0]) / (range[1] - range[0]));
  }

  private void line(
      Pen g,
      double[] values,
      double[] range,
      Color color,
      double thickness,
      double width,
      double height) {
    g.setStroke(color);
    g.setLineWidth(thickness);
    g.beginPath();
    for (int i = 0; i < values.length; i++) {
      double y = y(values[i], range, height);
      if (i == 0) {
        g.moveTo(x(i, width), y);
      } else {
        g.lineTo(x(i, width), y);
      }
    }
    g.stroke();
  }

  private void formants(
      Pen g, double[] values, double[] range, Color color, double width, double height) {
    g.setFill(color);
    for (double hz : Envelope.formants(values)) {
      double point = 1200 * Math.log(hz / Envelope.LOW_HZ) / Math.log(2) / Envelope.GRID_CENTS;
      int at = (int) Math.round(Math.max(0, Math.min(values.length - 1, point)));
      double x = x(point, width);
      double y = y(values[at], range, height) - 4;
      g.fillPolygon(new double[] {x - 4, x + 4, x}, new double[] {y - 7, y - 7, y}, 3);
    }
  }

  /** Formants of an envelope in words. */
  static String words(List<Double> hz) {
    return String.join(", ", hz.stream().map(Numbers::hz).toList());
  }
}
