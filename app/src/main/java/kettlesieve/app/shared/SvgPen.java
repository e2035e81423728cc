package kettlesieve.app.shared;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Base64;
import java.util.Deque;
import java.util.Locale;
import java.util.stream.Collectors;
import javafx.geometry.VPos;
import javafx.scene.image.Image;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;
import javax.imageio.ImageIO;

/**
 * Draws a vector picture, SVG 1.1 (W3C 2011). Words stay words, in the font they have here and else
 * in the reader's own; pictures of spectra are pictures within.
 */
final class SvgPen implements Pen {
  /** Colours and the rest, as they stand when they are saved. */
  private record State(
      Color fill,
      Color stroke,
      double width,
      double[] dashes,
      Font font,
      TextAlignment align,
      VPos baseline,
      int open) {}

  private final StringBuilder svg = new StringBuilder();
  private final StringBuilder path = new StringBuilder();
  private final Deque<State> saved = new ArrayDeque<>();
  private Color fill = Color.BLACK;
  private Color stroke = Color.BLACK;
  private double lineWidth = 1;
  private double[] dashes = {};
  private Font font = Font.getDefault();
  private TextAlignment align = TextAlignment.LEFT;
  private VPos baseline = VPos.BASELINE;
  private int open;
  private int clips;

  /** The whole picture on its ground. */
  String picture(double width, double height, Color ground) {
    return "<svg xmlns=\"http://www.w3.org/2000/svg\""
        + " xmlns:xlink=\"http://www.w3.org/1999/xlink\""
        + text(
            " width=\"%s\" height=\"%s\" viewBox=\"0 0 %s %s\">\n",
            number(width), number(height), number(width), number(height))
        + text(
            "<rect width=\"%s\" height=\"%s\" fill=\"%s\"/>\n",
            number(width), number(height), web(ground))
        + svg
        + "</g>".repeat(open)
        + "</svg>\n";
  }

  private static String text(String pattern, Object... values) {
    return String.format(Locale.ROOT, pattern, values);
  }

  private static String number(double value) {
    String text = text("%.2f", value);
    return text.contains(".") ? text.replaceAll("0+$", "").replaceAll("\\.$", "") : text;
  }

  private static String web(Color c) {
    return text(
        "#%02x%02x%02x",
        Math.round(255 * c.getRed()),
        Math.round(255 * c.getGreen()),
        Math.round(255 * c.getBlue()));
  }

  private String filled() {
    return text("fill=\"%s\"", web(fill))
        + (fill.getOpacity() < 1 ? text(" fill-opacity=\"%s\"", number(fill.getOpacity())) : "");
  }

  private String stroked() {
    return text("fill=\"none\" stroke=\"%s\" stroke-width=\"%s\"", web(stroke), number(lineWidth))
        + (stroke.getOpacity() < 1
            ? text(" stroke-opacity=\"%s\"", number(stroke.getOpacity()))
            : "")
        + (dashes.length == 0
            ? ""
            : text(
                " stroke-dasharray=\"%s\"",
                Arrays.stream(dashes).mapToObj(SvgPen::number).collect(Collectors.joining(" "))));
  }

  private void group(String attributes) {
    svg.append("<g ").append(attributes).append(">\n");
    open++;
  }

  @Override
  public void save() {
    saved.push(new State(fill, stroke, lineWidth, dashes, font, align, baseline, open));
  }

  @Override
  public void restore() {
    State s = saved.pop();
    svg.append("</g>\n".repeat(open - s.open()));
    open = s.open();
    fill = s.fill();
    stroke = s.stroke();
    lineWidth = s.width();
    dashes = s.dashes();
    font = s.font();
    align = s.align();
    baseline = s.baseline();
  }

  @Override
  public void translate(double x, double y) {
    group(text("transform=\"translate(%s %s)\"", number(x), number(y)));
  }

  @Override
  public void scale(double x, double y) {
    group(text("transform=\"scale(%s %s)\"", number(x), number(y)));
  }

  @Override
  public void rotate(double degrees) {
    group(text("transform=\"rotate(%s)\"", number(degrees)));
  }

  @Override
  public void setFill(Color color) {
    fill = color;
  }

  @Override
  public void setStroke(Color color) {
    stroke = color;
  }

  @Override
  public void setLineWidth(double width) {
    lineWidth = width;
  }

  @Override
  public void setLineDashes(double... lengths) {
    dashes = lengths;
  }

  @Override
  public void setFont(Font value) {
    font = value;
  }

  @Override
  public Font getFont() {
    return font;
  }

  @Override
  public void setTextAlign(TextAlignment value) {
    align = value;
  }

  @Override
  public void setTextBaseline(VPos value) {
    baseline = value;
  }

  @Override
  public void fillText(String words, double x, double y) {
    fillText(words, x, y, Double.MAX_VALUE);
  }

