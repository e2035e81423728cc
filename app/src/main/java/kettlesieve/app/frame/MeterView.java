package kettlesieve.app.frame;

import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.core.listen.LevelMeter;

/** True peak and short-term loudness of what is heard. */
final class MeterView extends CanvasPane {
  static final double WIDTH = 196;

  private static final double LOWEST = -48;
  private static final double HIGHEST = 3;

  /** EBU R 128: what is delivered stays below. */
  private static final double ALLOWED = -1;

  private LevelMeter.Levels shown = LevelMeter.SILENT;

  MeterView() {
    setId("meter");
    setMinSize(WIDTH, 36);
    setPrefSize(WIDTH, 36);
    setMaxSize(WIDTH, 36);
    Hint.set(
        this,
        "What is heard: true peak of the last 400 ms and the highest since the start; loudness of"
            + " the last 3 s (BS.1770, EBU Tech 3341)");
    setAccessibleText("Levels: nothing is heard");
  }

  void follow(LevelMeter.Levels now) {
    if (!now.equals(shown)) {
      shown = now;
      setAccessibleText(
          "True peak " + db(now.peakDb()) + " dBTP, loudness " + db(now.loudness()) + " LUFS");
      repaint();
    }
  }

  private static String db(double value) {
    return Double.isFinite(value) && value > -99 ? Numbers.fixed(value, 1) : "–";
  }

  private static double x(double db, double width) {
    double share = (db - LOWEST) / (HIGHEST - LOWEST);
    return Math.max(0, Math.min(1, share)) * width;
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextBaseline(javafx.geometry.VPos.BASELINE);
    g.setTextAlign(TextAlignment.LEFT);
    boolean over = shown.highestDb() > ALLOWED;
    g.setFill(over ? Ink.warning() : Ink.quiet());
    g.fillText(
        "peak " + db(shown.peakDb()) + ", highest " + db(shown.highestDb()) + " dBTP", 0, 12);
    g.setFill(Ink.rule());
    g.fillRect(0, 17, width, 5);
    g.setFill(shown.peakDb() > ALLOWED ? Ink.warning() : Ink.action());
    g.fillRect(0, 17, x(shown.peakDb(), width), 5);
    g.setFill(Ink.ink());
    double loud = x(shown.loudness(), width);
    if (loud > 0) {
      g.fillRect(loud - 1, 15, 2, 9);
    }
    g.setFill(Ink.quiet());
    g.fillText("loudness " + db(shown.loudness()) + " LUFS", 0, 35);
  }
}
