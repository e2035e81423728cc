package kettlesieve.app.shared;

import javafx.geometry.VPos;
import javafx.scene.image.Image;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * What drawings are made with, on the screen or as a vector picture. The words are those of the
 * toolkit's canvas: colours, widths, fonts and the place of the origin stay until they are changed;
 * a path is begun, led and then stroked or taken as what may be drawn on.
 */
public interface Pen {
  void save();

  void restore();

  void translate(double x, double y);

  void scale(double x, double y);

  void rotate(double degrees);

  void setFill(Color color);

  void setStroke(Color color);

  void setLineWidth(double width);

  void setLineDashes(double... lengths);

  void setFont(Font font);

  Font getFont();

  void setTextAlign(TextAlignment align);

  void setTextBaseline(VPos baseline);

  void fillText(String text, double x, double y);

  /** The same, squeezed where it would be wider. */
  void fillText(String text, double x, double y, double most);

  void strokeLine(double x0, double y0, double x1, double y1);

  void fillRect(double x, double y, double width, double height);

  void strokeRect(double x, double y, double width, double height);

  void fillRoundRect(
      double x, double y, double width, double height, double arcWidth, double arcHeight);

  void fillOval(double x, double y, double width, double height);

  void strokeOval(double x, double y, double width, double height);

  void fillPolygon(double[] x, double[] y, int corners);

  void beginPath();

  void moveTo(double x, double y);

  void lineTo(double x, double y);

  void rect(double x, double y, double width, double height);

  void stroke();

  /** From now on nothing is drawn outside the path, until what was saved is restored. */
  void clip();

  void drawImage(Image image, double x, double y, double width, double height);

  void drawImage(
      Image image,
      double fromX,
      double fromY,
      double fromWidth,
      double fromHeight,
      double x,
      double y,
      double width,
      double height);
}
