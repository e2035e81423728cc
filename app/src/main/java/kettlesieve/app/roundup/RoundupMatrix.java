package kettlesieve.app.roundup;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.geometry.VPos;
import javafx.scene.AccessibleRole;
import javafx.scene.control.ScrollBar;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.OwnKeys;
import kettlesieve.app.shared.Pen;
import kettlesieve.app.shared.ShortNames;
import kettlesieve.core.report.RoundupWords;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupMaker;
import kettlesieve.core.score.odds.OddsWords;

/**
 * Tools down, recordings across: what each reached, how it stands over all of them, and the cell
 * that is chosen. Arrow keys go over it, S sorts by the column, Enter opens the recording.
 */
final class RoundupMatrix extends CanvasPane implements OwnKeys {
  private static final String FONT = "Source Sans 3";
  private static final String STRONG = "Source Sans 3 SemiBold";
  private static final double NAME = 210;
  private static final double ROW = 24;
  private static final double HEAD = 96;
  private static final double NARROW = 22;
  private static final double WIDE = 64;

  /** By how much the slanted head of the last recording stands out beyond its column. */
  private static final double SLANT = 8 + HEAD / 2;

  /** Columns before those of the recordings. */
  private enum Column {
    NAME("Name", RoundupMatrix.NAME),
    MEAN("Mean", 58),
    INTERVAL("95 %", 66),
    BEST("Best in", 62),
    WORST("Worst", 54),
    WINS("Won, tied", 66);

    private final String title;
    private final double width;

    Column(String title, double width) {
      this.title = title;
      this.width = width;
    }
  }

  private static final double BEFORE = before(Column.values().length);

  private final BiConsumer<Roundup.Row, Integer> open;
  private final Consumer<String> tell;
  private Roundup roundup;
  private List<Roundup.Row> rows = List.of();
  private int sortedBy = Column.MEAN.ordinal();
  private boolean reversed;
  private int row;
  private int column = Column.MEAN.ordinal();
  private final ScrollBar along = new ScrollBar();

  /**
   * @param open opens a recording, for a row and the recording's index
   * @param tell told in words what is chosen
   */
  RoundupMatrix(BiConsumer<Roundup.Row, Integer> open, Consumer<String> tell) {
    this.open = open;
    this.tell = tell;
    setId("roundup-matrix");
    setFocusTraversable(true);
    setAccessibleRole(AccessibleRole.TABLE_VIEW);
    focusedProperty().addListener((o, was, is) -> repaint());
    setOnMousePressed(this::pressed);
    along.setId("roundup-along");
    along.setAccessibleText("Further recordings");
    along.valueProperty().addListener((o, was, is) -> repaint());
    widthProperty().addListener((o, was, is) -> measure());
    setOnScroll(
        e -> {
          double by = e.getDeltaX() != 0 ? e.getDeltaX() : e.isShiftDown() ? e.getDeltaY() : 0;
          if (by != 0 && along.isVisible()) {
            along.setValue(Math.max(0, Math.min(along.getMax(), along.getValue() - by)));
            e.consume();
          }
        });
  }

  /** Moves the recordings along where not all have room; what stands before them stays. */
  ScrollBar along() {
    return along;
  }

  private void measure() {
    double hidden = Math.max(0, recordings() * cellWidth() + SLANT - (getWidth() - BEFORE));
    along.setMax(hidden);
    along.setVisibleAmount(
        hidden == 0 ? 0 : hidden * (getWidth() - BEFORE) / (hidden + getWidth() - BEFORE));
    along.setUnitIncrement(NARROW);
    along.setBlockIncrement(Math.max(NARROW, getWidth() - BEFORE - 2 * NARROW));
    along.setVisible(hidden > 0);
    along.setManaged(hidden > 0);
    along.setValue(Math.min(along.getValue(), hidden));
  }

  void show(Roundup now) {
    this.roundup = now;
    sort();
    row = Math.min(row, Math.max(0, rows.size() - 1));
    column = Math.min(column, columns() - 1);
    setPrefHeight(HEAD + ROW * rows.size() + 6);
    setMinHeight(getPrefHeight());
    setMinWidth(BEFORE);
    measure();
    requestLayout();
    repaint();
    tellChosen();
  }

