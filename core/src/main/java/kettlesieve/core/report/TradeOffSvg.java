package kettlesieve.core.report;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.score.TradeOff;

/** What each version gains and what it pays for it, as a picture in SVG with numbers for labels. */
final class TradeOffSvg {
  private static final int SIZE = 300;
  private static final int EDGE = 40;

  private TradeOffSvg() {}

  /**
   * The picture; empty with fewer than two points.
   *
   * @param numbers of the versions by id
   */
  static String of(TradeOff tradeOff, Map<String, Integer> numbers) {
    List<TradeOff.Point> points = tradeOff.points();
    if (points.size() < 2) {
      return "";
    }
    StringBuilder svg = new StringBuilder();
    int all = SIZE + 2 * EDGE;
    svg.append(
        String.format(
            Locale.ROOT,
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%d\" height=\"%d\""
                + " viewBox=\"0 0 %d %d\" role=\"img\" font-family=\"Sieve, sans-serif\">",
            all,
            all,
            all,
            all));
    double lowest =
        points.stream()
            .mapToDouble(p -> Math.min(p.dealtWith().value(), p.unharmed().value()))
            .min()
            .orElse(0);
    // Only the part in which there is something.
    int from = (int) Math.max(0, Math.floor((lowest - 2) / 20) * 20);
    double scale = SIZE / (100.0 - from);
    for (int score = from; score <= 100; score += 20) {
      double at = EDGE + (score - from) * scale;
      double down = EDGE + SIZE - (score - from) * scale;
      line(svg, EDGE, down, EDGE + SIZE, down, "#D9D3C7");
      line(svg, at, EDGE, at, EDGE + SIZE, "#D9D3C7");
      text(svg, at, EDGE + SIZE + 14, "middle", String.valueOf(score));
      text(svg, EDGE - 6, down + 4, "end", String.valueOf(score));
    }
    text(svg, EDGE + SIZE / 2.0, EDGE + SIZE + 32, "middle", "Missed: dealt with");
    text(svg, EDGE, EDGE - 14, "start", "Added and Lost: unharmed (the worse)");
    for (TradeOff.Point p : points) {
      double x = EDGE + (p.dealtWith().value() - from) * scale;
      double y = EDGE + SIZE - (p.unharmed().value() - from) * scale;
      svg.append(
          String.format(
              Locale.ROOT,
              "<circle cx=\"%.1f\" cy=\"%.1f\" r=\"9\" fill=\"%s\" stroke=\"#1E2A32\"/>",
              x,
              y,
              p.unbeaten() ? "#0E6B6B" : "#FFFFFF"));
      svg.append(
          String.format(
              Locale.ROOT,
              "<text x=\"%.1f\" y=\"%.1f\" font-size=\"10\" text-anchor=\"middle\""
                  + " fill=\"%s\">%d</text>",
              x,
              y + 3.5,
              p.unbeaten() ? "#FFFFFF" : "#1E2A32",
              numbers.getOrDefault(p.id(), 0)));
    }
    return svg.append("</svg>").toString();
  }

  private static void line(
      StringBuilder svg, double x1, double y1, double x2, double y2, String colour) {
    svg.append(
        String.format(
            Locale.ROOT,
            "<line x1=\"%.1f\" y1=\"%.1f\" x2=\"%.1f\" y2=\"%.1f\" stroke=\"%s\"/>",
            x1,
            y1,
            x2,
            y2,
            colour));
  }

  private static void text(StringBuilder svg, double x, double y, String anchor, String words) {
    svg.append(
        String.format(
            Locale.ROOT,
            "<text x=\"%.1f\" y=\"%.1f\" font-size=\"11\" text-anchor=\"%s\""
                + " fill=\"#1E2A32\">%s</text>",
            x,
            y,
            anchor,
            words));
  }
}
