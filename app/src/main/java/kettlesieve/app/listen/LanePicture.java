package kettlesieve.app.listen;

import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.DoubleUnaryOperator;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.shape.Line;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.LostPassages;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Hatching;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.Tiles;
import kettlesieve.app.shared.TimeView;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.listen.Band;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.picture.PeakPyramid;
import kettlesieve.core.picture.SpectrumColumns;
import kettlesieve.core.signal.Db;

/** The picture of a lane, with what a hand does on it. */
final class LanePicture extends CanvasPane {
  private static final int LEAST_LEVEL = -20;
  private static final int COARSE = 3;

  private final Workspace workspace;
  private final TimeView view;
  private final LaneStyle style;
  private final Tiles<LaneTile.Key, LaneTile> tiles;
  private final String versionId;
  private final boolean source;
  private final DoubleUnaryOperator times;
  private final Consumer<String> readOut;
  private LaneSource shown;
  private String missing = "not ready";
  private final Line playhead = new Line();
  private double pressed = Double.NaN;
  private double pressedY;
  private double dragged = Double.NaN;
  private double draggedY;
  private boolean withBand;

  /** The recording whose peaks were asked for. */
  private Audio awaited;

  /**
   * @param readOut told what lies under the pointer, in words; empty for nothing
   * @param times turn the axis of the lane into the source's time
   */
  LanePicture(
      Workspace workspace,
      TimeView view,
      LaneStyle style,
      Tiles<LaneTile.Key, LaneTile> tiles,
      String versionId,
      DoubleUnaryOperator times,
      Consumer<String> readOut) {
    this.readOut = readOut;
    this.workspace = workspace;
    this.view = view;
    this.style = style;
    this.tiles = tiles;
    this.versionId = versionId;
    this.source = versionId.equals(Listening.SOURCE);
    this.times = times;
    setMinWidth(100);
    setMinHeight(40);
    playhead.strokeProperty().bind(Ink.bound(Ink::warning));
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
    setOnMouseMoved(e -> readOut.accept(words(e)));
    setOnMouseExited(e -> readOut.accept(""));
    setOnMouseDragged(this::dragged);
    setOnMouseReleased(this::released);
  }

  private double plotWidth() {
    return Math.max(1, getWidth() - Lane.GUTTER);
  }

  private Audio sourceAudio() {
    return workspace.sourceProperty().get().audio();
  }

  @Override
  protected void paint(Pen g, double whole, double height) {
    double width = plotWidth();
    g.setFill(Ink.paper());
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
    g.setFill(axis ? Ink.panel() : Ink.paper());
    g.fillRect(width, 0, whole - width, height);
    if (axis) {
      frequencies(g, width, height);
    }
    lost(g, width, height);
    if (style.ties() && !source) {
      workspace
          .ownTime()
          .times(versionId)
          .ifPresent(t -> TiePainter.paint(g, view, t, style.ownTime(), shownMap(), width, height));
    }
    if (style.left() && !source) {
      words(g, workspace.stems().leftWords(versionId), 26);
    }
    if (!style.ownTime() || source) {
      new PlacesPainter(workspace, view, style, versionId).paint(g, width, height, this::y);
    }
    if (!Double.isNaN(dragged)) {
      g.setFill(Ink.veil(Ink.action(), 0.2));
      double top = withBand ? Math.min(pressedY, draggedY) : 0;
      double depth = withBand ? Math.abs(draggedY - pressedY) : height;
      g.fillRect(Math.min(pressed, dragged), top, Math.abs(dragged - pressed), depth);
    }
  }

  private DoubleUnaryOperator shownMap() {
    return workspace.state(versionId).prepared().map()::inverse;
  }

  /** Of one stem heard alone: where its role is missing. */
  private void lost(Pen g, double width, double height) {
    Set<String> roles = workspace.listening().rolesProperty().get();
    if (source || style.left() || roles.size() != 1) {
      return;
    }
    String role = roles.iterator().next();
    for (TimeSpan span : LostPassages.of(workspace.sheetProperty().get(), role, versionId)) {
      double x = view.x(span.from(), width);
      double to = view.x(span.to(), width);
      if (to > 0 && x < width) {
        Hatching.draw(g, x, Math.max(3, to - x), height, Ink.of(Axis.LOST));
      }
    }
  }

  private void words(Pen g, String text, double height) {
    g.setFill(Ink.quiet());
    g.setFont(Font.font("Source Sans 3", 13));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(javafx.geometry.VPos.CENTER);
    g.fillText(text, 12, height / 2);
  }

  private void paintTiles(Pen g, double width, double height) {
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
            wave ? null : new LaneTile.Shades(Ink.look(), style.window(), style.rangeDb()),
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
              first.shades(),
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
        LanePainter.tile(g, view, key, drawn, tile, width, height, fullHeight);
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

  private void frequencies(Pen g, double width, double height) {
    g.setFont(Font.font("Source Sans 3", 11));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(javafx.geometry.VPos.CENTER);
    double last = height + 20;
    for (double hz : new double[] {100, 300, 1000, 3000, 8000}) {
      double y = y(hz, height);
      if (last - y >= 13 && y > 8 && y < height - 6) {
        g.setStroke(Ink.quiet());
        g.strokeLine(width, y, width + 4, y);
        g.setFill(Ink.quiet());
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

  /** Time, frequency and the level there, in the source and in what is drawn. */
  private String words(MouseEvent e) {
    if (shown == null || workspace.sourceProperty().get() == null || e.getX() > plotWidth()) {
      return "";
    }
    double axis = view.time(e.getX(), plotWidth());
    double at = times.applyAsDouble(axis);
    String time = workspace.clock().text(at);
    if (style.picture() == LaneStyle.Picture.WAVEFORM) {
      return time;
    }
    double hz = hz(e.getY(), getHeight());
    double inSource = SpectrumColumns.level(sourceAudio(), at, hz, style.window());
    String words =
        time + "   " + Numbers.hz(hz) + "   source " + Numbers.fixed(inSource, 0) + " dB";
    if (source) {
      return words;
    }
    double own =
        SpectrumColumns.level(shown.far(), shown.farMap().at(axis), hz, style.window())
            + Db.ofAmplitude(Math.abs(shown.factor()));
    return words
        + ", here "
        + Numbers.fixed(own, 0)
        + " dB ("
        + Numbers.signed(own - inSource, 0)
        + ")";
  }

  private void dragged(MouseEvent e) {
    if (Math.abs(e.getX() - pressed) > 4 || !Double.isNaN(dragged)) {
      dragged = Math.max(0, Math.min(plotWidth(), e.getX()));
      draggedY = Math.max(0, Math.min(getHeight(), e.getY()));
      repaint();
    }
  }

  private void released(MouseEvent e) {
    double first = times.applyAsDouble(view.time(pressed, plotWidth()));
    double last = times.applyAsDouble(view.time(dragged, plotWidth()));
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
      workspace.listening().seek(times.applyAsDouble(view.time(e.getX(), plotWidth())));
    }
  }

  /** Draws another recording; null for none. */
  void show(LaneSource drawn) {
    if (!Objects.equals(drawn, shown)) {
      shown = drawn;
      repaint();
    }
  }

  /** Says why there is nothing to draw. */
  void showMissing(String why) {
    missing = why;
    show(null);
  }
}