  private int recordings() {
    return roundup == null ? 0 : roundup.comparisons().size();
  }

  private int columns() {
    return Column.values().length + recordings();
  }

  private static double before(int columns) {
    double x = 8;
    for (int i = 0; i < columns; i++) {
      x += Column.values()[i].width;
    }
    return x;
  }

  private double cellWidth() {
    double room = getWidth() - BEFORE - SLANT;
    return Math.max(NARROW, Math.min(WIDE, room / Math.max(1, recordings())));
  }

  private void sort() {
    if (roundup == null) {
      rows = List.of();
      return;
    }
    List<Roundup.Row> sorted = new ArrayList<>(roundup.all().entries());
    int direction = roundup.direction() < 0 ? -1 : 1;
    Comparator<Roundup.Row> order;
    if (sortedBy >= Column.values().length) {
      int recording = sortedBy - Column.values().length;
      order =
          Comparator.comparingDouble(
              e -> {
                Roundup.Cell cell = e.cells().get(recording);
                return cell == null ? Double.POSITIVE_INFINITY : -direction * cell.value();
              });
    } else {
      order =
          switch (Column.values()[sortedBy]) {
            case NAME -> Comparator.comparing(Roundup.Row::name);
            case MEAN -> Comparator.comparingDouble(e -> -direction * e.mean());
            case INTERVAL -> Comparator.comparingDouble(e -> e.high() - e.low());
            case BEST -> Comparator.comparingDouble(e -> -e.best());
            case WORST ->
                Comparator.comparingDouble(
                    e ->
                        e.worst(direction)
                            .map(w -> -direction * w.getValue().value())
                            .orElse(Double.POSITIVE_INFINITY));
            case WINS -> Comparator.comparingInt(e -> -1000 * e.wins() - e.ties());
          };
    }
    sorted.sort(reversed ? order.reversed() : order);
    rows = sorted;
  }

  /** Sorts by a column; the same again turns the order round. */
  private void sortBy(int which) {
    reversed = which == sortedBy && !reversed;
    sortedBy = which;
    sort();
    repaint();
    tellChosen();
  }

  @Override
  public boolean takes(KeyEvent key) {
    if (key.isShortcutDown() || key.isAltDown() || rows.isEmpty()) {
      return false;
    }
    switch (key.getCode()) {
      case UP -> choose(row - 1, column);
      case DOWN -> choose(row + 1, column);
      case LEFT -> choose(row, column - 1);
      case RIGHT -> choose(row, column + 1);
      case HOME -> choose(0, column);
      case END -> choose(rows.size() - 1, column);
      case S -> sortBy(column);
      case ENTER -> openChosen();
      default -> {
        return false;
      }
    }
    return true;
  }

  private void choose(int newRow, int newColumn) {
    row = Math.max(0, Math.min(rows.size() - 1, newRow));
    column = Math.max(0, Math.min(columns() - 1, newColumn));
    bringIntoSight();
    repaint();
    tellChosen();
  }

  private void bringIntoSight() {
    int recording = column - Column.values().length;
    if (recording >= 0) {
      double w = cellWidth();
      double least = (recording + 1) * w - (getWidth() - BEFORE - 4);
      double wanted = Math.min(recording * w, Math.max(along.getValue(), least));
      along.setValue(Math.max(0, Math.min(along.getMax(), wanted)));
    }
  }

  private void openChosen() {
    int recording = column - Column.values().length;
    if (recording >= 0 && !rows.isEmpty()) {
      open.accept(rows.get(row), recording);
    }
  }

  private void pressed(MouseEvent e) {
    requestFocus();
    int at = columnAt(e.getX());
    if (at < 0 || roundup == null) {
      return;
    }
    if (e.getY() < HEAD) {
      column = at;
      sortBy(at);
      return;
    }
    int r = (int) ((e.getY() - HEAD) / ROW);
    if (r < rows.size()) {
      choose(r, at);
      if (e.getClickCount() == 2) {
        openChosen();
      }
    }
  }

