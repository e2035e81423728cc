package kettlesieve.app.decide;

import java.util.List;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.score.Passages;

/** Which version leads in each passage, along the source; a click hears it there. */
final class PassageLane extends CanvasPane {
  private static final double BAR = 26;
  private static final double SIGN = 16;

  private final Workspace workspace;
  private final List<Passages.Passage> stretches;
  private final double seconds;

  PassageLane(Workspace workspace, Passages passages, double seconds) {
    this.workspace = workspace;
    this.stretches = passages.stretches();
    this.seconds = seconds;
    setId("passage-lane");
    setMinSize(200, BAR + 18);
    setPrefHeight(BAR + 18);
    setMaxHeight(BAR + 18);
    setAccessibleText(stretches.size() + " stretches, each with its leader");
    Hint.set(this, "Who leads where. Click to hear the leader there.");
    setOnMouseClicked(
        e -> {
          double at = e.getX() / Math.max(1, getWidth()) * seconds;
          for (Passages.Passage p : stretches) {
            if (at >= p.from() && at < p.to() && !p.leader().isEmpty()) {
              workspace.listening().choose(p.leader());
              workspace.listening().seek(at);
              workspace.listening().play();
            }
          }
        });
  }

  private int index(String id) {
    return workspace.comparison().versions().stream().map(Version::id).toList().indexOf(id);
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    double lastLabel = -100;
    for (Passages.Passage p : stretches) {
      double from = p.from() / seconds * width;
      double to = Math.min(width, p.to() / seconds * width);
      int index = index(p.leader());
      Color color = index < 0 ? Ink.rule() : VersionSign.color(index);
      // What is not sure is paler: the lead may be another's.
      g.setFill(index < 0 ? color : color.deriveColor(0, 1, 1, p.sure() ? 0.45 : 0.18));
      g.fillRect(from, 0, Math.max(1, to - from - 1), BAR);
      if (!p.mastered()) {
        hatch(g, from, to);
      }
      if (index >= 0 && to - from > SIGN + 6) {
        VersionSign.draw(g, index, (from + to) / 2, BAR / 2, SIGN);
      }
      if (from - lastLabel > 44) {
        g.setFill(Ink.quiet());
        g.setTextBaseline(javafx.geometry.VPos.TOP);
        g.setTextAlign(TextAlignment.LEFT);
        g.setFont(Font.font("Source Sans 3", 11));
        g.fillText(workspace.clock().text(p.from()), from, BAR + 3);
        lastLabel = from;
      }
    }
  }

  private static void hatch(Pen g, double from, double to) {
    g.setStroke(Ink.ink());
    g.setLineWidth(0.7);
    for (double x = from; x < to; x += 6) {
      g.strokeLine(x, BAR, Math.min(to, x + 8), 0);
    }
  }
}
