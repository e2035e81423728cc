package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.DoubleConsumer;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.stretch.StretchedVoices;
import kettlesieve.core.measure.stretch.VoiceTraces;

/** The pitch of the voice over the source's time: what was asked for in ink, versions over it. */
final class PitchPlot extends MomentPlot {
  private static final double GAP_SECONDS = 0.025;

  PitchPlot(Workspace workspace, DoubleConsumer choose) {
    super(workspace, "pitch-trace", "The pitch of source and versions over time", choose);
    setMinHeight(120);
    setPrefHeight(210);
  }

  /** Why nothing is drawn. */
  private String nothing() {
    if (workspace().ownTime().voicesFailed()) {
      return "The voice could not be followed; the program's log says more.";
    }
    return workspace().ownTime().voicesKnown()
        ? "There is no single voice to follow here."
        : "The voice is being followed …";
  }

  private List<StretchedVoices.Frame> frames(Version v) {
    return workspace().ownTime().voices(v.id()).map(VoiceTraces::frames).orElse(List.of());
  }

  @Override
  void plot(Pen g, double width, double bottom) {
    List<Version> versions = workspace().comparison().versions();
    List<Double> all = new ArrayList<>();
    for (Version v : versions) {
      double pitch = workspace().ownTime().voices(v.id()).map(VoiceTraces::pitch).orElse(1.0);
      for (StretchedVoices.Frame f : frames(v)) {
        for (double hz : new double[] {f.before() * pitch, f.after()}) {
          if (Double.isFinite(hz)) {
            all.add(hz);
          }
        }
      }
    }
    if (all.isEmpty()) {
      g.setFill(Ink.quiet());
      g.setFont(Font.font("Source Sans 3", 13));
      g.setTextAlign(TextAlignment.LEFT);
      g.fillText(nothing(), 14, bottom / 2);
    } else {
      // The middle 98 %: a few mistakes of an octave would squeeze all the rest.
      Collections.sort(all);
      double low = all.get((int) Math.round(0.01 * (all.size() - 1)));
      double high = all.get((int) Math.round(0.99 * (all.size() - 1)));
      double[] range = {Math.log(low / 1.06), Math.log(high * 1.06)};
      g.save();
      g.beginPath();
      g.rect(0, 0, width, bottom);
      g.clip();
      axis(g, range, width, bottom);
      // What was asked for is the same for all: the source, moved.
      versions.stream()
          .filter(v -> !frames(v).isEmpty())
          .findFirst()
          .ifPresent(
              v -> {
                double pitch =
                    workspace().ownTime().voices(v.id()).map(VoiceTraces::pitch).orElse(1.0);
                trace(g, frames(v), true, pitch, range, width, bottom, Ink.ink(), 3);
              });
      for (int i = 0; i < versions.size(); i++) {
        Color color = VersionSign.color(i);
        trace(g, frames(versions.get(i)), false, 1, range, width, bottom, color, 1.4);
      }
      g.restore();
      if (!Double.isNaN(chosen())) {
        double x = chosen() / total() * width;
        g.setStroke(Ink.warning());
        g.setLineWidth(1.5);
        g.strokeLine(x, 0, x, bottom);
      }
    }
  }

  private static void axis(Pen g, double[] range, double width, double bottom) {
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    for (double hz : new double[] {60, 80, 100, 125, 150, 200, 250, 300, 400, 500, 700}) {
      double y = y(hz, range, bottom);
      if (y > 12 && y < bottom - 2) {
        g.setStroke(Ink.grid());
        g.setLineWidth(1);
        g.strokeLine(0, y, width, y);
        g.setFill(Ink.quiet());
        g.fillText(Numbers.hz(hz), 4, y - 2);
      }
    }
  }

  private static double y(double hz, double[] range, double bottom) {
    return bottom * (1 - (Math.log(hz) - range[0]) / (range[1] - range[0]));
  }

  private void trace(
      Pen g,
      List<StretchedVoices.Frame> frames,
      boolean source,
      double factor,
      double[] range,
      double width,
      double bottom,
      Color color,
      double thickness) {
    g.setStroke(source ? color.deriveColor(0, 1, 1, 0.4) : color);
    g.setLineWidth(thickness);
    double lastX = Double.NaN;
    double lastY = 0;
    double lastTime = 0;
    for (StretchedVoices.Frame f : frames) {
      double hz = source ? f.before() * factor : f.after();
      if (!Double.isFinite(hz)) {
        lastX = Double.NaN;
        continue;
      }
      double x = f.source() / total() * width;
      double y = y(hz, range, bottom);
      if (!Double.isNaN(lastX) && f.source() - lastTime < GAP_SECONDS) {
        g.strokeLine(lastX, lastY, x, y);
      }
      lastX = x;
      lastY = y;
      lastTime = f.source();
    }
  }
}