  private int columnAt(double x) {
    int n = Column.values().length;
    for (int i = 0; i < n; i++) {
      if (x >= before(i) && x < before(i + 1)) {
        return i;
      }
    }
    int recording = (int) ((x - BEFORE + along.getValue()) / cellWidth());
    return x >= BEFORE && recording < recordings() ? n + recording : -1;
  }

  /** What is chosen, in words. */
  private void tellChosen() {
    String words = "";
    if (!rows.isEmpty()) {
      Roundup.Row e = rows.get(row);
      int recording = column - Column.values().length;
      words =
          recording < 0
              ? e.name() + ": " + Column.values()[column].title + " " + text(e, column)
              : roundup.comparisons().get(recording).title()
                  + tags(recording)
                  + " – "
                  + e.name()
                  + ": "
                  + text(e, column)
                  + place(e, recording)
                  + (e.cells().containsKey(recording) ? ". Enter opens it." : "");
    }
    setAccessibleText(words);
    tell.accept(words);
  }

  private String tags(int recording) {
    List<String> tags = roundup.comparisons().get(recording).tags();
    return tags.isEmpty() ? "" : " (" + String.join(", ", tags) + ")";
  }

  private static String place(Roundup.Row e, int recording) {
    Roundup.Cell cell = e.cells().get(recording);
    if (cell == null) {
      return "";
    }
    String by = cell.of() > 1 ? ", by " + cell.label() + ", the best of " + cell.of() : "";
    if (cell.scores().rank() == 0) {
      return by;
    }
    boolean range = cell.scores().rank() != cell.scores().rankTo();
    return by + ", place " + cell.scores().rank() + (range ? "–" + cell.scores().rankTo() : "");
  }

  private String text(Roundup.Row e, int at) {
    if (at >= Column.values().length) {
      Roundup.Cell cell = e.cells().get(at - Column.values().length);
      return cell == null ? "not tried" : RoundupWords.value(roundup, cell.value());
    }
    return switch (Column.values()[at]) {
      case NAME -> e.name();
      case MEAN -> RoundupWords.value(roundup, e.mean());
      case INTERVAL ->
          Double.isFinite(e.low())
              ? RoundupWords.bare(roundup, e.low()) + "–" + RoundupWords.bare(roundup, e.high())
              : "–";
      case BEST -> Double.isFinite(e.best()) ? OddsWords.ofTen(e.best()) : "–";
      case WORST ->
          e.worst(roundup.direction())
              .map(w -> RoundupWords.bare(roundup, w.getValue().value()))
              .orElse("–");
      case WINS -> e.wins() + ", " + e.ties();
    };
  }

  @Override
  protected void paint(Pen g, double width, double height) {
    g.setFill(Ink.panel());
    g.fillRect(0, 0, width, height);
    if (roundup == null) {
      return;
    }
    g.setTextBaseline(VPos.CENTER);
    recordingHeads(g);
    double[] range = range();
    for (int r = 0; r < rows.size(); r++) {
      cells(g, rows.get(r), HEAD + r * ROW, range);
    }
    // What scrolls goes under what stays.
    g.setFill(Ink.panel());
    g.fillRect(0, HEAD, BEFORE - 1, height - HEAD);
    heads(g);
    List<String> names =
        ShortNames.of(rows.stream().map(Roundup.Row::name).toList(), NAME - 14, STRONG, 13.5);
    for (int r = 0; r < rows.size(); r++) {
      double y = HEAD + r * ROW;
      Roundup.Row e = rows.get(r);
      g.setStroke(Ink.rule());
      g.setLineWidth(1);
      g.strokeLine(8, y + 0.5, Math.min(width, left(recordings())), y + 0.5);
      for (int c = 0; c < Column.values().length; c++) {
        before(g, e, c, names.get(r), y);
      }
    }
    chosen(g);
  }

  private void heads(Pen g) {
    g.setFont(Font.font(STRONG, 12.5));
    for (int c = 0; c < Column.values().length; c++) {
      boolean left = c == 0;
      g.setTextAlign(left ? TextAlignment.LEFT : TextAlignment.RIGHT);
      g.setFill(c == sortedBy ? Ink.action() : Ink.quiet());
      g.fillText(
          Column.values()[c].title + (c == sortedBy ? reversed ? " ↑" : " ↓" : ""),
          left ? before(c) : before(c + 1) - 8,
          HEAD - 12);
    }
  }

