package kettlesieve.app.measure;

import java.util.List;
import java.util.function.DoubleConsumer;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.Ticks;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.stretch.StretchedHits;
import kettlesieve.core.measure.stretch.StretchedTraces;

/** How far each version strays from an even stretch, over the source's time; attacks below. */
final class DeviationPlot extends MomentPlot {
  private static final double ATTACKS = 12;
  private static final double LEAST_MS = 5;

  DeviationPlot(Workspace workspace, DoubleConsumer choose) {
    super(
        workspace,
        "deviation",
        "How far each version strays from an even stretch, over time",
        choose);
    setMinHeight(90);
    setPrefHeight(190);
    setMaxHeight(240);
  }

  @Override
  void plot(Pen g, double width, double above) {
    double bottom = above - ATTACKS;
    List<Version> versions = workspace().comparison().versions();
    double most = LEAST_MS;
    for (Version v : versions) {
      for (MapFit.Deviation d :
          workspace().ownTime().times(v.id()).map(StretchedTraces::deviation).orElse(List.of())) {
        most = Math.max(most, 1.1 * Math.abs(1000 * d.off()));
      }
    }
    double[] range = {-most, most};
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    for (double value : Ticks.between(-most, most, 4)) {
      double y = Math.round(y(value, most, bottom)) + 0.5;
      g.setStroke(value == 0 ? Ink.quiet() : Ink.grid());
      g.setLineWidth(1);
      g.strokeLine(0, y, width, y);
      g.setFill(Ink.quiet());
      g.fillText(Ticks.text(value, range) + " ms", 4, y - 2);
    }
    for (int i = 0; i < versions.size(); i++) {
      int index = i;
      workspace()
          .ownTime()
          .times(versions.get(i).id())
          .ifPresent(t -> line(g, t.deviation(), index, range[1], width, bottom));
    }
    attacks(g, versions, width, bottom);
  }

  private static double y(double ms, double most, double bottom) {
    return bottom / 2 * (1 - ms / most);
  }

  private void line(
      Pen g, List<MapFit.Deviation> knots, int index, double most, double width, double bottom) {
    g.setStroke(VersionSign.color(index));
    g.setLineWidth(1.6);
    g.beginPath();
    for (int i = 0; i < knots.size(); i++) {
      double x = knots.get(i).seconds() / total() * width;
      double y = y(1000 * knots.get(i).off(), most, bottom);
      if (i == 0) {
        g.moveTo(x, y);
      } else {
        g.lineTo(x, y);
      }
    }
    g.stroke();
  }

  /** The source's strong attacks; those that any version lost are marked. */
  private void attacks(Pen g, List<Version> versions, double width, double bottom) {
    for (Version v : versions) {
      for (StretchedHits.Hit hit :
          workspace().ownTime().times(v.id()).map(StretchedTraces::hits).orElse(List.of())) {
        double x = hit.source() / total() * width;
        boolean now = Math.abs(hit.source() - chosen()) < 1e-6;
        g.setStroke(now ? Ink.warning() : Ink.quiet());
        g.setLineWidth(now ? 2.5 : 1);
        g.strokeLine(x, now ? 0 : bottom + 2, x, bottom + ATTACKS - 1);
      }
    }
  }
}
