package kettlesieve.app.decide;

import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.measure.Estimate;

/** A score from 0 to 100 as a bar, with its 95 % interval. */
final class IntervalBar extends CanvasPane {
  private final Estimate score;
  private final int index;

  IntervalBar(Estimate score, int index) {
    this.score = score;
    this.index = index;
    setPrefSize(300, 34);
    setMinSize(110, 34);
    setMaxSize(360, 34);
    setAccessibleText(
        score == null ? "no score" : "overall score " + Numbers.fixed(score.value(), 0));
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    double room = width - 46;
    double middle = height / 2;
    g.setFill(Ink.rule());
    g.fillRect(0, middle - 4, room, 8);
    if (score == null) {
      return;
    }
    g.setFill(VersionSign.color(index));
    g.fillRect(0, middle - 4, room * score.value() / 100, 8);
    g.setStroke(Ink.ink());
    g.setLineWidth(1.5);
    double low = room * score.low() / 100;
    double high = room * score.high() / 100;
    g.strokeLine(low, middle, high, middle);
    g.strokeLine(low, middle - 7, low, middle + 7);
    g.strokeLine(high, middle - 7, high, middle + 7);
    g.setFill(Ink.ink());
    g.setFont(Font.font("Source Sans 3 SemiBold", 17));
    g.setTextAlign(TextAlignment.RIGHT);
    g.setTextBaseline(javafx.geometry.VPos.CENTER);
    g.fillText(Numbers.fixed(score.value(), 0), width - 6, middle);
  }
}
