package kettlesieve.app.decide;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.ears.EarAgainstFigures;

/** The ear's judgement of each version over its score: on a rising line where both agree. */
final class EarPlot extends CanvasPane {
  private static final double SIZE = 190;
  private static final double EDGE = 26;
  private static final double SIGN = 15;

  private record Point(int index, double score, double ear) {}

  private final List<Point> points = new ArrayList<>();

  EarPlot(Workspace workspace, Round round, Map<String, Estimate> ear, ScoreSheet sheet) {
    List<String> ids = workspace.comparison().versions().stream().map(Version::id).toList();
    ear.forEach(
        (id, heard) -> {
          Optional<Estimate> score =
              sheet.entry(Part.ALL, id).flatMap(e -> EarAgainstFigures.score(e, round.question()));
          if (score.isPresent() && ids.contains(id)) {
            points.add(new Point(ids.indexOf(id), score.get().value(), heard.value()));
          }
        });
    setMinSize(SIZE, SIZE);
    setPrefSize(SIZE, SIZE);
    setMaxSize(SIZE, SIZE);
    setId("ear-plot-" + round.id());
    setAccessibleText("What the ear says of " + points.size() + " versions over their scores");
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setStroke(Ink.rule());
    g.strokeRect(EDGE, 4, width - EDGE - 4, height - EDGE - 4);
    g.setFill(Ink.quiet());
    g.setFont(Font.font("Source Sans 3", 11));
    g.setTextAlign(TextAlignment.CENTER);
    g.fillText("score", EDGE + (width - EDGE) / 2, height - 8);
    g.save();
    g.translate(12, (height - EDGE) / 2);
    g.rotate(-90);
    g.fillText("ear", 0, 0);
    g.restore();
    ends(g, width, height);
    double[] x = points.stream().mapToDouble(Point::score).toArray();
    double[] y = points.stream().mapToDouble(Point::ear).toArray();
    for (Point p : points) {
      VersionSign.draw(
          g,
          p.index(),
          EDGE + place(p.score(), x) * (width - EDGE - 4),
          4 + (1 - place(p.ear(), y)) * (height - EDGE - 4),
          SIGN);
    }
  }

  /** The lowest and highest of both, in figures. */
  private void ends(Pen g, double width, double height) {
    double[] x = points.stream().mapToDouble(Point::score).sorted().toArray();
    double[] y = points.stream().mapToDouble(Point::ear).sorted().toArray();
    if (x.length < 2) {
      return;
    }
    g.setTextAlign(TextAlignment.LEFT);
    g.fillText(figure(x[0]), EDGE, height - 8);
    g.setTextAlign(TextAlignment.RIGHT);
    g.fillText(figure(x[x.length - 1]), width - 4, height - 8);
    g.fillText(figure(y[y.length - 1]), EDGE - 3, 14);
    g.fillText(figure(y[0]), EDGE - 3, height - EDGE - 4);
  }

  private static String figure(double value) {
    return Numbers.fixed(value, Math.abs(value) < 10 ? 1 : 0);
  }

  /** From 0.08 to 0.92 of the range of all: signs stay within the frame. */
  private static double place(double value, double[] all) {
    double low = java.util.Arrays.stream(all).min().orElse(0);
    double high = java.util.Arrays.stream(all).max().orElse(1);
    return high > low ? 0.08 + 0.84 * (value - low) / (high - low) : 0.5;
  }
}
