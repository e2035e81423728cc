package kettlesieve.app.listen;

import javafx.geometry.Pos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ToggleButton;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.paint.Color;
import javafx.scene.shape.Line;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.TimeView;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.app.shared.WavePicture;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.FrequencyScale;
import kettlesieve.core.signal.SpectrumColumns;

/** One recording: its sign and label on the left, its picture on the right. */
final class Lane extends HBox {
  static final double LABEL_WIDTH = 164;

  /** Room on the right for the figures of the frequency axis. */
  static final double GUTTER = 50;

  private static final double TOP_HZ = 16_000;
  private static final float LOUDEST_DB = -22;
  private static final float RANGE_DB = 70;

  private final Workspace workspace;
  private final TimeView view;
  private final LaneStyle style;
  private final String versionId;
  private final ToggleButton label;
  private final Picture picture = new Picture();
  private Audio audio;

  Lane(
      Workspace workspace,
      TimeView view,
      LaneStyle style,
      String versionId,
      String text,
      int index) {
    this.workspace = workspace;
    this.view = view;
    this.style = style;
    this.versionId = versionId;
    label =
        new ToggleButton(text, index < 0 ? VersionSign.ofSource(18) : VersionSign.of(index, 18));
    label.getStyleClass().setAll("toggle-button", "pick-row");
    label.setWrapText(true);
    label.setMinWidth(LABEL_WIDTH);
    label.setMaxWidth(LABEL_WIDTH);
    label.setMaxHeight(Double.MAX_VALUE);
    label.setAlignment(Pos.CENTER_LEFT);
    label.setAccessibleText("Listen to " + text);
    label.setOnAction(
        e -> {
          label.setSelected(true);
          workspace.listening().choose(versionId);
        });
    HBox.setHgrow(picture, Priority.ALWAYS);
    getStyleClass().add("row-line");
    getChildren().addAll(label, picture);
  }

  String versionId() {
    return versionId;
  }

  void setChosen(boolean chosen) {
    label.setSelected(chosen);
    label.setStyle(chosen ? "-fx-font-family: 'Source Sans 3 SemiBold';" : "");
  }

  void setAudio(Audio now) {
    if (now != audio) {
      audio = now;
      picture.clear();
      renew();
    }
  }

  void renew() {
    picture.renew();
  }

  void follow(double position) {
    picture.follow(position);
  }

  /** A waveform, and the magnitude that fills the lane: the same for all, so that they compare. */
  private record Wave(WavePicture picture, double fullHeight) {}

  private static double peak(Audio source) {
    float[] range = Drawing.peaks(source).range(0, source.frames());
    return Math.max(0.02, 1.15 * Math.max(-range[0], range[1]));
  }

  /** A spectrogram for a stretch of time. */
  private record Shades(double from, double to, WritableImage image) {}

  private final class Picture extends CanvasPane {
    private final Drawing drawing = new Drawing();
    private final Line playhead = new Line();
    private Wave wave;
    private Shades shades;
    private double pressed = Double.NaN;
    private double dragged = Double.NaN;

    Picture() {
      setMinWidth(100);
      setMinHeight(40);
      playhead.setStroke(Ink.WARNING);
      playhead.setStrokeWidth(1.5);
      playhead.setManaged(false);
      playhead.setMouseTransparent(true);
      getChildren().add(playhead);
      widthProperty().addListener((o, was, is) -> renew());
      heightProperty().addListener((o, was, is) -> renew());
      setOnScroll(this::scrolled);
      setOnMousePressed(e -> pressed = e.getX());
      setOnMouseDragged(this::dragged);
      setOnMouseReleased(this::released);
    }

    void clear() {
      wave = null;
      shades = null;
    }

    private double plotWidth() {
      return Math.max(1, getWidth() - GUTTER);
    }

    void renew() {
      int width = (int) plotWidth();
      int height = (int) getHeight();
      repaint();
      if (audio == null || width < 20 || height < 10) {
        return;
      }
      Audio shownAudio = audio;
      Audio source = workspace.sourceProperty().get().audio();
      double from = view.from();
      double to = view.to();
      if (style.picture() == LaneStyle.Picture.WAVEFORM) {
        drawing.request(
            () ->
                new Wave(
                    WavePicture.of(
                        Drawing.peaks(shownAudio), shownAudio.sampleRate(), from, to, width),
                    peak(source)),
            made -> {
              wave = made;
              repaint();
            });
      } else {
        FrequencyScale scale = style.scale();
        drawing.request(
            () -> shades(shownAudio, from, to, width, height, scale),
            made -> {
              shades = made;
              repaint();
            });
      }
    }

    private static double topHz(Audio a) {
      return Math.min(TOP_HZ, a.sampleRate() / 2.0);
    }

