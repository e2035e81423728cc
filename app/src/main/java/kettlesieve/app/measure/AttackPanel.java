package kettlesieve.app.measure;

import javafx.scene.paint.Color;
import kettlesieve.app.model.OwnTime;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.core.audio.Audio;

/** One attack, zoomed: the source in ink, and over it a version at the place it ought to have. */
final class AttackPanel extends CanvasPane {
  private static final double RULER = 17;

  private final Color color;
  private final Drawing drawing = Drawing.first();
  private float[] source;
  private float[] version;

  /**
   * @param place second of the version at which the attack ought to lie
   */
  AttackPanel(Audio sourceAudio, double attack, Audio versionAudio, double place, Color color) {
    this.color = color;
    setMinHeight(96);
    setPrefHeight(178);
    setMinWidth(180);
    setAccessibleText("Source and version over each other at an attack");
    drawing.request(
        () -> new float[][] {around(sourceAudio, attack), around(versionAudio, place)},
        made -> {
          source = made[0];
          version = made[1];
          repaint();
        });
  }

  private static float[] around(Audio audio, double seconds) {
    int rate = audio.sampleRate();
    long first = Math.round((seconds - OwnTime.BEFORE) * rate);
    return audio
        .downmix()
        .samples(0, first, (int) Math.round((OwnTime.BEFORE + OwnTime.AFTER) * rate));
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    if (source == null) {
      return;
    }
    double bottom = height - RULER;
    double peak = Math.max(peak(source), peak(version));
    double zero = OwnTime.BEFORE / (OwnTime.BEFORE + OwnTime.AFTER) * width;
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeLine(zero, 0, zero, bottom);
    wave(g, source, Ink.ink().deriveColor(0, 1, 1, 0.45), width, bottom, peak);
    wave(g, version, color, width, bottom, peak);
    TimeRuler.draw(g, -OwnTime.BEFORE, OwnTime.AFTER, width, bottom, RULER);
    g.setStroke(Ink.rule());
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
  }

  private static double peak(float[] x) {
    double peak = 1e-4;
    for (float v : x) {
      peak = Math.max(peak, Math.abs(v));
    }
    return peak;
  }

  private static void wave(
      Pen g, float[] x, Color color, double width, double bottom, double peak) {
    g.setStroke(color);
    g.setLineWidth(1.1);
    double scale = bottom / 2 * 0.95 / peak;
    double middle = bottom / 2;
    g.beginPath();
    for (int pixel = 0; pixel < width; pixel++) {
      int from = (int) (pixel / width * x.length);
      int to = Math.max(from + 1, (int) ((pixel + 1) / width * x.length));
      float low = x[from];
      float high = x[from];
      for (int i = from; i < Math.min(to, x.length); i++) {
        low = Math.min(low, x[i]);
        high = Math.max(high, x[i]);
      }
      if (pixel == 0) {
        g.moveTo(0.5, middle - high * scale);
      }
      g.lineTo(pixel + 0.5, middle - high * scale);
      g.lineTo(pixel + 0.5, middle - low * scale);
    }
    g.stroke();
  }
}