  /** Where the column of a recording begins; under what stays if it is moved along. */
  private double left(int recording) {
    return BEFORE + recording * cellWidth() - along.getValue();
  }

  private void recordingHeads(Pen g) {
    double w = cellWidth();
    List<String> titles =
        ShortNames.of(
            roundup.comparisons().stream().map(c -> c.title()).toList(), HEAD + 10, FONT, 12);
    g.setTextAlign(TextAlignment.LEFT);
    for (int i = 0; i < titles.size(); i++) {
      boolean sorted = sortedBy == Column.values().length + i;
      g.setFont(Font.font(sorted ? STRONG : FONT, 12));
      g.setFill(sorted ? Ink.action() : Ink.quiet());
      if (left(i) + w / 2 < BEFORE) {
        continue;
      }
      g.save();
      g.translate(left(i) + w / 2, HEAD - 8);
      g.rotate(-55);
      g.fillText(titles.get(i) + (sorted ? reversed ? " ↑" : " ↓" : ""), 0, 0);
      g.restore();
    }
  }

  private void before(Pen g, Roundup.Row e, int c, String name, double y) {
    boolean left = c == 0;
    boolean strong = c <= 1;
    g.setFont(Font.font(strong ? STRONG : FONT, 13.5));
    g.setFill(strong ? Ink.ink() : Ink.quiet());
    g.setTextAlign(left ? TextAlignment.LEFT : TextAlignment.RIGHT);
    g.fillText(left ? name : text(e, c), left ? before(c) : before(c + 1) - 8, y + ROW / 2);
  }

  /** From the least to the most of all cells: what the tint stands for. */
  private double[] range() {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (Roundup.Row e : rows) {
      for (Roundup.Cell cell : e.cells().values()) {
        low = Math.min(low, cell.value());
        high = Math.max(high, cell.value());
      }
    }
    return new double[] {low, Math.max(high, low + 1e-9)};
  }

  private void cells(Pen g, Roundup.Row e, double y, double[] range) {
    double w = cellWidth();
    g.setTextAlign(TextAlignment.CENTER);
    for (int i = 0; i < recordings(); i++) {
      double x = left(i);
      if (x + w <= BEFORE) {
        continue;
      }
      Roundup.Cell cell = e.cells().get(i);
      if (cell == null) {
        g.setFont(Font.font(FONT, 12));
        g.setFill(Ink.quiet());
        g.fillText("–", x + w / 2, y + ROW / 2);
        continue;
      }
      double share = (cell.value() - range[0]) / (range[1] - range[0]);
      double strength = roundup.direction() < 0 ? 1 - share : share;
      Color tint = Ink.veil(Ink.action(), roundup.direction() == 0 ? 0 : 0.03 + 0.25 * strength);
      g.setFill(tint);
      g.fillRect(x + 0.5, y + 1.5, w - 1, ROW - 2);
      boolean best = cell.value() == RoundupMaker.best(roundup, i);
      g.setFont(Font.font(best ? STRONG : FONT, best ? 13 : 12.5));
      g.setFill(Ink.ink());
      g.fillText(RoundupWords.bare(roundup, cell.value()), x + w / 2, y + ROW / 2, w - 2);
      if (best) {
        g.setStroke(Ink.action());
        g.setLineWidth(1.5);
        g.strokeLine(x + 3, y + ROW - 2.5, x + w - 3, y + ROW - 2.5);
      }
    }
  }

  private void chosen(Pen g) {
    if (rows.isEmpty()) {
      return;
    }
    int recording = column - Column.values().length;
    double x = recording >= 0 ? left(recording) : before(column) - 3;
    double wide = recording >= 0 ? cellWidth() : Column.values()[column].width;
    if (recording >= 0 && x < BEFORE - 1) {
      return;
    }
    g.setStroke(isFocused() ? Ink.ink() : Ink.faint());
    g.setLineWidth(isFocused() ? 2 : 1);
    g.strokeRect(x, HEAD + row * ROW + 1, wide, ROW - 1);
  }
}
