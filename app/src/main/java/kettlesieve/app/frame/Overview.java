package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.Cursor;
import javafx.scene.control.MenuItem;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.shape.Line;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.FilePlaces;
import kettlesieve.app.model.PauseMarks;
import kettlesieve.app.model.PauseWords;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.TimeRuler;
import kettlesieve.app.shared.TimeView;
import kettlesieve.app.shared.WavePicture;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.ScoreSheet;

/**
 * The source's whole length: waveform, pauses (hatched), the excerpt, and the spots of the selected
 * reading as ticks in the colour of their axis. Drag to choose the excerpt, drag with Shift to mark
 * a pause and with Shift and Control to mark wanted sound, click to go somewhere, double-click for
 * the whole again.
 */
final class Overview extends CanvasPane {
  private static final double RULER = 16;
  private static final double SHORTEST_PAUSE = 0.1;

  private final Workspace workspace;
  private final TimeView view = new TimeView();
  private final Drawing drawing = new Drawing();
  private final Line playhead = new Line();
  private WavePicture picture;
  private double pressed = Double.NaN;
  private double dragged = Double.NaN;
  private boolean markingPause;
  private boolean markingSound;

  Overview(Workspace workspace) {
    this.workspace = workspace;
    getStyleClass().add("overview");
    setPrefHeight(92);
    setMinHeight(92);
    setCursor(Cursor.CROSSHAIR);
    setAccessibleText(
        "Overview of the source: drag to choose what is heard and measured, with Shift to mark a"
            + " pause");
    playhead.strokeProperty().bind(Ink.bound(Ink::warning));
    playhead.setStrokeWidth(1.5);
    playhead.setManaged(false);
    playhead.setMouseTransparent(true);
    getChildren().add(playhead);
    workspace
        .sourceProperty()
        .addListener(
            (o, was, is) -> {
              if (seconds() > 0) {
                view.setTotal(seconds());
              }
              renew();
            });
    view.fromProperty().addListener((o, was, is) -> renew());
    view.toProperty().addListener((o, was, is) -> renew());
    workspace.sourceProblemProperty().addListener((o, was, is) -> repaint());
    workspace.preparedExcerptProperty().addListener((o, was, is) -> repaint());
    workspace.comparisonProperty().addListener((o, was, is) -> repaint());
    workspace.sheetProperty().addListener((o, was, is) -> repaint());
    workspace.selection().measureProperty().addListener((o, was, is) -> repaint());
    workspace.selection().versionProperty().addListener((o, was, is) -> repaint());
    workspace.selection().spotProperty().addListener((o, was, is) -> repaint());
    widthProperty().addListener((o, was, is) -> renew());
    setOnScroll(this::scrolled);
    setOnMousePressed(this::press);
    setOnMouseDragged(this::drag);
    setOnMouseReleased(this::release);
  }

  private void renew() {
    var source = workspace.sourceProperty().get();
    int width = (int) getWidth();
    if (source == null || width < 10) {
      picture = null;
      repaint();
      return;
    }
    Audio audio = source.audio();
    if (Drawing.peaksIfKnown(audio) == null) {
      // Read on a thread of its own: the lanes need theirs.
      Drawing.readPeaks(audio, this::renew);
    }
    double from = view.from();
    double to = view.to();
    drawing.request(
        () ->
            Drawing.peaksIfKnown(audio) == null
                ? null
                : WavePicture.of(Drawing.peaks(audio), audio.sampleRate(), from, to, width),
        made -> {
          picture = made;
          repaint();
        });
  }

  private void scrolled(ScrollEvent e) {
    if (e.isShortcutDown()) {
      view.zoom(e.getDeltaY() > 0 ? 0.8 : 1.25, view.time(e.getX(), getWidth()));
      e.consume();
    } else if (e.isShiftDown() || e.getDeltaX() != 0) {
      view.scroll(-(e.getDeltaX() != 0 ? e.getDeltaX() : e.getDeltaY()) / getWidth());
      e.consume();
    }
  }

  /** From the whole to the excerpt with a little around it, or to the playhead; and back. */
  void zoom() {
    boolean whole = view.seconds() >= view.total() - 1e-6;
    TimeSpan excerpt = workspace.comparison().excerpt();
    if (!whole) {
      view.show(0, view.total());
    } else if (excerpt != null) {
      double around = 0.1 * excerpt.seconds();
      view.show(excerpt.from() - around, excerpt.to() + around);
    } else {
      double at = workspace.listening().positionSeconds();
      view.show(at - view.total() / 16, at + view.total() / 16);
    }
  }

  /** What stretch of the source is drawn. */
  TimeView view() {
    return view;
  }

