package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Rectangle2D;
import javafx.geometry.VPos;
import javafx.scene.input.MouseButton;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.ShortLabels;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.report.SweepWords;
import kettlesieve.core.score.TradeOff;

/**
 * What each version gained in Missed against what it paid in the worse of Added and Lost: versions
 * with their intervals, sweeps joined in order of amount, the versions that no other beats ringed.
 */
final class TradeOffPlot extends CanvasPane {
  private static final double LEFT = 58;
  private static final double BOTTOM = 46;
  private static final double TOP = 16;
  private static final double RIGHT = 24;
  private static final double SIGN = 17;

  private static final int MOST_LABEL = 30;

  private final Workspace workspace;
  private final List<double[]> crosses = new ArrayList<>();
  private final List<String> crossWords = new ArrayList<>();
  private TradeOff tradeOff = new TradeOff(List.of(), java.util.Map.of(), java.util.Map.of());
  private SignSize sized = SignSize.ALIKE;
  private double lowX;
  private double lowY;

  TradeOffPlot(Workspace workspace) {
    this.workspace = workspace;
    setId("trade-off");
    setMinHeight(240);
    setAccessibleText("Missed against the worse of Added and Lost, a sign for each version");
    setOnMouseClicked(
        e -> {
          if (e.getButton() == MouseButton.PRIMARY) {
            nearest(e.getX(), e.getY()).ifPresent(p -> workspace.selection().version(p.id()));
          }
        });
    workspace.selection().versionProperty().addListener((o, was, is) -> repaint());
  }

  void show(TradeOff shown, SignSize size) {
    tradeOff = shown;
    sized = size;
    lowX = 90;
    lowY = 90;
    for (TradeOff.Point p : shown.points()) {
      lowX = Math.min(lowX, p.dealtWith().low());
      lowY = Math.min(lowY, p.unharmed().low());
    }
    lowX = Math.max(0, Math.floor((lowX - 2) / 10) * 10);
    lowY = Math.max(0, Math.floor((lowY - 2) / 10) * 10);
    repaint();
  }

  private double x(double score, double width) {
    return LEFT + (score - lowX) / (102 - lowX) * (width - LEFT - RIGHT);
  }

  private double y(double score, double height) {
    return height - BOTTOM - (score - lowY) / (103 - lowY) * (height - BOTTOM - TOP);
  }

  private Optional<TradeOff.Point> nearest(double x, double y) {
    TradeOff.Point best = null;
    double least = 22;
    for (TradeOff.Point p : tradeOff.points()) {
      double distance =
          Math.hypot(
              x(p.dealtWith().value(), getWidth()) - x, y(p.unharmed().value(), getHeight()) - y);
      if (distance < least) {
        least = distance;
        best = p;
      }
    }
    return Optional.ofNullable(best);
  }

  private int index(String id) {
    return workspace.comparison().versions().stream().map(Version::id).toList().indexOf(id);
  }

  private double size(TradeOff.Point p) {
    Double own = sized.of(p.cost());
    if (own == null) {
      return SIGN;
    }
    double most = 0;
    for (TradeOff.Point q : tradeOff.points()) {
      Double other = sized.of(q.cost());
      most = Math.max(most, other == null ? 0 : other);
    }
    return SIGN * (0.7 + 1.1 * Math.sqrt(most > 0 ? own / most : 0));
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
    g.setFont(Font.font("Source Sans 3", 13));
    g.setTextBaseline(VPos.BASELINE);
    if (tradeOff.points().isEmpty()) {
      g.setFill(Ink.quiet());
      g.setTextAlign(TextAlignment.LEFT);
      g.fillText(
          "Versions appear here when they have scores on Missed and on Added or Lost.", 16, 30);
      return;
    }
    axes(g, width, height);
    crosses.clear();
    crossWords.clear();
    tradeOff.sweeps().values().forEach(s -> sweep(g, s, width, height));
    tradeOff.targets().values().forEach(s -> line(g, s.ids(), width, height));
    for (TradeOff.Point p : tradeOff.points()) {
      interval(g, p, width, height);
    }
    for (TradeOff.Point p : tradeOff.points()) {
      point(g, p, width, height);
    }
    labels(g, width, height);
  }

