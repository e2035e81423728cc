package kettlesieve.app.measure;

import java.util.List;
import javafx.geometry.VPos;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.report.SweepWords;
import kettlesieve.core.score.odds.SweepOdds;

/**
 * The amounts of one tool from the least to the most: the score of each with its interval, the
 * curve through all of them, below it how the lead would move with the passages of the recording,
 * and the plateau.
 */
final class SweepPlot extends CanvasPane {
  private static final double LEFT = 30;
  private static final double RIGHT = 12;
  private static final double TOP = 8;
  private static final double BELOW = 64;
  private static final double BARS = 30;

  private final SweepOdds odds;
  private final List<Estimate> scores;
  private final double low;
  private final double high;

  SweepPlot(SweepOdds odds, List<Estimate> scores) {
    this.odds = odds;
    this.scores = scores;
    double least = 100;
    double most = 0;
    for (int i = 0; i < scores.size(); i++) {
      least = Math.min(least, Math.min(scores.get(i).low(), odds.curve().get(i)));
      most = Math.max(most, Math.max(scores.get(i).high(), odds.curve().get(i)));
    }
    this.low = Math.max(0, 10 * Math.floor((least - 1) / 10));
    this.high = Math.min(100, 10 * Math.ceil((most + 1) / 10));
    setPrefHeight(190);
    setMinHeight(190);
    setMinWidth(200);
    setAccessibleText(SweepWords.plateau(odds));
  }

  private double x(double i, double width) {
    int last = odds.amounts().size() - 1;
    return LEFT + 8 + i / last * (width - LEFT - RIGHT - 16);
  }

  private double y(double score, double height) {
    return TOP + (high - score) / Math.max(1, high - low) * (height - TOP - BELOW);
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    int n = odds.amounts().size();
    double bottom = height - BELOW;
    double step = (width - LEFT - RIGHT - 16) / (n - 1);
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setFill(Ink.action().deriveColor(0, 1, 1, 0.10));
    double from = x(odds.from(), width) - Math.min(8, step / 2);
    g.fillRect(from, TOP, x(odds.to(), width) + Math.min(8, step / 2) - from, height - TOP - 16);
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextBaseline(VPos.CENTER);
    g.setTextAlign(TextAlignment.RIGHT);
    g.setLineWidth(1);
    double every = high - low > 40 ? 20 : 10;
    for (double score = low; score <= high; score += every) {
      double y = Math.round(y(score, height)) + 0.5;
      g.setStroke(Ink.rule());
      g.strokeLine(LEFT, y, width - RIGHT, y);
      g.setFill(Ink.quiet());
      g.fillText(Numbers.fixed(score, 0), LEFT - 5, y);
    }
    curve(g, width, height);
    for (int i = 0; i < n; i++) {
      double x = x(i, width);
      Estimate e = scores.get(i);
      g.setStroke(Ink.quiet());
      g.setLineWidth(1.2);
      g.strokeLine(x, y(e.low(), height), x, y(e.high(), height));
      g.setFill(Ink.ink());
      g.fillOval(x - 3, y(e.value(), height) - 3, 6, 6);
    }
    bars(g, width, bottom + 10, step);
    g.setFill(Ink.quiet());
    g.setTextAlign(TextAlignment.CENTER);
    int each = (int) Math.ceil(n * 34.0 / Math.max(1, width - LEFT - RIGHT));
    for (int i = 0; i < n; i += each) {
      g.fillText(SweepWords.amount(odds.amounts().get(i)), x(i, width), height - 9);
    }
  }

  private void curve(Pen g, double width, double height) {
    g.setStroke(Ink.faint());
    g.setLineWidth(1.4);
    for (int i = 0; i + 1 < odds.curve().size(); i++) {
      g.strokeLine(
          x(i, width),
          y(odds.curve().get(i), height),
          x(i + 1, width),
          y(odds.curve().get(i + 1), height));
    }
  }

  /** How often each amount leads over the draws. */
  private void bars(Pen g, double width, double top, double step) {
    double wide = Math.max(3, Math.min(14, 0.6 * step));
    double most = odds.chances().stream().mapToDouble(c -> c).max().orElse(1);
    for (int i = 0; i < odds.chances().size(); i++) {
      double tall = BARS * odds.chances().get(i) / Math.max(0.3, most);
      g.setFill(Ink.action());
      g.fillRect(x(i, width) - wide / 2, top + BARS - tall, wide, tall);
    }
    g.setStroke(Ink.rule());
    g.strokeLine(LEFT, top + BARS + 0.5, width - RIGHT, top + BARS + 0.5);
  }
}
