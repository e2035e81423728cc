package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Rectangle2D;

/**
 * Finds room for labels on a plot: none lies over a line, a sign or another label. A label that
 * finds none is left out; its sign says which version it is.
 */
final class LabelRoom {
  private static final double STEP = 6;
  private static final double[] DISTANCES = {2, 10, 20, 34, 50};

  private final Rectangle2D plot;
  private final List<Rectangle2D> taken = new ArrayList<>();

  /**
   * @param plot labels stay within
   */
  LabelRoom(Rectangle2D plot) {
    this.plot = plot;
  }

  /** Keeps a place around a point free. */
  void keepFree(double x, double y, double radius) {
    taken.add(new Rectangle2D(x - radius, y - radius, 2 * radius, 2 * radius));
  }

  /** Keeps a line free. */
  void keepFree(double x0, double y0, double x1, double y1) {
    int steps = (int) Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / STEP));
    for (int i = 0; i <= steps; i++) {
      keepFree(x0 + (x1 - x0) * i / steps, y0 + (y1 - y0) * i / steps, 1.5);
    }
  }

  /**
   * A place for a label beside a sign.
   *
   * @param radius of the sign
   * @return its rectangle, taken from now on; null if there is no room
   */
  Rectangle2D place(double x, double y, double radius, double width, double height) {
    for (double away : DISTANCES) {
      double d = radius + away;
      double[][] corners = {
        {x + d, y - height / 2},
        {x - d - width, y - height / 2},
        {x + 0.7 * d, y + 0.7 * d},
        {x - 0.7 * d - width, y + 0.7 * d},
        {x + 0.7 * d, y - 0.7 * d - height},
        {x - 0.7 * d - width, y - 0.7 * d - height},
        {x - width / 2, y + d},
        {x - width / 2, y - d - height}
      };
      for (double[] corner : corners) {
        Rectangle2D label = new Rectangle2D(corner[0], corner[1], width, height);
        if (plot.contains(label) && taken.stream().noneMatch(label::intersects)) {
          taken.add(label);
          return label;
        }
      }
    }
    return null;
  }
}
