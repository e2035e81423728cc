package kettlesieve.app.listen;

import javafx.scene.paint.Color;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeView;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.stretch.StretchedHits;
import kettlesieve.core.measure.stretch.StretchedTraces;

/**
 * Ties the attacks of a source to where they went in a version: a thin line from the source's
 * moment at the lane's upper edge to the version's below it. Upright is on time; a cross marks what
 * is lost.
 */
final class TiePainter {
  private static final double DEPTH = 0.42;
  private static final double DOT = 3;

  /** Closer than this on average nothing could be told apart. */
  private static final double APART = 4;

  private TiePainter() {}

  /**
   * @param traces of the version
   * @param ownTime whether the axis is the version's own time
   * @param map turns the version's time into the axis otherwise
   */
  static void paint(
      Pen g,
      TimeView view,
      StretchedTraces traces,
      boolean ownTime,
      java.util.function.DoubleUnaryOperator map,
      double width,
      double height) {
    long inView =
        traces.hits().stream()
            .filter(h -> h.source() >= view.from() && h.source() <= view.to())
            .count();
    if (inView * APART > width) {
      return;
    }
    double bottom = Math.max(14, height * DEPTH);
    g.setLineWidth(1);
    for (StretchedHits.Hit hit : traces.hits()) {
      double x0 = view.x(hit.source(), width);
      double x1 = view.x(ownTime ? hit.version() : map.applyAsDouble(hit.version()), width);
      if (Math.max(x0, x1) < 0 || Math.min(x0, x1) > width) {
        continue;
      }
      Color color = hit.lost() ? Ink.of(Axis.LOST) : Ink.action();
      g.setStroke(color);
      g.setFill(color);
      g.strokeLine(x0, 0, x1, bottom);
      if (hit.lost()) {
        g.strokeLine(x1 - DOT, bottom - DOT, x1 + DOT, bottom + DOT);
        g.strokeLine(x1 - DOT, bottom + DOT, x1 + DOT, bottom - DOT);
      } else {
        g.fillOval(x1 - DOT / 2, bottom - DOT / 2, DOT, DOT);
      }
    }
  }
}
