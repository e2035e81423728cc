package kettlesieve.app.match;

import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.ground.Attacks;
import kettlesieve.core.match.Match;
import kettlesieve.core.signal.LinearTimeAudio;

/** Source and version drawn over each other at an attack, zoomed to the sample. */
final class AttackOverlay extends CanvasPane {
  private static final double BEFORE = 0.003;
  private static final double AFTER = 0.005;

  private final Workspace workspace;
  private final Drawing drawing = new Drawing();
  private Lines lines;
  private Version version;
  private int index;

  private record Lines(double from, double to, float[] source, float[] version) {}

  AttackOverlay(Workspace workspace) {
    this.workspace = workspace;
    setMinHeight(110);
    setPrefHeight(260);
    setAccessibleText("Source and version over each other at an attack");
  }

  void show(Version shown) {
    version = shown;
    lines = null;
    var source = workspace.sourceProperty().get();
    if (shown == null || source == null || workspace.state(shown.id()).prepared() == null) {
      repaint();
      return;
    }
    index = workspace.comparison().versions().indexOf(shown);
    Audio sourceAudio = source.audio();
    Prepared prepared = workspace.state(shown.id()).prepared();
    Audio matched = prepared.matched();
    // What was set by hand shows at once, before everything is matched and measured again.
    Match m = prepared.match();
    MatchOverride hand = shown.match();
    double moved = hand.delaySamples() == null ? 0 : hand.delaySamples() - m.delaySamples();
    double gain = hand.gainDb() == null ? 1 : Math.pow(10, (hand.gainDb() - m.gainDb()) / 20);
    int turned = hand.polarity() == null ? 1 : hand.polarity() * m.polarity();
    TimeSpan excerpt = workspace.comparison().excerpt();
    drawing.request(
        () -> {
          double from = excerpt == null ? 0 : excerpt.from();
          double to = excerpt == null ? Math.min(60, sourceAudio.seconds()) : excerpt.to();
          double attack = Attacks.strongest(sourceAudio, from, to);
          int rate = sourceAudio.sampleRate();
          long first = Math.round((attack - BEFORE) * rate);
          int length = (int) Math.round((BEFORE + AFTER) * rate);
          return new Lines(
              (double) first / rate,
              (double) (first + length) / rate,
              sourceAudio.downmix().samples(0, first, length),
              LinearTimeAudio.map(
                      matched.downmix(),
                      rate,
                      length,
                      (prepared.map().at(attack) - BEFORE) * rate + moved,
                      1)
                  .times(gain * turned)
                  .samples(0, 0, length));
        },
        made -> {
          lines = made;
          repaint();
        });
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setStroke(Ink.rule());
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
    g.setFont(Font.font("Source Sans 3", 13));
    g.setTextAlign(TextAlignment.LEFT);
    if (lines == null) {
      g.setFill(Ink.quiet());
      g.fillText(
          version == null ? "Choose a version to see how it lies on the source." : "Drawing …",
          16,
          height / 2);
      return;
    }
    double ruler = 18;
    double middle = 26 + (height - ruler - 26) / 2;
    double peak = 1e-4;
    for (float x : lines.source()) {
      peak = Math.max(peak, Math.abs(x));
    }
    for (float x : lines.version()) {
      peak = Math.max(peak, Math.abs(x));
    }
    double scale = (height - ruler - 34) / 2 / peak;
    TimeRuler.draw(g, lines.from(), lines.to(), width, height - ruler, ruler);
    g.setStroke(Ink.rule());
    g.strokeLine(0, middle, width, middle);
    line(g, lines.source(), Ink.ink(), 2.4, width, middle, scale);
    line(g, lines.version(), VersionSign.color(index), 1.4, width, middle, scale);
    g.setFill(Ink.ink());
    g.fillText("source", 12, 18);
    g.setFill(VersionSign.color(index).deriveColor(0, 1, 0.8, 1));
    g.fillText(version.label() + ", matched", 64, 18);
  }

  private static void line(
      Pen g,
      float[] samples,
      Color color,
      double thickness,
      double width,
      double middle,
      double scale) {
    g.setStroke(color);
    g.setLineWidth(thickness);
    g.beginPath();
    for (int i = 0; i < samples.length; i++) {
      double x = (i + 0.5) / samples.length * width;
      double y = middle - samples[i] * scale;
      if (i == 0) {
        g.moveTo(x, y);
      } else {
        g.lineTo(x, y);
      }
    }
    g.stroke();
  }
}
