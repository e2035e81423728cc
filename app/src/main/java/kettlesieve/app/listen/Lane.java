package kettlesieve.app.listen;

import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.paint.Color;
import javafx.scene.shape.Line;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Tiles;
import kettlesieve.app.shared.TimeView;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.listen.Band;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.PeakPyramid;

/** One recording: its sign and label on the left, its picture on the right. */
final class Lane extends HBox {
  static final double LABEL_WIDTH = 164;

  /** Room on the right for the figures of the frequency axis. */
  static final double GUTTER = 50;

  private static final int LEAST_LEVEL = -20;
  private static final int COARSE = 3;

  private final Workspace workspace;
  private final TimeView view;
  private final LaneStyle style;
  private final Tiles<LaneTile.Key, LaneTile> tiles;
  private final String versionId;
  private final ToggleButton label;
  private final Picture picture = new Picture();
  private final boolean source;
  private LaneSource shown;
  private String missing = "not ready";

  Lane(
      Workspace workspace,
      TimeView view,
      LaneStyle style,
      Tiles<LaneTile.Key, LaneTile> tiles,
      String versionId,
      String text,
      Node sign) {
    this.workspace = workspace;
    this.view = view;
    this.style = style;
    this.tiles = tiles;
    this.versionId = versionId;
    this.source = versionId.equals(Listening.SOURCE);
    label = new ToggleButton(text, sign);
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

  void show(LaneSource now) {
    LaneSource drawn = now != null && style.ownTime() ? now.inOwnTime() : now;
    if (!java.util.Objects.equals(drawn, shown)) {
      shown = drawn;
      picture.repaint();
    }
  }

  /** Says why there is nothing to draw. */
  void showMissing(String why) {
    missing = why;
    show(null);
  }

  void renew() {
    picture.repaint();
  }

  void follow(double position) {
    picture.follow(style.ownTime() ? ownTime(position) : position);
  }

  private double ownTime(double position) {
    var prepared = workspace.state(versionId).prepared();
    return source || prepared == null ? position : prepared.map().at(position);
  }

  /** A moment of the lane's axis in the source's time. */
  private double sourceTime(double axis) {
    var prepared = workspace.state(versionId).prepared();
    return !style.ownTime() || source || prepared == null ? axis : prepared.map().inverse(axis);
  }

  private final class Picture extends CanvasPane {
    private final Line playhead = new Line();
    private double pressed = Double.NaN;
    private double pressedY;
    private double dragged = Double.NaN;
    private double draggedY;
    private boolean withBand;

    /** The recording whose peaks were asked for. */
    private Audio awaited;

    Picture() {
      setMinWidth(100);
      setMinHeight(40);
      playhead.setStroke(Ink.WARNING);
      playhead.setStrokeWidth(1.5);
      playhead.setManaged(false);
      playhead.setMouseTransparent(true);
      getChildren().add(playhead);
      setOnScroll(this::scrolled);
      setOnMousePressed(
          e -> {
            pressed = e.getX();
            pressedY = e.getY();
            withBand = e.isShiftDown() && style.picture() != LaneStyle.Picture.WAVEFORM;
          });
      setOnMouseDragged(this::dragged);
      setOnMouseReleased(this::released);
    }

    private double plotWidth() {
      return Math.max(1, getWidth() - GUTTER);
    }

    private Audio sourceAudio() {
      return workspace.sourceProperty().get().audio();
    }

    @Override
    protected void paint(GraphicsContext g, double whole, double height) {
      double width = plotWidth();
      g.setFill(Ink.PAPER);
      g.fillRect(0, 0, width, height);
      if (shown == null || workspace.sourceProperty().get() == null) {
        words(g, missing, height);
        return;
      }
      boolean axis = style.picture() != LaneStyle.Picture.WAVEFORM;
      if (style.picture() == LaneStyle.Picture.CHANGE && source) {
        words(g, "The versions below show what they took out (blue) and put in (violet).", height);
      } else {
        paintTiles(g, width, height);
      }
      g.setFill(axis ? Ink.PANEL : Ink.PAPER);
      g.fillRect(width, 0, whole - width, height);
      if (axis) {
        frequencies(g, width, height);
      }
      if (!style.ownTime() || source) {
        paintPlaces(g, width, height);
      }
      if (!Double.isNaN(dragged)) {
        g.setFill(Color.color(0.05, 0.42, 0.42, 0.2));
        double top = withBand ? Math.min(pressedY, draggedY) : 0;
        double depth = withBand ? Math.abs(draggedY - pressedY) : height;
        g.fillRect(Math.min(pressed, dragged), top, Math.abs(dragged - pressed), depth);
      }
    }

    private void words(GraphicsContext g, String text, double height) {
      g.setFill(Ink.QUIET);
      g.setFont(Font.font("Source Sans 3", 13));
      g.setTextAlign(TextAlignment.LEFT);
      g.setTextBaseline(javafx.geometry.VPos.CENTER);
      g.fillText(text, 12, height / 2);
    }

    private void paintTiles(GraphicsContext g, double width, double height) {
      double pixel = view.seconds() / width;
      int level = Math.max(LEAST_LEVEL, (int) Math.floor(Math.log(pixel) / Math.log(2)));
      int rows = height <= 80 ? 80 : height <= 160 ? 160 : 320;
      boolean wave = style.picture() == LaneStyle.Picture.WAVEFORM;
      LaneTile.Key first =
          new LaneTile.Key(
              shown,
              sourceAudio(),
              style.picture(),
              wave ? null : style.scale(),
              wave ? 0 : rows,
              level,
              0);
      double tileSeconds = first.columnSeconds() * LaneTile.COLUMNS;
      long from = (long) Math.floor(view.from() / tileSeconds);
      long to = (long) Math.floor(view.to() / tileSeconds);
      double fullHeight = wave ? fullHeight() : 1;
      boolean rough = false;
      g.save();
      g.beginPath();
      g.rect(0, 0, width, height);
      g.clip();
      // From the middle outwards in reverse, so that the middle is worked out first.
      for (long i = from; i <= to; i++) {
        LaneTile.Key key =
            new LaneTile.Key(
                first.lane(),
                first.source(),
                first.picture(),
                first.scale(),
                first.rows(),
                level,
                i);
        LaneTile tile = tiles.get(key);
        LaneTile.Key drawn = key;
        if (tile == null) {
          // One piece that covers eight is asked for after them, and so comes first.
          tiles.get(key.parent(COARSE));
        }
        for (int up = 1; tile == null && up <= 6; up++) {
          // As long as it is not there, a piece from further out stands in.
          drawn = key.parent(up);
          tile = tiles.peek(drawn);
        }
        if (tile != null) {
          paintTile(g, key, drawn, tile, width, height, fullHeight);
          rough |= tile.rough();
        }
      }
      g.restore();
      if (rough) {
        readPeaks();
      }
    }

    /** The magnitude that fills the lane: the same for all, so that they compare. */
    private double fullHeight() {
      PeakPyramid peaks = Drawing.peaksIfKnown(sourceAudio());
      if (peaks == null) {
        return 1;
      }
      float[] range = peaks.range(0, sourceAudio().frames());
      return Math.max(0.02, 1.15 * Math.max(-range[0], range[1]));
    }

    private void paintTile(
        GraphicsContext g,
        LaneTile.Key key,
        LaneTile.Key drawn,
        LaneTile tile,
        double width,
        double height,
        double fullHeight) {
      double seconds = key.columnSeconds() * LaneTile.COLUMNS;
      double x0 = view.x(key.from(), width);
      double x1 = view.x(key.from() + seconds, width);
      double share = (key.from() - drawn.from()) / (drawn.columnSeconds() * LaneTile.COLUMNS);
      double part = seconds / (drawn.columnSeconds() * LaneTile.COLUMNS);
      if (tile.image() != null) {
        double sx = share * LaneTile.COLUMNS;
        double sw = part * LaneTile.COLUMNS;
        // Whole pixels, or the paper would show between two pieces.
        double left = Math.round(x0);
        double wide = Math.round(x1) - left;
        g.drawImage(tile.image(), sx, 0, sw, tile.image().getHeight(), left, 0, wide, height);
        return;
      }
      double middle = height / 2;
      double scale = height / 2 * 0.95 / fullHeight;
      g.setStroke(Ink.INK);
      g.setFill(Ink.INK);
      g.setLineWidth(1);
      int firstPixel = (int) Math.max(0, Math.round(x0));
      int lastPixel = (int) Math.min(Math.round(width), Math.round(x1));
      double perPixel = part * LaneTile.COLUMNS / (x1 - x0);
      double previousY = Double.NaN;
      for (int x = firstPixel; x < lastPixel; x++) {
        // All columns under a pixel together: lines between pixels would make a comb of it.
        double at = share * LaneTile.COLUMNS + (x - x0) * perPixel;
        int from = (int) Math.max(0, Math.min(LaneTile.COLUMNS - 1, Math.floor(at)));
        int to = (int) Math.max(from + 1, Math.min(LaneTile.COLUMNS, Math.ceil(at + perPixel)));
        float low = tile.low()[from];
        float high = tile.high()[from];
        for (int c = from + 1; c < to; c++) {
          low = Math.min(low, tile.low()[c]);
          high = Math.max(high, tile.high()[c]);
        }
        double top = middle - high * scale;
        double bottom = middle - low * scale;
        g.fillRect(x, top, 1, Math.max(bottom - top, 0.8));
        double centre = (top + bottom) / 2;
        if (!Double.isNaN(previousY) && bottom - top < 1.5) {
          g.strokeLine(x - 0.5, previousY, x + 0.5, centre);
        }
        previousY = centre;
      }
    }

    private void readPeaks() {
      Audio far = shown.far();
      if (far == awaited) {
        return;
      }
      awaited = far;
      Drawing.readPeaks(
          far,
          () -> {
            awaited = null;
            tiles.forget(k -> k.lane().far() == far && k.picture() == LaneStyle.Picture.WAVEFORM);
            repaint();
          });
    }

    private void frequencies(GraphicsContext g, double width, double height) {
      g.setFont(Font.font("Source Sans 3", 11));
      g.setTextAlign(TextAlignment.LEFT);
      g.setTextBaseline(javafx.geometry.VPos.CENTER);
      double last = height + 20;
      for (double hz : new double[] {100, 300, 1000, 3000, 8000}) {
        double y = y(hz, height);
        if (last - y >= 13 && y > 8 && y < height - 6) {
          g.setStroke(Ink.QUIET);
          g.strokeLine(width, y, width + 4, y);
          g.setFill(Ink.QUIET);
          g.fillText(Numbers.hz(hz), width + 7, y);
          last = y;
        }
      }
    }

    private double y(double hz, double height) {
      double top = LaneTile.topHz(sourceAudio());
      return height - style.scale().height(Math.min(hz, top), top) * height;
    }

    private double hz(double y, double height) {
      double share = Math.max(0, Math.min(1, 1 - y / height));
      return style.scale().hz(share, LaneTile.topHz(sourceAudio()));
    }

    private void paintPlaces(GraphicsContext g, double width, double height) {
      if (workspace.comparison().together()) {
        for (Excerpt excerpt : workspace.comparison().excerpts()) {
          span(g, excerpt.span(), width, height);
        }
      } else {
        span(g, workspace.comparison().excerpt(), width, height);
      }
      Band band = workspace.listening().bandProperty().get();
      if (band != null && style.picture() != LaneStyle.Picture.WAVEFORM) {
        g.setFill(Color.color(0.97, 0.96, 0.93, 0.6));
        g.fillRect(0, 0, width, y(band.high(), height));
        double low = y(band.low(), height);
        g.fillRect(0, low, width, height - low);
      }
      for (Mark mark : workspace.comparison().marks()) {
        if (mark.version() == null || mark.version().equals(versionId)) {
          paintMark(g, mark, width, height);
        }
      }
    }

    private void paintMark(GraphicsContext g, Mark mark, double width, double height) {
      Color color = mark.axis() == null ? Ink.WARNING : Ink.of(axis(mark.axis()));
      double x0 = view.x(mark.from(), width);
      double x1 = view.x(mark.to(), width);
      if (x1 < 0 || x0 > width) {
        return;
      }
      boolean framed = style.picture() != LaneStyle.Picture.WAVEFORM && mark.high() != null;
      double top = framed ? y(mark.high(), height) : 0;
      double bottom = framed ? y(mark.low() == null ? 0 : mark.low(), height) : height;
      g.setStroke(color);
      g.setLineWidth(1.6);
      if (x1 - x0 < 3) {
        g.strokeLine(x0, top, x0, bottom);
      } else {
        g.strokeRect(x0, top + 1, x1 - x0, Math.max(4, bottom - top - 2));
      }
      g.setFill(color);
      g.fillPolygon(new double[] {x0 - 5, x0 + 5, x0}, new double[] {0, 0, 8}, 3);
    }

    private static Axis axis(String id) {
      for (Axis axis : Axis.values()) {
        if (axis.id().equals(id)) {
          return axis;
        }
      }
      return Axis.INFO;
    }

    private void span(GraphicsContext g, TimeSpan span, double width, double height) {
      if (span != null) {
        g.setStroke(Ink.ACTION);
        g.setLineWidth(1.5);
        for (double seconds : List.of(span.from(), span.to())) {
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
        draggedY = Math.max(0, Math.min(getHeight(), e.getY()));
        repaint();
      }
    }

    private void released(MouseEvent e) {
      double first = sourceTime(view.time(pressed, plotWidth()));
      double last = sourceTime(view.time(dragged, plotWidth()));
      boolean wasDrag = !Double.isNaN(dragged);
      dragged = Double.NaN;
      repaint();
      if (e.getClickCount() == 2) {
        workspace.listening().spotLoopProperty().set(null);
        workspace.listening().bandProperty().set(null);
      } else if (wasDrag && Math.abs(last - first) > 0.05) {
        if (withBand && Math.abs(draggedY - pressedY) > 6) {
          double low = hz(Math.max(pressedY, draggedY), getHeight());
          double high = hz(Math.min(pressedY, draggedY), getHeight());
          workspace.listening().bandProperty().set(new Band(Math.max(0, low), high));
        }
        double from = Math.max(0, Math.min(first, last));
        workspace.listening().playSpot(versionId, new TimeSpan(from, Math.max(first, last)));
      } else {
        workspace.listening().seek(sourceTime(view.time(e.getX(), plotWidth())));
      }
    }
  }
}