    private static Shades shades(
        Audio a, double from, double to, int width, int height, FrequencyScale scale) {
      float[][] levels =
          SpectrumColumns.levels(a, from, (to - from) / width, width, height, scale, topHz(a));
      int[] pixels = new int[width * height];
      for (int x = 0; x < width; x++) {
        for (int y = 0; y < height; y++) {
          float share = (levels[x][height - 1 - y] - LOUDEST_DB + RANGE_DB) / RANGE_DB;
          pixels[y * width + x] = Ink.shade(share);
        }
      }
      WritableImage image = new WritableImage(width, height);
      image
          .getPixelWriter()
          .setPixels(0, 0, width, height, PixelFormat.getIntArgbInstance(), pixels, 0, width);
      return new Shades(from, to, image);
    }

    @Override
    protected void paint(GraphicsContext g, double whole, double height) {
      double width = plotWidth();
      g.setFill(Ink.PAPER);
      g.fillRect(0, 0, width, height);
      if (audio == null) {
        g.setFill(Ink.QUIET);
        g.setFont(Font.font("Source Sans 3", 13));
        g.fillText("not ready", 12, height / 2 + 4);
        return;
      }
      if (style.picture() == LaneStyle.Picture.WAVEFORM) {
        if (wave != null) {
          double scale = height / 2 * 0.95 / wave.fullHeight();
          wave.picture().draw(g, view, width, height / 2, scale, Ink.INK);
        }
      } else if (shades != null) {
        double x0 = view.x(shades.from(), width);
        double x1 = view.x(shades.to(), width);
        g.drawImage(shades.image(), x0, 0, x1 - x0, height);
      }
      boolean axis = style.picture() == LaneStyle.Picture.SPECTROGRAM;
      g.setFill(axis ? Ink.PANEL : Ink.PAPER);
      g.fillRect(width, 0, whole - width, height);
      if (axis) {
        frequencies(g, width, height);
      }
      span(g, workspace.comparison().excerpt(), width, height, Ink.ACTION);
      if (!Double.isNaN(dragged)) {
        g.setFill(Color.color(0.05, 0.42, 0.42, 0.2));
        g.fillRect(Math.min(pressed, dragged), 0, Math.abs(dragged - pressed), height);
      }
    }

    private void frequencies(GraphicsContext g, double width, double height) {
      g.setFont(Font.font("Source Sans 3", 11));
      g.setTextAlign(TextAlignment.LEFT);
      g.setTextBaseline(javafx.geometry.VPos.CENTER);
      double last = height + 20;
      for (double hz : new double[] {100, 300, 1000, 3000, 8000}) {
        double y = height - style.scale().height(hz, topHz(audio)) * height;
        if (last - y >= 13 && y > 8 && y < height - 6) {
          g.setStroke(Ink.QUIET);
          g.strokeLine(width, y, width + 4, y);
          g.setFill(Ink.QUIET);
          g.fillText(Numbers.hz(hz), width + 7, y);
          last = y;
        }
      }
    }

    private void span(GraphicsContext g, TimeSpan span, double width, double height, Color color) {
      if (span != null) {
        g.setStroke(color);
        g.setLineWidth(1.5);
        for (double seconds : new double[] {span.from(), span.to()}) {
          double x = view.x(seconds, width);
          g.strokeLine(x, 0, x, height);
        }
      }
    }

    void follow(double position) {
      double x = view.x(position, plotWidth());
      playhead.setVisible(x >= 0 && x <= plotWidth());
      playhead.setStartX(x);
      playhead.setEndX(x);
      playhead.setStartY(0);
      playhead.setEndY(getHeight());
    }

    private void scrolled(ScrollEvent e) {
      if (e.isShortcutDown()) {
        view.zoom(e.getDeltaY() > 0 ? 0.8 : 1.25, view.time(e.getX(), plotWidth()));
        e.consume();
      } else if (e.isShiftDown() || e.getDeltaX() != 0) {
        double delta = e.getDeltaX() != 0 ? e.getDeltaX() : e.getDeltaY();
        view.scroll(-delta / plotWidth());
        e.consume();
      }
    }

    private void dragged(MouseEvent e) {
      if (Math.abs(e.getX() - pressed) > 4 || !Double.isNaN(dragged)) {
        dragged = Math.max(0, Math.min(plotWidth(), e.getX()));
        repaint();
      }
    }

    private void released(MouseEvent e) {
      double first = view.time(pressed, plotWidth());
      double last = view.time(dragged, plotWidth());
      boolean wasDrag = !Double.isNaN(dragged);
      dragged = Double.NaN;
      repaint();
      if (e.getClickCount() == 2) {
        workspace.listening().spotLoopProperty().set(null);
      } else if (wasDrag && Math.abs(last - first) > 0.05) {
        workspace
            .listening()
            .playSpot(versionId, new TimeSpan(Math.min(first, last), Math.max(first, last)));
      } else {
        workspace.listening().seek(view.time(e.getX(), plotWidth()));
      }
    }
  }
}
