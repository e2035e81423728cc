package kettlesieve.app.shared;

import java.util.Arrays;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.beans.WeakInvalidationListener;
import javafx.scene.Node;
import javafx.scene.canvas.Canvas;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * The colour and shape of a version, so that colour is never the only sign. Colours that
 * colour-blind people can tell apart: Okabe &amp; Ito, "Color Universal Design", 2008.
 */
public final class VersionSign {
  private static final Color[] DAY =
      colors("#0072B2 #D55E00 #009E73 #CC79A7 #E69F00 #56B4E9 #8C8200 #4A4A4A");

  /** The same hues where the ground is dark; the last is light in place of dark. */
  private static final Color[] NIGHT =
      colors("#3C9BD6 #F07A2A #1FBE92 #E39AC4 #F2B233 #86CCF5 #C9BF3A #CFC8BA");

  private VersionSign() {}

  /** The colour of the version at a place in the list. */
  public static Color color(int index) {
    Color[] colors = Ink.look() == Ink.Look.NIGHT ? NIGHT : DAY;
    return colors[Math.floorMod(index, colors.length)];
  }

  /** The sign of a version: its shape in its colour, with its key's digit if there is one. */
  public static Node of(int index, double size) {
    return new Sign(size, g -> draw(g, index, size / 2, size / 2, size - 1));
  }

  /** The source's sign: an open circle with its key. */
  public static Node ofSource(double size) {
    return new Sign(
        size,
        g -> {
          g.setStroke(Ink.ink());
          g.setLineWidth(1.6);
          g.strokeOval(1.5, 1.5, size - 3, size - 3);
          digit(g, "0", size / 2, size / 2, size, Ink.ink());
        });
  }

  /** A small drawing that follows the look. */
  private static final class Sign extends Canvas {
    private final InvalidationListener worn;

    Sign(double size, Consumer<Pen> painter) {
      super(size, size);
      worn =
          o -> {
            getGraphicsContext2D().clearRect(0, 0, size, size);
            painter.accept(new CanvasPen(getGraphicsContext2D()));
          };
      Ink.lookProperty().addListener(new WeakInvalidationListener(worn));
      worn.invalidated(Ink.lookProperty());
    }
  }

  private static Color[] colors(String list) {
    return Arrays.stream(list.split(" ")).map(Color::web).toArray(Color[]::new);
  }

  /** Draws a version's sign around a point. */
  public static void draw(Pen g, int index, double x, double y, double size) {
    double r = size / 2;
    g.setFill(color(index));
    switch (Math.floorMod(index, 8)) {
      case 0 -> g.fillOval(x - r, y - r, size, size);
      case 1 -> g.fillRect(x - r * 0.9, y - r * 0.9, size * 0.9, size * 0.9);
      case 2 -> polygon(g, x, y + r * 0.12, r * 1.12, 3, -90);
      case 3 -> polygon(g, x, y, r * 1.08, 4, -90);
      case 4 -> polygon(g, x, y, r * 1.05, 5, -90);
      case 5 -> polygon(g, x, y, r * 1.05, 6, 0);
      case 6 -> polygon(g, x, y - r * 0.12, r * 1.12, 3, 90);
      default -> polygon(g, x, y, r * 1.05, 8, 22.5);
    }
    if (size >= 14 && index >= 0) {
      Color figure = Ink.look() == Ink.Look.NIGHT ? Color.BLACK : Color.WHITE;
      digit(g, Integer.toString(index + 1), x, y + (index % 8 == 2 ? 1.5 : 0), size, figure);
    }
  }

  private static void digit(Pen g, String text, double x, double y, double size, Color color) {
    g.setFill(color);
    g.setFont(Font.font("Source Sans 3 SemiBold", size * (text.length() > 1 ? 0.54 : 0.66)));
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(javafx.geometry.VPos.CENTER);
    g.fillText(text, x, y);
  }

  private static void polygon(
      Pen g, double x, double y, double r, int corners, double firstDegrees) {
    double[] xs = new double[corners];
    double[] ys = new double[corners];
    for (int i = 0; i < corners; i++) {
      double angle = Math.toRadians(firstDegrees + 360.0 * i / corners);
      xs[i] = x + r * Math.cos(angle);
      ys[i] = y + r * Math.sin(angle);
    }
    g.fillPolygon(xs, ys, corners);
  }
}
