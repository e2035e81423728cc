package kettlesieve.app.listen;

import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.app.shared.TimeView;
import kettlesieve.core.comparison.Clock;

/** Times below the lanes. */
final class LaneRuler extends CanvasPane {
  private final Workspace workspace;
  private final TimeView view;
  private final LaneStyle style;

  LaneRuler(Workspace workspace, TimeView view, LaneStyle style) {
    this.workspace = workspace;
    this.view = view;
    this.style = style;
    setPrefHeight(20);
    setMinHeight(20);
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    double left = Lane.LABEL_WIDTH;
    g.save();
    g.translate(left, 0);
    // A version's own time is told plainly: the source's clock does not go there.
    Clock clock = style.ownTime() ? Clock.PLAIN : workspace.clock();
    TimeRuler.draw(g, clock, view.from(), view.to(), width - left - Lane.GUTTER, 0, height);
    g.restore();
  }
}
