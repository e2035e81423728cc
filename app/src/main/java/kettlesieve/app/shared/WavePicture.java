package kettlesieve.app.shared;

import javafx.scene.paint.Color;
import kettlesieve.core.picture.PeakPyramid;

/**
 * A waveform ready to be drawn: smallest and largest sample under each pixel.
 *
 * @param from first second
 * @param to last second
 * @param low by pixel
 * @param high by pixel
 */
public record WavePicture(double from, double to, float[] low, float[] high) {

  /** Looks the peaks up for a stretch of time and a width. */
  public static WavePicture of(
      PeakPyramid peaks, int sampleRate, double from, double to, int width) {
    float[] low = new float[width];
    float[] high = new float[width];
    double step = (to - from) / width * sampleRate;
    for (int x = 0; x < width; x++) {
      float[] range = peaks.range(from * sampleRate + x * step, from * sampleRate + (x + 1) * step);
      low[x] = range[0];
      high[x] = range[1];
    }
    return new WavePicture(from, to, low, high);
  }

  /**
   * Draws it where its time lies in view.
   *
   * @param scale pixels from the middle line to full scale
   */
  public void draw(Pen g, TimeView view, double width, double middle, double scale, Color color) {
    g.setStroke(color);
    g.setLineWidth(1);
    double previousY = Double.NaN;
    double previousX = 0;
    for (int i = 0; i < low.length; i++) {
      double time = from + (i + 0.5) * (to - from) / low.length;
      double x = view.x(time, width);
      if (x < -2 || x > width + 2) {
        continue;
      }
      double top = middle - clip(high[i]) * scale;
      double bottom = middle - clip(low[i]) * scale;
      g.strokeLine(x, top, x, Math.max(bottom, top + 0.7));
      double centre = (top + bottom) / 2;
      if (!Double.isNaN(previousY) && bottom - top < 1.5) {
        g.strokeLine(previousX, previousY, x, centre);
      }
      previousX = x;
      previousY = centre;
    }
  }

  private static double clip(double sample) {
    return Math.max(-1, Math.min(1, sample));
  }

  /** The largest magnitude in the picture. */
  public double peak() {
    double peak = 0;
    for (int i = 0; i < low.length; i++) {
      peak = Math.max(peak, Math.max(-low[i], high[i]));
    }
    return peak;
  }
}
