package kettlesieve.app.decide;

import javafx.geometry.VPos;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.Odds;
import kettlesieve.core.score.odds.OddsWords;

/** The chance to be the best: ten strokes, as many of them full as times in ten. */
final class ChanceBar extends CanvasPane {
  private static final int STROKES = 10;
  private static final double WIDE = 104;
  private static final double APART = 4.5;

  private final double chance;

  ChanceBar(Odds odds, SheetOdds all) {
    this.chance = odds.best();
    setPrefSize(WIDE, 34);
    setMinSize(WIDE, 34);
    setMaxSize(WIDE, 34);
    String words = OddsWords.tenths(chance);
    setAccessibleText("truly the best in " + words);
    Hint.set(this, hint(odds, all));
  }

  private static String hint(Odds odds, SheetOdds all) {
    return "Truly the best of these in "
        + OddsWords.tenths(odds.best())
        + "; within "
        + (int) Odds.NEAR
        + " points of the best in "
        + OddsWords.tenths(odds.near())
        + ".\nIn trials with known truth scores of this kind missed it by "
        + Math.round(all.validity().spread(all.doubt()))
        + " points or so"
        + (all.doubt() ? " where the source is warned of, as here" : "")
        + ";\nwhat this recording leaves open comes on top. See “How far to trust a score”."
        + (all.validity().caution().isEmpty() ? "" : "\n" + all.validity().caution());
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    double middle = height / 2;
    long full = Math.round(STROKES * chance);
    for (int i = 0; i < STROKES; i++) {
      g.setFill(i < full ? Ink.ink() : Ink.rule());
      g.fillRect(i * APART, middle - 6, 2.5, 12);
    }
    g.setFill(Ink.ink());
    g.setFont(Font.font("Source Sans 3", 13));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(VPos.CENTER);
    g.fillText(OddsWords.ofTen(chance), STROKES * APART + 6, middle);
  }
}
