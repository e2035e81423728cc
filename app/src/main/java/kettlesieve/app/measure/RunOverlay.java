package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;

/** Source and versions over each other at a run of clipped samples, with the clip level. */
final class RunOverlay extends CanvasPane {
  private static final double RULER = 18;
  private static final double HEAD = 24;

  private final Workspace workspace;
  private final Drawing drawing = Drawing.first();
  private Clipping clipping;
  private Clipping.Passage passage;
  private Lines lines;

  private record Line(int index, float[] samples) {}

  private record Lines(
      double from, double to, Clipping.Run run, float[] source, List<Line> versions) {}

  RunOverlay(Workspace workspace) {
    this.workspace = workspace;
    setId("run-overlay");
    setMinHeight(180);
    setAccessibleText("Source and versions over each other at a clipped run");
    workspace.selection().versionProperty().addListener((o, was, is) -> repaint());
  }

  void show(Clipping found, Clipping.Passage chosen) {
    clipping = found;
    passage = chosen;
    renew();
  }

  /** Draws again, with the versions that are matched by now. */
  void renew() {
    lines = null;
    repaint();
    var source = workspace.sourceProperty().get();
    var preparedExcerpt = workspace.preparedExcerptProperty().get();
    if (clipping == null || passage == null || source == null || preparedExcerpt == null) {
      return;
    }
    Audio audio = source.audio();
    long offset = preparedExcerpt.source().firstFrame();
    Clipping.Run run = longest(audio.sampleRate());
    List<Version> versions = workspace.comparison().versions();
    List<Prepared> prepared = new ArrayList<>();
    for (Version v : versions) {
      prepared.add(workspace.state(v.id()).prepared());
    }
    drawing.request(
        () -> {
          int around = Math.max(24, run.length() * 2);
          long first = offset + run.from() - around;
          int length = run.length() + 2 * around;
          List<Line> drawn = new ArrayList<>();
          for (int i = 0; i < prepared.size(); i++) {
            if (prepared.get(i) != null) {
              Audio matched = prepared.get(i).matched();
              int channel = Math.min(run.channel(), matched.channels() - 1);
              drawn.add(new Line(i, matched.samples(channel, first, length)));
            }
          }
          double rate = audio.sampleRate();
          return new Lines(
              first / rate,
              (first + length) / rate,
              run,
              audio.samples(Math.min(run.channel(), audio.channels() - 1), first, length),
              drawn);
        },
        made -> {
          lines = made;
          repaint();
        });
  }

  private Clipping.Run longest(int rate) {
    Clipping.Run best = null;
    for (int c = 0;
        c < 64 && (c == 0 || clipping.ceiling(c, 1) != null || clipping.ceiling(c, -1) != null);
        c++) {
      if (clipping.ceiling(c, 1) == null && clipping.ceiling(c, -1) == null) {
        continue;
      }
      for (int i = clipping.firstRunFrom(c, Math.round(passage.from() * rate));
          i < clipping.runs(c) && clipping.run(c, i).from() <= passage.to() * rate;
          i++) {
        Clipping.Run run = clipping.run(c, i);
        best = best == null || run.length() > best.length() ? run : best;
      }
    }
    return best == null ? clipping.run(clipping.ceilings().get(0).channel(), 0) : best;
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setFont(Font.font("Source Sans 3", 13));
    g.setTextBaseline(javafx.geometry.VPos.BASELINE);
    g.setTextAlign(TextAlignment.LEFT);
    if (lines == null) {
      g.setFill(Ink.quiet());
      g.fillText(
          passage == null ? "Choose a clipped passage to see how it was rebuilt." : "Drawing …",
          14,
          height / 2);
    } else {
      waves(g, width, height);
    }
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
  }

  private void waves(Pen g, double width, double height) {
    double low = 0;
    double high = 0;
    List<float[]> all = new ArrayList<>();
    all.add(lines.source());
    lines.versions().forEach(l -> all.add(l.samples()));
    // A wild version must not press the others flat: three times the clip level is enough.
    double most = 3 * lines.run().level();
    for (float[] x : all) {
      for (float v : x) {
        low = Math.min(low, Math.max(-most, v));
        high = Math.max(high, Math.min(most, v));
      }
    }
    double bottom = height - RULER;
    double scale = (bottom - HEAD - 8) / Math.max(1e-6, high - low);
    double zero = HEAD + high * scale;
    TimeRuler.draw(g, lines.from(), lines.to(), width, bottom, RULER);
    g.setStroke(Ink.rule());
    g.strokeLine(0, zero, width, zero);
    level(g, zero - lines.run().polarity() * lines.run().level() * scale, width);
    g.save();
    g.beginPath();
    g.rect(0, HEAD - 4, width, bottom - HEAD + 4);
    g.clip();
    String selected = workspace.selection().versionProperty().get();
    for (Line line : lines.versions()) {
      boolean chosen = workspace.comparison().versions().get(line.index()).id().equals(selected);
      wave(
          g, line.samples(), VersionSign.color(line.index()), chosen ? 3 : 1.5, width, zero, scale);
    }
    wave(g, lines.source(), Ink.ink(), 2.2, width, zero, scale);
    g.restore();
    g.setFill(Ink.quiet());
    g.fillText(
        "Longest run of the passage, "
            + lines.run().length()
            + " samples; source in ink, versions in their colours",
        10,
        16);
  }

  private void level(Pen g, double y, double width) {
    g.setStroke(Ink.warning());
    g.setLineWidth(1.2);
    g.setLineDashes(6, 4);
    g.strokeLine(0, y, width, y);
    g.setLineDashes();
    g.setFill(Ink.warning());
    g.setTextAlign(TextAlignment.RIGHT);
    g.fillText(
        "clip level " + Numbers.fixed(Db.ofAmplitude(lines.run().level()), 1) + " dBFS",
        width - 8,
        y + (lines.run().polarity() > 0 ? 15 : -5));
    g.setTextAlign(TextAlignment.LEFT);
  }

  private static void wave(
      Pen g, float[] x, Color color, double thickness, double width, double zero, double scale) {
    g.setStroke(color);
    g.setLineWidth(thickness);
    g.beginPath();
    for (int i = 0; i < x.length; i++) {
      double px = (double) i / (x.length - 1) * width;
      double py = zero - x[i] * scale;
      if (i == 0) {
        g.moveTo(px, py);
      } else {
        g.lineTo(px, py);
      }
    }
    g.stroke();
  }
}
