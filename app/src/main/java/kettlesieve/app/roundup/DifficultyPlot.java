package kettlesieve.app.roundup;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.VPos;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.ShortNames;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.report.RoundupWords;
import kettlesieve.core.roundup.Difficulties;

/**
 * What tools reach at each difficulty, the hardest on the right: a line a tool, named at its end.
 */
final class DifficultyPlot extends CanvasPane {
  private static final double LEFT = 34;
  private static final double NAMES = 150;
  private static final double TOP = 10;
  private static final double BELOW = 34;
  private static final double LINE = 15;

  /** Lines that cross are told apart by their dashes, not by colour. */
  private static final double[][] DASHES = {{}, {7, 3}, {2, 3}, {9, 3, 2, 3}};

  private final Difficulties all;
  private double low = Double.POSITIVE_INFINITY;
  private double high = Double.NEGATIVE_INFINITY;

  DifficultyPlot(Difficulties all) {
    this.all = all;
    for (List<Double> line : all.lines().values()) {
      for (double v : line) {
        low = Double.isFinite(v) ? Math.min(low, v) : low;
        high = Double.isFinite(v) ? Math.max(high, v) : high;
      }
    }
    double span = Math.max(1, high - low);
    low -= 0.05 * span;
    high += 0.05 * span;
    setId("roundup-difficulty");
    setMinHeight(190);
    setPrefHeight(210);
    setMinWidth(320);
    setAccessibleText(String.join(" ", RoundupWords.difficulties(all)));
  }

  private double x(int step, double width) {
    return LEFT + 6 + step * (width - LEFT - NAMES - 12) / Math.max(1, all.steps().size() - 1);
  }

  private double y(double value, double height) {
    return TOP + (high - value) / (high - low) * (height - TOP - BELOW);
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextBaseline(VPos.CENTER);
    g.setLineWidth(1);
    g.setTextAlign(TextAlignment.RIGHT);
    for (int i = 0; i <= 3; i++) {
      double value = low + i * (high - low) / 3;
      double y = Math.round(y(value, height)) + 0.5;
      g.setStroke(Ink.rule());
      g.strokeLine(LEFT, y, width - NAMES, y);
      g.setFill(Ink.quiet());
      g.fillText(Numbers.fixed(value, 0), LEFT - 5, y);
    }
    g.setTextAlign(TextAlignment.CENTER);
    int n = all.steps().size();
    int each = (int) Math.ceil(n * 34.0 / Math.max(1, width - LEFT - NAMES));
    for (int i = 0; i < n; i += each) {
      g.fillText(
          StretchTarget.figure(all.steps().get(i)).replace('-', '−'), x(i, width), height - 24);
    }
    g.fillText(
        all.title() + ", " + all.unit() + ", harder to the right",
        LEFT + (width - LEFT - NAMES) / 2,
        height - 8);
    lines(g, width, height);
  }

  private void lines(Pen g, double width, double height) {
    List<String> names = new ArrayList<>(all.lines().keySet());
    List<String> shown = ShortNames.of(names, NAMES - 14, "Source Sans 3", 12);
    List<double[]> ends = new ArrayList<>();
    for (int k = 0; k < names.size(); k++) {
      List<Double> line = all.lines().get(names.get(k));
      g.setStroke(Ink.ink());
      g.setLineWidth(k == 0 ? 2.2 : 1.2);
      g.setLineDashes(DASHES[k % DASHES.length]);
      double lastX = Double.NaN;
      double lastY = Double.NaN;
      for (int i = 0; i < line.size(); i++) {
        if (!Double.isFinite(line.get(i))) {
          continue;
        }
        double x = x(i, width);
        double y = y(line.get(i), height);
        if (Double.isFinite(lastX)) {
          g.strokeLine(lastX, lastY, x, y);
        }
        lastX = x;
        lastY = y;
      }
      ends.add(new double[] {lastY, k});
    }
    g.setLineDashes();
    // Names keep apart: from the top down, each at least a line under the one before.
    ends.removeIf(e -> !Double.isFinite(e[0]));
    ends.sort(java.util.Comparator.comparingDouble(e -> e[0]));
    double least = TOP + 4;
    double room = height - BELOW;
    g.setTextAlign(TextAlignment.LEFT);
    for (int i = 0; i < ends.size(); i++) {
      double latest = room - (ends.size() - 1 - i) * LINE;
      double y = Math.min(Math.max(ends.get(i)[0], least), Math.max(least, latest));
      least = y + LINE;
      int k = (int) ends.get(i)[1];
      g.setStroke(Ink.faint());
      g.setLineWidth(1);
      g.strokeLine(width - NAMES - 4, ends.get(i)[0], width - NAMES + 8, y);
      g.setFill(k == 0 ? Ink.ink() : Ink.quiet());
      g.fillText(shown.get(k), width - NAMES + 11, y);
    }
  }
}