  private void axes(Pen g, double width, double height) {
    for (double score = lowX; score <= 100; score += lowX < 50 ? 20 : 10) {
      double x = Math.round(x(score, width)) + 0.5;
      g.setStroke(Ink.grid());
      g.strokeLine(x, TOP, x, height - BOTTOM);
      g.setFill(Ink.quiet());
      g.setTextAlign(TextAlignment.CENTER);
      g.fillText(Numbers.fixed(score, 0), x, height - BOTTOM + 16);
    }
    for (double score = lowY; score <= 100; score += lowY < 50 ? 20 : 10) {
      double y = Math.round(y(score, height)) + 0.5;
      g.setStroke(Ink.grid());
      g.strokeLine(LEFT, y, width - RIGHT, y);
      g.setFill(Ink.quiet());
      g.setTextAlign(TextAlignment.RIGHT);
      g.fillText(Numbers.fixed(score, 0), LEFT - 6, y + 4);
    }
    g.setTextAlign(TextAlignment.CENTER);
    g.setFill(Ink.of(Axis.MISSED));
    g.fillText(
        "Missed: 100 = nothing was left undone", LEFT + (width - LEFT - RIGHT) / 2, height - 10);
    g.save();
    g.translate(16, TOP + (height - TOP - BOTTOM) / 2);
    g.rotate(-90);
    g.setFill(Ink.of(Axis.ADDED));
    g.fillText("worse of Added and Lost: 100 = no harm", 0, 0);
    g.restore();
  }

  private void sweep(Pen g, TradeOff.Sweep sweep, double width, double height) {
    line(g, sweep.ids(), width, height);
    sweep.best().ifPresent(best -> best(g, sweep, best, width, height));
  }

  private void line(Pen g, List<String> ids, double width, double height) {
    double lastX = Double.NaN;
    double lastY = 0;
    g.setStroke(Ink.faint());
    g.setLineWidth(1.4);
    for (String id : ids) {
      TradeOff.Point p = point(id);
      double x = x(p.dealtWith().value(), width);
      double y = y(p.unharmed().value(), height);
      if (!Double.isNaN(lastX)) {
        g.strokeLine(lastX, lastY, x, y);
      }
      lastX = x;
      lastY = y;
    }
  }

  /** A small cross at the best amount, on the line between its neighbours. */
  private void best(
      Pen g, TradeOff.Sweep sweep, TradeOff.BestAmount best, double width, double height) {
    List<String> ids = sweep.ids();
    for (int i = 0; i + 1 < ids.size(); i++) {
      double from = sweep.amounts().get(i);
      double to = sweep.amounts().get(i + 1);
      if (best.amount() >= from && best.amount() <= to) {
        double share = to > from ? (best.amount() - from) / (to - from) : 0;
        TradeOff.Point a = point(ids.get(i));
        TradeOff.Point b = point(ids.get(i + 1));
        double x = between(a.dealtWith().value(), b.dealtWith().value(), share);
        double y = between(a.unharmed().value(), b.unharmed().value(), share);
        double px = x(x, width);
        double py = y(y, height);
        g.setStroke(Ink.action());
        g.setLineWidth(2.4);
        g.strokeLine(px - 13, py, px + 13, py);
        g.strokeLine(px, py - 13, px, py + 13);
        crosses.add(new double[] {px, py});
        crossWords.add("best at " + SweepWords.amount(best.amount()));
        return;
      }
    }
  }

  private static double between(double a, double b, double share) {
    return a + share * (b - a);
  }

  private TradeOff.Point point(String id) {
    return tradeOff.points().stream().filter(p -> p.id().equals(id)).findFirst().orElseThrow();
  }

