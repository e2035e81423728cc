package kettlesieve.core.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.roundup.Difficulties;

/** What tools reach at each difficulty, a line a tool with its number at its end, as SVG. */
final class DifficultySvg {
  private static final int WIDTH = 520;
  private static final int HEIGHT = 240;

  /** Numbers are so far apart, one under the other. */
  private static final double LINE = 11;

  private static final int EDGE = 40;

  /** Lines are told apart by their numbers and dashes, not by colour alone. */
  private static final List<String> DASHES = List.of("", "7 3", "2 3", "9 3 2 3");

  private static final List<String> COLOURS = List.of("#0E6B6B", "#8A4B12", "#44508C", "#7A2E5A");

  private DifficultySvg() {}

  static String of(Difficulties all) {
    double lowest = 0;
    double highest = 0;
    boolean first = true;
    for (List<Double> line : all.lines().values()) {
      for (double v : line) {
        if (Double.isFinite(v)) {
          lowest = first ? v : Math.min(lowest, v);
          highest = first ? v : Math.max(highest, v);
          first = false;
        }
      }
    }
    double span = Math.max(1e-9, highest - lowest);
    lowest -= 0.05 * span;
    highest += 0.05 * span;
    StringBuilder svg = new StringBuilder();
    svg.append(
        String.format(
            Locale.ROOT,
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%d\" height=\"%d\""
                + " viewBox=\"0 0 %d %d\" role=\"img\" font-family=\"Sieve, sans-serif\">",
            WIDTH + 2 * EDGE,
            HEIGHT + 2 * EDGE,
            WIDTH + 2 * EDGE,
            HEIGHT + 2 * EDGE));
    int n = all.steps().size();
    for (int i = 0; i < n; i++) {
      double x = EDGE + (n == 1 ? 0 : (double) i * WIDTH / (n - 1));
      if (n <= 12 || i % (n / 8) == 0) {
        text(svg, x, EDGE + HEIGHT + 14, "middle", StretchTarget.figure(all.steps().get(i)));
      }
    }
    text(svg, EDGE + WIDTH / 2.0, EDGE + HEIGHT + 32, "middle", all.title() + ", " + all.unit());
    for (double share : new double[] {0, 0.5, 1}) {
      double y = EDGE + HEIGHT - share * HEIGHT;
      svg.append(
          String.format(
              Locale.ROOT,
              "<line x1=\"%d\" y1=\"%.1f\" x2=\"%d\" y2=\"%.1f\" stroke=\"#D9D3C7\"/>",
              EDGE,
              y,
              EDGE + WIDTH,
              y));
      double value = lowest + share * (highest - lowest);
      text(svg, EDGE - 6, y + 4, "end", String.format(Locale.ROOT, "%.0f", value));
    }
    int number = 0;
    List<End> ends = new ArrayList<>();
    for (List<Double> line : all.lines().values()) {
      StringBuilder points = new StringBuilder();
      double lastX = 0;
      double lastY = 0;
      for (int i = 0; i < n; i++) {
        if (Double.isFinite(line.get(i))) {
          lastX = EDGE + (n == 1 ? 0 : (double) i * WIDTH / (n - 1));
          lastY = EDGE + HEIGHT - (line.get(i) - lowest) / (highest - lowest) * HEIGHT;
          points.append(String.format(Locale.ROOT, "%.1f,%.1f ", lastX, lastY));
        }
      }
      svg.append(
          String.format(
              Locale.ROOT,
              "<polyline points=\"%s\" fill=\"none\" stroke=\"%s\" stroke-width=\"1.6\""
                  + " stroke-dasharray=\"%s\"/>",
              points.toString().strip(),
              COLOURS.get(number % COLOURS.size()),
              DASHES.get(number / COLOURS.size() % DASHES.size())));
      number++;
      ends.add(new End(number, lastX, lastY));
    }
    numbers(svg, ends);
    return svg.append("</svg>").toString();
  }

  /** Where the line of a number ends. */
  private record End(int number, double x, double y) {}

  /** Each beside its line's end; what would lie over another gives way, tied by a thin line. */
  private static void numbers(StringBuilder svg, List<End> ends) {
    List<End> sorted =
        ends.stream()
            .sorted(Comparator.comparingDouble(End::y).thenComparing(End::number))
            .toList();
    double room = EDGE;
    double left = LINE * sorted.size();
    for (End end : sorted) {
      // No lower than leaves room for those that follow.
      double y = Math.max(room, Math.min(end.y(), EDGE + HEIGHT + LINE - left));
      svg.append(
          String.format(
              Locale.ROOT,
              "<line x1=\"%.1f\" y1=\"%.1f\" x2=\"%.1f\" y2=\"%.1f\" stroke=\"#B9B2A4\"/>",
              end.x() + 2,
              end.y(),
              end.x() + 14,
              y));
      text(svg, end.x() + 17, y + 4, "start", String.valueOf(end.number()));
      room = y + LINE;
      left -= LINE;
    }
  }

  private static void text(StringBuilder svg, double x, double y, String anchor, String words) {
    svg.append(
        String.format(
            Locale.ROOT,
            "<text x=\"%.1f\" y=\"%.1f\" font-size=\"10\" fill=\"#5C6665\" text-anchor=\"%s\">%s"
                + "</text>",
            x,
            y,
            anchor,
            words));
  }
}
