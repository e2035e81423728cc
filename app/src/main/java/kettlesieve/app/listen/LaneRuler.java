package kettlesieve.app.listen;

import javafx.scene.canvas.GraphicsContext;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.app.shared.TimeView;

/** Times below the lanes. */
final class LaneRuler extends CanvasPane {
  private final TimeView view;

  LaneRuler(TimeView view) {
    this.view = view;
    setPrefHeight(20);
    setMinHeight(20);
  }

  @Override
  protected void paint(GraphicsContext g, double width, double height) {
    double left = Lane.LABEL_WIDTH;
    g.save();
    g.translate(left, 0);
    TimeRuler.draw(g, view.from(), view.to(), width - left - Lane.GUTTER, 0, height);
    g.restore();
  }
}