  private void interval(Pen g, TradeOff.Point p, double width, double height) {
    double x = x(p.dealtWith().value(), width);
    double y = y(p.unharmed().value(), height);
    g.setStroke(VersionSign.color(index(p.id())).deriveColor(0, 1, 1, 0.55));
    g.setLineWidth(1.6);
    g.strokeLine(x(p.dealtWith().low(), width), y, x(p.dealtWith().high(), width), y);
    g.strokeLine(x, y(p.unharmed().low(), height), x, y(p.unharmed().high(), height));
  }

  private void point(Pen g, TradeOff.Point p, double width, double height) {
    double x = x(p.dealtWith().value(), width);
    double y = y(p.unharmed().value(), height);
    double size = size(p);
    boolean chosen = p.id().equals(workspace.selection().versionProperty().get());
    VersionSign.draw(g, index(p.id()), x, y, size);
    g.setTextBaseline(VPos.BASELINE);
    if (p.unbeaten()) {
      g.setStroke(Ink.ink());
      g.setLineWidth(chosen ? 2.4 : 1.4);
      g.strokeOval(x - size * 0.85, y - size * 0.85, size * 1.7, size * 1.7);
    } else if (chosen) {
      g.setStroke(Ink.action());
      g.setLineWidth(2);
      g.strokeRect(x - size * 0.8, y - size * 0.8, size * 1.6, size * 1.6);
    }
  }

  /** Labels where there is room for them, the chosen version's and the unbeaten ones' first. */
  private void labels(Pen g, double width, double height) {
    LabelRoom room =
        new LabelRoom(new Rectangle2D(LEFT, TOP, width - LEFT - RIGHT, height - TOP - BOTTOM));
    String chosen = workspace.selection().versionProperty().get();
    for (TradeOff.Point p : tradeOff.points()) {
      double x = x(p.dealtWith().value(), width);
      double y = y(p.unharmed().value(), height);
      room.keepFree(x, y, 0.85 * size(p));
      room.keepFree(x(p.dealtWith().low(), width), y, x(p.dealtWith().high(), width), y);
      room.keepFree(x, y(p.unharmed().low(), height), x, y(p.unharmed().high(), height));
    }
    for (TradeOff.Sweep sweep : tradeOff.sweeps().values()) {
      for (int i = 0; i + 1 < sweep.ids().size(); i++) {
        TradeOff.Point a = point(sweep.ids().get(i));
        TradeOff.Point b = point(sweep.ids().get(i + 1));
        room.keepFree(
            x(a.dealtWith().value(), width),
            y(a.unharmed().value(), height),
            x(b.dealtWith().value(), width),
            y(b.unharmed().value(), height));
      }
    }
    for (double[] cross : crosses) {
      room.keepFree(cross[0], cross[1], 14);
    }
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(VPos.CENTER);
    Font font = Font.font("Source Sans 3", 13);
    g.setFont(font);
    for (int i = 0; i < crosses.size(); i++) {
      write(
          g, room, crosses.get(i)[0], crosses.get(i)[1], 14, crossWords.get(i), Ink.action(), font);
    }
    List<TradeOff.Point> order = new ArrayList<>(tradeOff.points());
    order.sort(
        Comparator.comparing((TradeOff.Point p) -> !p.id().equals(chosen))
            .thenComparing(p -> !p.unbeaten()));
    List<String> labels =
        ShortLabels.of(order.stream().map(TradeOff.Point::label).toList(), MOST_LABEL);
    for (int i = 0; i < order.size(); i++) {
      TradeOff.Point p = order.get(i);
      write(
          g,
          room,
          x(p.dealtWith().value(), width),
          y(p.unharmed().value(), height),
          0.85 * size(p),
          labels.get(i),
          p.id().equals(chosen) ? Ink.ink() : Ink.quiet(),
          font);
    }
  }

  private static void write(
      Pen g,
      LabelRoom room,
      double x,
      double y,
      double radius,
      String words,
      Color color,
      Font font) {
    Text text = new Text(words);
    text.setFont(font);
    double wide = text.getLayoutBounds().getWidth();
    Rectangle2D place = room.place(x, y, radius, wide, 15);
    if (place != null) {
      g.setFill(color);
      g.fillText(words, place.getMinX(), place.getMinY() + place.getHeight() / 2);
    }
  }
}