  @Override
  public void fillText(String words, double x, double y, double most) {
    Text drawn = new Text(words);
    drawn.setFont(font);
    double wide = drawn.getLayoutBounds().getWidth();
    double up = -drawn.getLayoutBounds().getMinY();
    double high = drawn.getLayoutBounds().getHeight();
    double line =
        switch (baseline) {
          case TOP -> y + up;
          case CENTER -> y + up - high / 2;
          case BOTTOM -> y + up - high;
          case BASELINE -> y;
        };
    String anchor =
        switch (align) {
          case CENTER -> "middle";
          case RIGHT -> "end";
          default -> "start";
        };
    boolean heavy = font.getName().contains("SemiBold") || font.getFamily().contains("SemiBold");
    svg.append(
        text(
            "<text x=\"%s\" y=\"%s\" font-family=\"'Source Sans 3', sans-serif\""
                + " font-size=\"%s\"%s text-anchor=\"%s\"%s %s>%s</text>\n",
            number(x),
            number(line),
            number(font.getSize()),
            heavy ? " font-weight=\"600\"" : "",
            anchor,
            wide > most
                ? text(" textLength=\"%s\" lengthAdjust=\"spacingAndGlyphs\"", number(most))
                : "",
            filled(),
            escaped(words)));
  }

  private static String escaped(String words) {
    return words
        .replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replaceAll("\\p{Cntrl}", " ");
  }

  @Override
  public void strokeLine(double x0, double y0, double x1, double y1) {
    svg.append(
        text(
            "<line x1=\"%s\" y1=\"%s\" x2=\"%s\" y2=\"%s\" %s/>\n",
            number(x0), number(y0), number(x1), number(y1), stroked()));
  }

  private void rectangle(
      double x, double y, double width, double height, double arc, String painted) {
    svg.append(
        text(
            "<rect x=\"%s\" y=\"%s\" width=\"%s\" height=\"%s\"%s %s/>\n",
            number(x),
            number(y),
            number(Math.max(0, width)),
            number(Math.max(0, height)),
            arc > 0 ? text(" rx=\"%s\"", number(arc)) : "",
            painted));
  }

  @Override
  public void fillRect(double x, double y, double width, double height) {
    rectangle(x, y, width, height, 0, filled());
  }

  @Override
  public void strokeRect(double x, double y, double width, double height) {
    rectangle(x, y, width, height, 0, stroked());
  }

  @Override
  public void fillRoundRect(
      double x, double y, double width, double height, double arcWidth, double arcHeight) {
    rectangle(x, y, width, height, arcWidth / 2, filled());
  }

  private void oval(double x, double y, double width, double height, String painted) {
    svg.append(
        text(
            "<ellipse cx=\"%s\" cy=\"%s\" rx=\"%s\" ry=\"%s\" %s/>\n",
            number(x + width / 2),
            number(y + height / 2),
            number(width / 2),
            number(height / 2),
            painted));
  }

  @Override
  public void fillOval(double x, double y, double width, double height) {
    oval(x, y, width, height, filled());
  }

  @Override
  public void strokeOval(double x, double y, double width, double height) {
    oval(x, y, width, height, stroked());
  }

  @Override
  public void fillPolygon(double[] x, double[] y, int corners) {
    StringBuilder points = new StringBuilder();
    for (int i = 0; i < corners; i++) {
      points.append(number(x[i])).append(',').append(number(y[i])).append(' ');
    }
    svg.append(text("<polygon points=\"%s\" %s/>\n", points.toString().trim(), filled()));
  }

  @Override
  public void beginPath() {
    path.setLength(0);
  }

  @Override
  public void moveTo(double x, double y) {
    path.append('M').append(number(x)).append(' ').append(number(y));
  }

  @Override
  public void lineTo(double x, double y) {
    path.append('L').append(number(x)).append(' ').append(number(y));
  }

  @Override
  public void rect(double x, double y, double width, double height) {
    moveTo(x, y);
    lineTo(x + width, y);
    lineTo(x + width, y + height);
    lineTo(x, y + height);
    path.append('Z');
  }

  @Override
  public void stroke() {
    svg.append(text("<path d=\"%s\" %s/>\n", path, stroked()));
  }

  @Override
  public void clip() {
    int id = ++clips;
    svg.append(text("<clipPath id=\"clip%d\"><path d=\"%s\"/></clipPath>\n", id, path));
    group(text("clip-path=\"url(#clip%d)\"", id));
  }

  @Override
  public void drawImage(Image image, double x, double y, double width, double height) {
    drawImage(image, 0, 0, image.getWidth(), image.getHeight(), x, y, width, height);
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
    int left = (int) Math.max(0, Math.floor(fromX));
    int top = (int) Math.max(0, Math.floor(fromY));
    int wide = (int) Math.max(1, Math.min(image.getWidth() - left, Math.round(fromWidth)));
    int high = (int) Math.max(1, Math.min(image.getHeight() - top, Math.round(fromHeight)));
    BufferedImage part = new BufferedImage(wide, high, BufferedImage.TYPE_INT_ARGB);
    for (int j = 0; j < high; j++) {
      for (int i = 0; i < wide; i++) {
        part.setRGB(i, j, image.getPixelReader().getArgb(left + i, top + j));
      }
    }
    ByteArrayOutputStream png = new ByteArrayOutputStream();
    try {
      ImageIO.write(part, "png", png);
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
    svg.append(
        text(
            "<image x=\"%s\" y=\"%s\" width=\"%s\" height=\"%s\""
                + " preserveAspectRatio=\"none\" xlink:href=\"data:image/png;base64,%s\"/>\n",
            number(x),
            number(y),
            number(width),
            number(height),
            Base64.getEncoder().encodeToString(png.toByteArray())));
  }
}