  /** Named places that stand in the source's file. */
  private void paintMarkers(Pen g, double width, double bottom) {
    g.setFont(Font.font("Source Sans 3", 11.5));
    g.setTextAlign(TextAlignment.LEFT);
    double free = Double.NEGATIVE_INFINITY;
    for (FilePlaces.Place place : FilePlaces.of(workspace.sourceProperty().get())) {
      double x = view.x(place.seconds(), width);
      if (x < 0 || x > width) {
        continue;
      }
      g.setStroke(Ink.quiet());
      g.setLineWidth(1);
      g.strokeLine(x, bottom - 14, x, bottom);
      g.setFill(Ink.quiet());
      g.fillPolygon(
          new double[] {x, x + 6, x}, new double[] {bottom - 14, bottom - 11, bottom - 8}, 3);
      if (x > free) {
        g.fillText(place.name(), x + 8, bottom - 5);
        Text text = new Text(place.name());
        text.setFont(g.getFont());
        free = x + 14 + text.getLayoutBounds().getWidth();
      }
    }
  }

  private double seconds() {
    var source = workspace.sourceProperty().get();
    return source == null ? 0 : source.audio().seconds();
  }

  void follow(double position) {
    boolean shown = seconds() > 0;
    playhead.setVisible(shown && position >= view.from() && position <= view.to());
    if (shown) {
      double x = view.x(position, getWidth());
      playhead.setStartX(x);
      playhead.setEndX(x);
      playhead.setStartY(0);
      playhead.setEndY(getHeight() - RULER);
    }
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    if (seconds() <= 0 || picture == null) {
      g.setFill(Ink.quiet());
      g.setFont(Font.font("Source Sans 3", 14));
      g.fillText(emptyWords(), 18, height / 2 + 4);
      return;
    }
    double bottom = height - RULER;
    paintPauses(g, width, bottom);
    double peak = Math.max(0.05, picture.peak());
    picture.draw(g, view, width, bottom / 2, bottom / 2 * 0.94 / peak, Ink.ink());
    paintExcerpt(g, width, bottom);
    paintSpots(g, width, bottom);
    PauseWords.of(workspace.comparison(), workspace.preparedExcerptProperty().get())
        .ifPresent(words -> paintWords(g, words, width));
    paintMarkers(g, width, bottom);
    TimeRuler.draw(g, workspace.clock(), view.from(), view.to(), width, bottom, RULER);
  }

  private String emptyWords() {
    if (workspace.comparison().source() == null) {
      return "The source will be drawn here, whole, in every step.";
    }
    return workspace.sourceProblemProperty().get() != null
        ? "The source cannot be used; Gather says why."
        : "Reading the source …";
  }

  private void paintPauses(Pen g, double width, double bottom) {
    var preparedExcerpt = workspace.preparedExcerptProperty().get();
    if (preparedExcerpt == null) {
      return;
    }
    boolean byHand = workspace.comparison().pauses() != null;
    g.setStroke(byHand ? Ink.faint() : Ink.rule());
    g.setLineWidth(1);
    for (TimeSpan pause : pauses()) {
      double x0 = view.x(pause.from(), width);
      double x1 = view.x(pause.to(), width);
      if (byHand) {
        g.strokeLine(x0, 0, x0, bottom);
        g.strokeLine(x1, 0, x1, bottom);
      }
      g.save();
      g.beginPath();
      g.rect(x0, 0, x1 - x0, bottom);
      g.clip();
      for (double x = x0 - bottom; x < x1; x += 6) {
        g.strokeLine(x, bottom, x + bottom, 0);
      }
      g.restore();
    }
  }

  /** How much of the hatched there is, on paper of its own so that it can be read. */
  private static void paintWords(Pen g, PauseWords words, double width) {
    Text text = new Text(words.text());
    Font font = Font.font(words.warning() ? "Source Sans 3 SemiBold" : "Source Sans 3", 12.5);
    text.setFont(font);
    double wide = Math.min(text.getLayoutBounds().getWidth(), width - 20);
    g.setFill(Ink.veil(Ink.paper(), 0.88));
    g.fillRoundRect(width - wide - 16, 3, wide + 12, 18, 5, 5);
    g.setFill(words.warning() ? Ink.warning() : Ink.quiet());
    g.setFont(font);
    g.fillText(words.text(), width - wide - 10, 16, wide);
  }

  private void paintExcerpt(Pen g, double width, double bottom) {
    TimeSpan excerpt = workspace.comparison().excerpt();
    double from = excerpt == null ? Double.NaN : excerpt.from();
    double to = excerpt == null ? Double.NaN : excerpt.to();
    if (!Double.isNaN(dragged) && markingPause) {
      double x = Math.min(pressed, dragged);
      g.setFill(markingSound ? Ink.veil(Ink.action(), 0.25) : Ink.veil(Ink.faint(), 0.45));
      g.fillRect(x, 0, Math.abs(dragged - pressed), bottom);
    } else if (!Double.isNaN(dragged)) {
      from = view.time(Math.min(pressed, dragged), width);
      to = view.time(Math.max(pressed, dragged), width);
    }
    if (!Double.isNaN(from)) {
      double x0 = view.x(from, width);
      double x1 = view.x(to, width);
      g.setFill(Ink.veil(Ink.rule(), 0.5));
      g.fillRect(0, 0, x0, bottom);
      g.fillRect(x1, 0, width - x1, bottom);
      g.setStroke(Ink.action());
      g.setLineWidth(2);
      g.strokeRect(x0, 1, x1 - x0, bottom - 2);
    }
  }

