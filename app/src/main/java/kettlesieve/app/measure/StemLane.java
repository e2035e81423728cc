package kettlesieve.app.measure;

import java.util.List;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Hatching;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeView;
import kettlesieve.app.shared.WavePicture;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.picture.PeakPyramid;

/** The waveform of one stem, hatched where its role is missing; a click plays it from there. */
final class StemLane extends CanvasPane {
  private final Audio audio;
  private final List<TimeSpan> lost;
  private final double fullHeight;
  private final TimeView view = new TimeView();
  private final Drawing drawing = new Drawing();
  private WavePicture picture;
  private int pictureWidth;

  /** Told at which second of the source it was clicked. */
  interface Clicked {
    void at(double seconds);
  }

  /**
   * @param audio the stem on the source's time; null if it is not ready
   * @param fullHeight the magnitude that fills the lane
   */
  StemLane(Audio audio, double seconds, List<TimeSpan> lost, double fullHeight, Clicked clicked) {
    this.audio = audio;
    this.lost = lost;
    this.fullHeight = fullHeight;
    view.setTotal(seconds);
    setMinHeight(44);
    setPrefHeight(66);
    setMinWidth(120);
    setOnMouseClicked(e -> clicked.at(view.time(e.getX(), Math.max(1, getWidth()))));
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.paper());
    g.fillRect(0, 0, width, height);
    if (audio == null) {
      g.setFill(Ink.quiet());
      g.setFont(Font.font("Source Sans 3", 13));
      g.setTextAlign(TextAlignment.LEFT);
      g.fillText("not ready", 12, height / 2 + 4);
      return;
    }
    if (picture == null || pictureWidth != (int) width) {
      request((int) width);
    }
    if (picture != null) {
      picture.draw(g, view, width, height / 2, height / 2 * 0.95 / fullHeight, Ink.ink());
    }
    for (TimeSpan span : lost) {
      double x = view.x(span.from(), width);
      Hatching.draw(g, x, Math.max(3, view.x(span.to(), width) - x), height, Ink.of(Axis.LOST));
    }
  }

  private void request(int width) {
    drawing.request(
        () -> {
          PeakPyramid peaks = Drawing.peaks(audio);
          return WavePicture.of(peaks, audio.sampleRate(), 0, view.total(), width);
        },
        made -> {
          picture = made;
          pictureWidth = width;
          repaint();
        });
  }
}
