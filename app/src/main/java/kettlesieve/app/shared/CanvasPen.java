package kettlesieve.app.shared;

import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.Image;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** Draws on the screen. */
record CanvasPen(GraphicsContext g) implements Pen {

  @Override
  public void save() {
    g.save();
  }

  @Override
  public void restore() {
    g.restore();
  }

  @Override
  public void translate(double x, double y) {
    g.translate(x, y);
  }

  @Override
  public void scale(double x, double y) {
    g.scale(x, y);
  }

  @Override
  public void rotate(double degrees) {
    g.rotate(degrees);
  }

  @Override
  public void setFill(Color color) {
    g.setFill(color);
  }

  @Override
  public void setStroke(Color color) {
    g.setStroke(color);
  }

  @Override
  public void setLineWidth(double width) {
    g.setLineWidth(width);
  }

  @Override
  public void setLineDashes(double... lengths) {
    g.setLineDashes(lengths);
  }

  @Override
  public void setFont(Font font) {
    g.setFont(font);
  }

  @Override
  public Font getFont() {
    return g.getFont();
  }

  @Override
  public void setTextAlign(TextAlignment align) {
    g.setTextAlign(align);
  }

  @Override
  public void setTextBaseline(VPos baseline) {
    g.setTextBaseline(baseline);
  }

  @Override
  public void fillText(String text, double x, double y) {
    g.fillText(text, x, y);
  }

  @Override
  public void fillText(String text, double x, double y, double most) {
    g.fillText(text, x, y, most);
  }

  @Override
  public void strokeLine(double x0, double y0, double x1, double y1) {
    g.strokeLine(x0, y0, x1, y1);
  }

  @Override
  public void fillRect(double x, double y, double width, double height) {
    g.fillRect(x, y, width, height);
  }

  @Override
  public void strokeRect(double x, double y, double width, double height) {
    g.strokeRect(x, y, width, height);
  }

  @Override
  public void fillRoundRect(
      double x, double y, double width, double height, double arcWidth, double arcHeight) {
    g.fillRoundRect(x, y, width, height, arcWidth, arcHeight);
  }

  @Override
  public void fillOval(double x, double y, double width, double height) {
    g.fillOval(x, y, width, height);
  }

  @Override
  public void strokeOval(double x, double y, double width, double height) {
    g.strokeOval(x, y, width, height);
  }

  @Override
  public void fillPolygon(double[] x, double[] y, int corners) {
    g.fillPolygon(x, y, corners);
  }

  @Override
  public void beginPath() {
    g.beginPath();
  }

  @Override
  public void moveTo(double x, double y) {
    g.moveTo(x, y);
  }

  @Override
  public void lineTo(double x, double y) {
    g.lineTo(x, y);
  }

  @Override
  public void rect(double x, double y, double width, double height) {
    g.rect(x, y, width, height);
  }

  @Override
  public void stroke() {
    g.stroke();
  }

  @Override
  public void clip() {
    g.clip();
  }

  @Override
  public void drawImage(Image image, double x, double y, double width, double height) {
    g.drawImage(image, x, y, width, height);
  }

  @Override
  public void drawImage(
      Image image,
      double fromX,
      double fromY,
      double fromWidth,
      double fromHeight,
      double x,
      double y,
      double width,
      double height) {
    g.drawImage(image, fromX, fromY, fromWidth, fromHeight, x, y, width, height);
  }
}