  private void paintSpots(Pen g, double width, double bottom) {
    String versionId = workspace.selection().versionProperty().get();
    String measureId = workspace.selection().measureProperty().get();
    if (workspace.sheetProperty().get() == null || versionId == null || measureId == null) {
      return;
    }
    ScoreSheet sheet = workspace.sheetProperty().get();
    Declaration declaration = Measures.declaration(measureId);
    Axis axis = declaration == null ? Axis.INFO : declaration.axis(sheet.job());
    Part part = workspace.selection().addressProperty().get().part();
    List<Spot> spots =
        sheet
            .entry(part, versionId)
            .flatMap(e -> e.reading(measureId))
            .map(Reading::spots)
            .orElse(List.of());
    Spot playing = workspace.selection().spotProperty().get();
    for (Spot spot : spots) {
      double x = view.x((spot.from() + spot.to()) / 2, width);
      g.setFill(Ink.of(axis));
      double size = spot.equals(playing) ? 7 : 4.5;
      g.fillPolygon(new double[] {x - size, x + size, x}, new double[] {0, 0, size * 1.6}, 3);
      g.setStroke(Ink.of(axis));
      g.setLineWidth(spot.equals(playing) ? 2 : 0.8);
      g.strokeLine(x, 0, x, spot.equals(playing) ? bottom : 14);
    }
  }

  /** Marks mend what was found, or what was marked before; they are taken as they stand. */
  private void markPause(TimeSpan span, boolean sound) {
    List<TimeSpan> before = pauses();
    workspace.edit(
        c ->
            c.withPauses(sound ? PauseMarks.without(before, span) : PauseMarks.with(before, span)));
  }

  /** The pauses as they are marked or found, in seconds of the source. */
  private List<TimeSpan> pauses() {
    if (workspace.comparison().pauses() != null) {
      return workspace.comparison().pauses();
    }
    var preparedExcerpt = workspace.preparedExcerptProperty().get();
    if (preparedExcerpt == null) {
      return List.of();
    }
    double start = preparedExcerpt.source().startSeconds();
    return preparedExcerpt.source().pauses().activity().pauses().stream()
        .map(p -> new TimeSpan(p.from() + start, p.to() + start))
        .toList();
  }

  @Override
  protected List<MenuItem> menuItems() {
    MenuItem find = new MenuItem("Forget the marked pauses: find them again");
    find.setDisable(workspace.comparison().pauses() == null);
    find.setOnAction(e -> workspace.edit(c -> c.withPauses(null)));
    MenuItem none = new MenuItem("Mark pauses from scratch: take all away");
    none.setOnAction(e -> workspace.edit(c -> c.withPauses(List.of())));
    MenuItem whole = new MenuItem("Hear and measure the whole source");
    whole.setDisable(workspace.comparison().excerpt() == null);
    whole.setOnAction(e -> workspace.edit(c -> c.withExcerpt(null)));
    List<MenuItem> items = new ArrayList<>(List.of(find, none, whole));
    items.addAll(super.menuItems());
    return items;
  }

  private void press(MouseEvent e) {
    if (e.getButton() == MouseButton.PRIMARY && seconds() > 0) {
      pressed = e.getX();
      dragged = Double.NaN;
      markingPause = e.isShiftDown();
      markingSound = markingPause && e.isShortcutDown();
    }
  }

  private void drag(MouseEvent e) {
    if (!Double.isNaN(pressed) && (Math.abs(e.getX() - pressed) > 4 || !Double.isNaN(dragged))) {
      dragged = Math.max(0, Math.min(getWidth(), e.getX()));
      repaint();
    }
  }

  private void release(MouseEvent e) {
    if (Double.isNaN(pressed)) {
      return;
    }
    double first = view.time(pressed, getWidth());
    double last = view.time(dragged, getWidth());
    boolean wasDrag = !Double.isNaN(dragged);
    pressed = Double.NaN;
    dragged = Double.NaN;
    if (markingPause) {
      if (wasDrag && Math.abs(last - first) >= SHORTEST_PAUSE) {
        markPause(new TimeSpan(Math.min(first, last), Math.max(first, last)), markingSound);
      }
      repaint();
    } else if (e.getClickCount() == 2) {
      workspace.edit(c -> c.withExcerpt(null));
    } else if (wasDrag && Math.abs(last - first) >= 0.5) {
      TimeSpan span = new TimeSpan(Math.min(first, last), Math.max(first, last));
      workspace.edit(c -> c.withExcerpt(span));
      workspace.listening().loopingProperty().set(true);
    } else {
      workspace.listening().seek(first);
      repaint();
    }
  }
}
