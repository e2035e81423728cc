package kettlesieve.app.listen;

import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeView;

/** Draws pieces of lanes. */
final class LanePainter {
  private LanePainter() {}

  /** Draws one piece where it belongs, or the part of a coarser one that stands in for it. */
  static void tile(
      Pen g,
      TimeView view,
      LaneTile.Key key,
      LaneTile.Key drawn,
      LaneTile tile,
      double width,
      double height,
      double fullHeight) {
    double seconds = key.columnSeconds() * LaneTile.COLUMNS;
    double x0 = view.x(key.from(), width);
    double x1 = view.x(key.from() + seconds, width);
    double share = (key.from() - drawn.from()) / (drawn.columnSeconds() * LaneTile.COLUMNS);
    double part = seconds / (drawn.columnSeconds() * LaneTile.COLUMNS);
    if (tile.image() != null) {
      double sx = share * LaneTile.COLUMNS;
      double sw = part * LaneTile.COLUMNS;
      // Whole pixels, or the paper would show between two pieces.
      double left = Math.round(x0);
      double wide = Math.round(x1) - left;
      g.drawImage(tile.image(), sx, 0, sw, tile.image().getHeight(), left, 0, wide, height);
      return;
    }
    double middle = height / 2;
    double scale = height / 2 * 0.95 / fullHeight;
    g.setStroke(Ink.ink());
    g.setFill(Ink.ink());
    g.setLineWidth(1);
    int firstPixel = (int) Math.max(0, Math.round(x0));
    int lastPixel = (int) Math.min(Math.round(width), Math.round(x1));
    double perPixel = part * LaneTile.COLUMNS / (x1 - x0);
    double previousY = Double.NaN;
    for (int x = firstPixel; x < lastPixel; x++) {
      // All columns under a pixel together: lines between pixels would make a comb of it.
      double at = share * LaneTile.COLUMNS + (x - x0) * perPixel;
      int from = (int) Math.max(0, Math.min(LaneTile.COLUMNS - 1, Math.floor(at)));
      int to = (int) Math.max(from + 1, Math.min(LaneTile.COLUMNS, Math.ceil(at + perPixel)));
      float low = tile.low()[from];
      float high = tile.high()[from];
      for (int c = from + 1; c < to; c++) {
        low = Math.min(low, tile.low()[c]);
        high = Math.max(high, tile.high()[c]);
      }
      double top = middle - high * scale;
      double bottom = middle - low * scale;
      g.fillRect(x, top, 1, Math.max(bottom - top, 0.8));
      double centre = (top + bottom) / 2;
      if (!Double.isNaN(previousY) && bottom - top < 1.5) {
        g.strokeLine(x - 0.5, previousY, x + 0.5, centre);
      }
      previousY = centre;
    }
  }
}
