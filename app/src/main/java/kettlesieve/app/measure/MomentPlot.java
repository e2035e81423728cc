package kettlesieve.app.measure;

import java.util.function.DoubleConsumer;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;

/** A plot over the whole of the source's time, of which a moment is chosen by a click. */
abstract class MomentPlot extends CanvasPane {
  static final double RULER = 18;

  private final Workspace workspace;
  private double chosen = Double.NaN;

  /**
   * @param choose told of the moment that was clicked, seconds of the source
   */
  MomentPlot(Workspace workspace, String id, String words, DoubleConsumer choose) {
    this.workspace = workspace;
    setId(id);
    setAccessibleText(words);
    setOnMouseClicked(e -> choose.accept(e.getX() / Math.max(1, getWidth()) * total()));
  }

  final Workspace workspace() {
    return workspace;
  }

  /** Length of the source, seconds. */
  final double total() {
    var source = workspace.sourceProperty().get();
    return source == null ? 1 : source.audio().seconds();
  }

  /** The moment that is chosen; NaN for none. */
  final double chosen() {
    return chosen;
  }

  final void choose(double seconds) {
    chosen = seconds;
    repaint();
  }

  /** Draws what lies above the ruler. */
  abstract void plot(Pen g, double width, double bottom);

  @Override
  protected final void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    plot(g, width, height - RULER);
    TimeRuler.draw(g, workspace.clock(), 0, total(), width, height - RULER, RULER);
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
  }
}
