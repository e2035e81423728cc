package kettlesieve.app.measure;

import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.picture.ChangeColumns;
import kettlesieve.core.picture.FrequencyScale;
import kettlesieve.core.score.Entry;

/** The change map around a spot: what the version took out and put in there. */
final class SpotMap extends CanvasPane {
  private static final double AROUND = 0.6;
  private static final double HEAD = 20;
  private static final double FOOT = 18;
  private static final double TOP_HZ = 16_000;

  private final Workspace workspace;
  private final Drawing drawing = Drawing.first();
  private Entry entry;
  private Spot spot;
  private WritableImage image;

  SpotMap(Workspace workspace) {
    this.workspace = workspace;
    setId("spot-map");
    setAccessibleText("Change map around the spot: blue was taken out, violet was put in");
    widthProperty().addListener((o, was, is) -> renew());
    heightProperty().addListener((o, was, is) -> renew());
  }

  /** Shows a spot of a version; null for none. */
  void show(Entry shown, Spot place) {
    entry = shown;
    spot = place;
    renew();
  }

  private double from() {
    return Math.max(0, (spot.from() + spot.to()) / 2 - AROUND);
  }

  private void renew() {
    image = null;
    repaint();
    var source = workspace.sourceProperty().get();
    int width = (int) getWidth() - 2;
    int height = (int) (getHeight() - HEAD - FOOT);
    if (entry == null || spot == null || source == null || width < 20 || height < 20) {
      return;
    }
    Prepared prepared = workspace.state(entry.version().id()).prepared();
    if (prepared == null) {
      return;
    }
    double start = from();
    Audio audio = source.audio();
    int columns = width / 2;
    int rows = height / 2;
    Ink.Look look = Ink.look();
    drawing.request(
        () -> {
          double[] seconds = new double[columns];
          for (int c = 0; c < columns; c++) {
            seconds[c] = start + (c + 0.5) * 2 * AROUND / columns;
          }
          return picture(
              look,
              ChangeColumns.gains(
                  audio,
                  prepared.matched(),
                  prepared.map(),
                  seconds,
                  0,
                  rows,
                  FrequencyScale.MEL,
                  top(audio)));
        },
        made -> {
          image = made;
          repaint();
        });
  }

  private static double top(Audio audio) {
    return Math.min(TOP_HZ, audio.sampleRate() / 2.0);
  }

  @Override
  protected void lookChanged() {
    renew();
  }

  private static WritableImage picture(Ink.Look look, float[][] gains) {
    int columns = gains.length;
    int rows = gains[0].length;
    int[] pixels = new int[columns * rows];
    for (int c = 0; c < columns; c++) {
      for (int r = 0; r < rows; r++) {
        pixels[(rows - 1 - r) * columns + c] = look.change(gains[c][r]);
      }
    }
    WritableImage made = new WritableImage(columns, rows);
    made.getPixelWriter()
        .setPixels(0, 0, columns, rows, PixelFormat.getIntArgbInstance(), pixels, 0, columns);
    return made;
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    g.setFont(Font.font("Source Sans 3", 12));
    g.setTextAlign(TextAlignment.LEFT);
    g.setFill(Ink.quiet());
    if (spot == null) {
      g.fillText("No spot to draw.", 10, height / 2);
    } else {
      g.fillText(
          image == null ? "The change there is being drawn …" : "Change there: blue out, violet in",
          8,
          14);
    }
    if (image != null && spot != null) {
      double bottom = height - FOOT;
      g.drawImage(image, 1, HEAD, width - 2, bottom - HEAD);
      mark(g, width, bottom);
      g.setFill(Ink.quiet());
      g.setTextAlign(TextAlignment.LEFT);
      g.fillText(workspace.clock().text(from()), 6, height - 5);
      g.setTextAlign(TextAlignment.RIGHT);
      g.fillText(workspace.clock().text(from() + 2 * AROUND), width - 6, height - 5);
    }
    g.setStroke(Ink.rule());
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, width - 1, height - 1);
  }

  private void mark(Pen g, double width, double bottom) {
    double top = top(workspace.sourceProperty().get().audio());
    double x0 = x(spot.from(), width);
    double x1 = x(spot.to(), width);
    double y0 = y(Math.min(top, spot.high()), top, bottom);
    double y1 = y(Math.max(20, spot.low()), top, bottom);
    g.setStroke(Ink.ink());
    g.setLineWidth(1.4);
    g.strokeRect(x0, y0, Math.max(4, x1 - x0), Math.max(4, y1 - y0));
  }

  private double x(double seconds, double width) {
    return 1 + (seconds - from()) / (2 * AROUND) * (width - 2);
  }

  private static double y(double hz, double top, double bottom) {
    double share = FrequencyScale.MEL.height(hz, top);
    return HEAD + (1 - share) * (bottom - HEAD);
  }
}
