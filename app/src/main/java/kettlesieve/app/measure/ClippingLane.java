package kettlesieve.app.measure;

import java.util.List;
import java.util.function.Consumer;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.core.signal.Clipping;

/** The clipped passages on the source's time: the higher a bar, the longer its longest run. */
final class ClippingLane extends CanvasPane {
  private static final double RULER = 18;

  private final Workspace workspace;
  private List<Clipping.Passage> passages = List.of();
  private double start;
  private Clipping.Passage selected;

  ClippingLane(Workspace workspace, Consumer<Clipping.Passage> choose) {
    this.workspace = workspace;
    setId("clipping-lane");
    setMinHeight(84);
    setPrefHeight(84);
    setMaxHeight(84);
    setAccessibleText("Clipped passages of the source over time");
    setOnMouseClicked(
        e -> {
          Clipping.Passage nearest = null;
          for (Clipping.Passage p : passages) {
            if (nearest == null
                || Math.abs(middle(p) - e.getX()) < Math.abs(middle(nearest) - e.getX())) {
              nearest = p;
            }
          }
          if (nearest != null) {
            choose.accept(nearest);
          }
        });
  }

  private double total() {
    var source = workspace.sourceProperty().get();
    return source == null ? 1 : source.audio().seconds();
  }

  private double middle(Clipping.Passage p) {
    return (start + (p.from() + p.to()) / 2) / total() * getWidth();
  }

  void show(List<Clipping.Passage> shown, double startSeconds) {
    passages = shown;
    start = startSeconds;
    selected = null;
    repaint();
  }

  void select(Clipping.Passage passage) {
    selected = passage;
    repaint();
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    double bottom = height - RULER;
    int longest = passages.stream().mapToInt(Clipping.Passage::longestSamples).max().orElse(1);
    boolean night = Ink.look() == Ink.Look.NIGHT;
    for (Clipping.Passage p : passages) {
      double x0 = (start + p.from()) / total() * width;
      double x1 = Math.max(x0 + 2, (start + p.to()) / total() * width);
      double tall = 10 + (bottom - 28) * Math.sqrt((double) p.longestSamples() / longest);
      g.setFill(
          switch (p.severity()) {
            case LIGHT -> Color.web(night ? "#7D6A48" : "#C9A86A");
            case MEDIUM -> Color.web(night ? "#D08C3C" : "#A8702A");
            case HEAVY -> Color.web(night ? "#FFB593" : "#7A2E12");
          });
      g.fillRect(x0, bottom - tall, x1 - x0, tall);
      if (p.equals(selected)) {
        g.setStroke(Ink.action());
        g.setLineWidth(2);
        g.strokeRect(x0 - 3, 18, x1 - x0 + 6, bottom - 19);
      }
    }
    g.setFont(Font.font("Source Sans 3", 12.5));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(javafx.geometry.VPos.BASELINE);
    g.setFill(Ink.quiet());
    g.fillText(
        passages.isEmpty()
            ? "No clipped passages"
            : "Clipped passages: "
                + (night ? "dim light, brown medium, bright" : "pale light, brown medium, dark")
                + " heavy; taller for longer runs",
        8,
        13);
    TimeRuler.draw(g, workspace.clock(), 0, total(), width, bottom, RULER);
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
  }
}
