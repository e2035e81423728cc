package kettlesieve.calibrate.odds;

import java.util.List;
import java.util.Locale;

/** Said against got as a picture: a point a bin, its area by the number of pairs. */
final class OddsFigure {
  private static final double SIDE = 260;
  private static final double LEFT = 46;
  private static final double TOP = 30;
  private static final double LEAST = 0.4;

  private final StringBuilder svg = new StringBuilder();

  /**
   * A bin.
   *
   * @param said mean of what was said of the likelier side
   * @param got how often it was so
   * @param pairs how many
   */
  record Point(double said, double got, double pairs) {}

  /**
   * @param title above the picture
   * @param setting bins of the setting half
   * @param reporting bins of the other half
   */
  OddsFigure(String title, List<Point> setting, List<Point> reporting) {
    add(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 %.0f %.0f\""
            + " font-family=\"sans-serif\" font-size=\"12\">%n",
        SIDE + LEFT + 20, SIDE + TOP + 64);
    add("<rect width=\"100%%\" height=\"100%%\" fill=\"#FFFFFF\"/>%n");
    add("<text x=\"%.0f\" y=\"18\" font-weight=\"bold\">%s: said and got</text>%n", LEFT, title);
    for (int tenth = 4; tenth <= 10; tenth++) {
      double at = tenth / 10.0;
      add(
          "<path d=\"M%.1f %.1fV%.1fM%.1f %.1fH%.1f\" stroke=\"#DDD7CA\" fill=\"none\"/>%n",
          x(at), TOP, TOP + SIDE, LEFT, y(at), LEFT + SIDE);
      add(
          "<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"middle\" fill=\"#5B6670\">%.1f</text>%n",
          x(at), TOP + SIDE + 16, at);
      add(
          "<text x=\"%.1f\" y=\"%.1f\" text-anchor=\"end\" fill=\"#5B6670\">%.1f</text>%n",
          LEFT - 6, y(at) + 4, at);
    }
    add(
        "<path d=\"M%.1f %.1fL%.1f %.1f\" stroke=\"#9A927F\" stroke-dasharray=\"4 3\"/>%n",
        x(LEAST), y(LEAST), x(1), y(1));
    line(setting, "#9A927F", "none");
    line(reporting, "#0E6B6B", "#0E6B6B");
    String caption = "<text x=\"%.0f\" y=\"%.0f\" fill=\"#5B6670\">%s</text>%n";
    add(caption, LEFT, TOP + SIDE + 36, "across: what was said, up: what was got");
    add(caption, LEFT, TOP + SIDE + 52, "open: setting half, filled: reporting half");
    add("</svg>%n");
  }

  private static double x(double said) {
    return LEFT + (said - LEAST) / (1 - LEAST) * SIDE;
  }

  private static double y(double got) {
    return TOP + SIDE - (Math.max(LEAST, got) - LEAST) / (1 - LEAST) * SIDE;
  }

  private void line(List<Point> points, String stroke, String fill) {
    StringBuilder path = new StringBuilder();
    for (Point p : points) {
      path.append(path.isEmpty() ? "M" : "L")
          .append(String.format(Locale.ROOT, "%.1f %.1f", x(p.said()), y(p.got())));
    }
    add("<path d=\"%s\" stroke=\"%s\" fill=\"none\"/>%n", path, stroke);
    for (Point p : points) {
      add(
          "<circle cx=\"%.1f\" cy=\"%.1f\" r=\"%.1f\" stroke=\"%s\" fill=\"%s\"/>%n",
          x(p.said()), y(p.got()), 2 + Math.sqrt(p.pairs()) / 5, stroke, fill);
    }
  }

  private void add(String pattern, Object... values) {
    svg.append(String.format(Locale.ROOT, pattern, values));
  }

  /** The picture as SVG. */
  String svg() {
    return svg.toString();
  }
}
