package kettlesieve.app.listen;

import java.util.List;
import java.util.function.DoubleBinaryOperator;
import javafx.scene.paint.Color;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeView;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.listen.Band;
import kettlesieve.core.measure.Axis;

/** Draws excerpts, the band that is heard, and marks over a lane. */
final class PlacesPainter {
  private final Workspace workspace;
  private final TimeView view;
  private final LaneStyle style;
  private final String versionId;
  private DoubleBinaryOperator levels;

  PlacesPainter(Workspace workspace, TimeView view, LaneStyle style, String versionId) {
    this.workspace = workspace;
    this.view = view;
    this.style = style;
    this.versionId = versionId;
  }

  /**
   * Draws them over a picture.
   *
   * @param levels height of a frequency in a picture of the height
   */
  void paint(Pen g, double width, double height, DoubleBinaryOperator levels) {
    this.levels = levels;
    if (workspace.comparison().together()) {
      for (Excerpt excerpt : workspace.comparison().excerpts()) {
        span(g, excerpt.span(), width, height);
      }
    } else {
      span(g, workspace.comparison().excerpt(), width, height);
    }
    Band band = workspace.listening().bandProperty().get();
    if (band != null && style.picture() != LaneStyle.Picture.WAVEFORM) {
      g.setFill(Ink.veil(Ink.paper(), 0.6));
      g.fillRect(0, 0, width, levels.applyAsDouble(band.high(), height));
      double low = levels.applyAsDouble(band.low(), height);
      g.fillRect(0, low, width, height - low);
    }
    for (Mark mark : workspace.comparison().marks()) {
      if (mark.version() == null || mark.version().equals(versionId)) {
        paintMark(g, mark, width, height);
      }
    }
  }

  private void paintMark(Pen g, Mark mark, double width, double height) {
    Color color = mark.axis() == null ? Ink.warning() : Ink.of(axis(mark.axis()));
    double x0 = view.x(mark.from(), width);
    double x1 = view.x(mark.to(), width);
    if (x1 < 0 || x0 > width) {
      return;
    }
    boolean framed = style.picture() != LaneStyle.Picture.WAVEFORM && mark.high() != null;
    double top = framed ? levels.applyAsDouble(mark.high(), height) : 0;
    double bottom =
        framed ? levels.applyAsDouble(mark.low() == null ? 0 : mark.low(), height) : height;
    g.setStroke(color);
    g.setLineWidth(1.6);
    if (x1 - x0 < 3) {
      g.strokeLine(x0, top, x0, bottom);
    } else {
      g.strokeRect(x0, top + 1, x1 - x0, Math.max(4, bottom - top - 2));
    }
    g.setFill(color);
    g.fillPolygon(new double[] {x0 - 5, x0 + 5, x0}, new double[] {0, 0, 8}, 3);
  }

  private static Axis axis(String id) {
    for (Axis axis : Axis.values()) {
      if (axis.id().equals(id)) {
        return axis;
      }
    }
    return Axis.INFO;
  }

  private void span(Pen g, TimeSpan span, double width, double height) {
    if (span != null) {
      g.setStroke(Ink.action());
      g.setLineWidth(1.5);
      for (double seconds : List.of(span.from(), span.to())) {
        double x = view.x(seconds, width);
        g.strokeLine(x, 0, x, height);
      }
    }
  }
}
