package kettlesieve.app.shared;

import javafx.scene.paint.Color;

/** Slanted lines over a stretch: something is not there. */
public final class Hatching {
  private static final double APART = 7;

  private Hatching() {}

  /** Hatches a rectangle from the top of the drawing, lightly washed in the same colour. */
  public static void draw(Pen g, double x, double width, double height, Color color) {
    g.save();
    g.beginPath();
    g.rect(x, 0, width, height);
    g.clip();
    g.setFill(color.deriveColor(0, 1, 1, 0.10));
    g.fillRect(x, 0, width, height);
    g.setStroke(color.deriveColor(0, 1, 1, 0.75));
    g.setLineWidth(1);
    double first = Math.floor((x - height) / APART) * APART;
    for (double at = first; at < x + width; at += APART) {
      g.strokeLine(at, height, at + height, 0);
    }
    g.restore();
  }
}
