package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import javafx.geometry.HPos;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.RowConstraints;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import kettlesieve.app.model.SheetLayout;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.ScoreSheet;

/**
 * Versions down, readings across under their questions. Heads sort, questions fold to their score,
 * columns can be put away.
 */
final class ReadingSheet extends GridPane {
  private static final String OVERALL = "overall";
  private static final double BAR = 46;
  private static final double HEAD_HEIGHT = 54;

  private final Workspace workspace;
  private final SheetLayout layout;
  private final Map<String, ToggleButton> cells = new HashMap<>();
  private ScoreSheet sheet;
  private int rows;

  ReadingSheet(Workspace workspace) {
    this.workspace = workspace;
    this.layout = workspace.sheetLayout();
    setHgap(1);
  }

  /** A column: a measure, or an axis that is folded. */
  private record Column(Axis axis, Declaration measure) {}

  /**
   * All measures with at least one reading or reason, grouped by axis.
   *
   * @param scores what was measured
   */
  static List<Declaration> measures(ScoreSheet scores) {
    List<Declaration> columns = new ArrayList<>();
    for (Axis axis : Axis.values()) {
      Measures.of(scores.job()).stream()
          .map(m -> m.declaration())
          .filter(d -> d.axis(scores.job()) == axis)
          .filter(
              d ->
                  !d.needsReference()
                      || scores.entries().stream().anyMatch(e -> e.reading(d.id()).isPresent()))
          .forEach(columns::add);
    }
    return columns;
  }

  /**
   * Fills the sheet.
   *
   * @param scores what is shown
   * @param beside further sheets whose rows are shown under each version, by name
   */
  void show(ScoreSheet scores, Map<String, ScoreSheet> beside) {
    sheet = scores;
    cells.clear();
    getChildren().clear();
    getColumnConstraints().clear();
    List<Column> columns = columns(scores);
    head(columns);
    int row = 2;
    List<String> ids = workspace.comparison().versions().stream().map(Version::id).toList();
    for (Entry entry : sorted(scores)) {
      row(entry, columns, ids.indexOf(entry.measured().id()), row++);
      for (Map.Entry<String, ScoreSheet> place : beside.entrySet()) {
        Optional<Entry> there = entry(place.getValue(), entry.measured().id());
        if (there.isPresent()) {
          place(place.getKey(), there.get(), columns, row++);
        }
      }
    }
    rows = row - 2;
  }

  /** Number of rows below the head. */
  int rows() {
    return rows;
  }

  static Optional<Entry> entry(ScoreSheet scores, String id) {
    return scores.entries().stream().filter(e -> e.measured().id().equals(id)).findFirst();
  }

  private List<Column> columns(ScoreSheet scores) {
    List<Column> columns = new ArrayList<>();
    for (Axis axis : Axis.values()) {
      List<Declaration> own =
          measures(scores).stream().filter(d -> d.axis(scores.job()) == axis).toList();
      if (own.isEmpty()) {
        continue;
      }
      columns.add(new Column(axis, null));
      if (!layout.folded(axis)) {
        own.stream()
            .filter(d -> layout.shown(d.id()))
            .forEach(d -> columns.add(new Column(axis, d)));
      }
    }
    return columns;
  }

  // --- order ---

  private List<Entry> sorted(ScoreSheet scores) {
    String by = layout.sortedBy();
    List<Entry> entries = new ArrayList<>(scores.entries());
    List<String> ids = workspace.comparison().versions().stream().map(Version::id).toList();
    entries.sort(Comparator.comparingInt(e -> ids.indexOf(e.measured().id())));
    if (!by.isEmpty()) {
      ToDoubleFunction<Entry> merit = e -> merit(e, by);
      Comparator<Entry> best = Comparator.comparingDouble(e -> -merit.applyAsDouble(e));
      Comparator<Entry> order = layout.worstFirst() ? best.reversed() : best;
      // What has no figure in this column comes last either way.
      entries.sort(
          Comparator.comparing((Entry e) -> Double.isNaN(merit.applyAsDouble(e)))
              .thenComparing(order));
    }
    return entries;
  }

  /** How good a version is in a column; NaN without a figure. */
  private double merit(Entry entry, String column) {
    if (column.equals(OVERALL)) {
      return entry.card().overall().map(Estimate::value).orElse(Double.NaN);
    }
    for (Axis axis : Axis.values()) {
      if (axis.id().equals(column)) {
        Estimate score = entry.card().axes().get(axis);
        return score == null ? Double.NaN : score.value();
      }
    }
    Optional<Reading> reading = entry.reading(column);
    Declaration declaration = Measures.declaration(column);
    if (reading.isEmpty() || declaration == null) {
      return Double.NaN;
    }
    Optional<Scale> scale = sheet.scoring().scale(declaration, sheet.job());
    double value = reading.get().scored().value();
    if (scale.isEmpty()) {
      return value;
    }
    // Beyond both ends of the scale the values still have an order.
    return scale.get().full() > scale.get().zero() ? value : -value;
  }

  // --- head ---

  private void head(List<Column> columns) {
    RowConstraints names = new RowConstraints(HEAD_HEIGHT);
    getRowConstraints().setAll(new RowConstraints(), names);
    ColumnConstraints first = new ColumnConstraints();
    first.setMinWidth(168);
    first.setHgrow(Priority.SOMETIMES);
    getColumnConstraints().add(first);
    getColumnConstraints().add(new ColumnConstraints(58));
    add(words("Version", "", HPos.LEFT), 0, 1);
    add(sortHead("Overall", "of 100", OVERALL, "The score under the profile"), 1, 1);
    int column = 2;
    Axis last = null;
    for (Column c : columns) {
      ColumnConstraints constraints = new ColumnConstraints();
      double width = c.measure() != null ? 66 : c.axis() == Axis.INFO ? 30 : 48;
      constraints.setMinWidth(width);
      constraints.setPrefWidth(width + 2);
      constraints.setHgrow(c.measure() == null ? Priority.NEVER : Priority.ALWAYS);
      getColumnConstraints().add(constraints);
      if (c.axis() != last) {
        Axis axis = c.axis();
        long span = columns.stream().filter(x -> x.axis() == axis).count();
        add(axisHead(axis), column, 0, (int) span, 1);
        last = axis;
      }
      if (c.measure() != null) {
        Declaration d = c.measure();
        add(sortHead(d.title(), d.unit(), d.id(), d.title() + ": " + d.meaning()), column, 1);
      } else if (c.axis() != Axis.INFO) {
        add(
            sortHead("Score", "of 100", c.axis().id(), "The score of " + c.axis().title()),
            column,
            1);
      }
      column++;
    }
  }

  private Node axisHead(Axis axis) {
    boolean folded = layout.folded(axis);
    Button head =
        new Button(folded && axis == Axis.INFO ? "▸" : (folded ? "▸ " : "▾ ") + axis.title());
    head.getStyleClass().setAll("button", axis.id() + "-text", "axis-head", "axis-" + axis.id());
    head.setMaxWidth(Double.MAX_VALUE);
    head.setAlignment(Pos.CENTER_LEFT);
    head.setId("fold-" + axis.id());
    head.setTooltip(
        new Tooltip(
            axis.title()
                + ": "
                + axis.question()
                + "\nClick to "
                + (folded ? "unfold" : "fold")
                + " it."));
    head.setAccessibleText((folded ? "Unfold " : "Fold ") + axis.title());
    head.setOnAction(e -> layout.fold(axis));
    return head;
  }

  private Node sortHead(String title, String unit, String column, String tip) {
    boolean own = column.equals(layout.sortedBy());
    String arrow = own ? (layout.worstFirst() ? " ↑" : " ↓") : "";
    Region words = words(title + arrow, unit, HPos.RIGHT);
    Button head = new Button();
    head.setGraphic(words);
    head.setContentDisplay(javafx.scene.control.ContentDisplay.GRAPHIC_ONLY);
    words.maxWidthProperty().bind(head.widthProperty());
    head.setMinHeight(HEAD_HEIGHT);
    head.setPrefHeight(HEAD_HEIGHT);
    head.getStyleClass().setAll("button", "head-button");
    head.setMaxWidth(Double.MAX_VALUE);
    head.setMaxHeight(HEAD_HEIGHT);
    head.setAlignment(Pos.BOTTOM_RIGHT);
    head.setId("sort-" + column);
    head.setAccessibleText("Sort by " + title);
    Tooltip tooltip = new Tooltip(tip + "\nClick to sort.");
    tooltip.setWrapText(true);
    tooltip.setMaxWidth(420);
    head.setTooltip(tooltip);
    head.setOnAction(e -> layout.sort(column));
    return head;
  }

  private static Region words(String title, String unit, HPos side) {
    Label name = Texts.wrapped(title, "column-head");
    name.setMaxWidth(96);
    name.setMinHeight(34);
    name.setAlignment(side == HPos.LEFT ? Pos.BOTTOM_LEFT : Pos.BOTTOM_RIGHT);
    name.setStyle(
        "-fx-line-spacing: -2; -fx-text-alignment: "
            + (side == HPos.LEFT ? "left" : "right")
            + ";");
    Label unitLabel = Texts.of(unit.isEmpty() ? " " : unit, "quiet", "small");
    VBox box = new VBox(-1, name, unitLabel);
    box.setAlignment(side == HPos.LEFT ? Pos.BOTTOM_LEFT : Pos.BOTTOM_RIGHT);
    box.setStyle("-fx-padding: 1 5 2 1;");
    return box;
  }

  // --- rows ---

  private void row(Entry entry, List<Column> columns, int index, int row) {
    HBox who = new HBox(7, VersionSign.of(index, 18), Texts.of(entry.measured().label(), "strong"));
    who.setAlignment(Pos.CENTER_LEFT);
    who.setStyle("-fx-padding: 2 6 2 4;");
    add(who, 0, row);
    add(overall(entry, "strong"), 1, row);
    figures(entry, columns, row, "");
  }

  /** The same version at one of the excerpts. */
  private void place(String name, Entry entry, List<Column> columns, int row) {
    Label where = Texts.of(name, "quiet", "small");
    where.setStyle("-fx-padding: 1 6 1 29;");
    add(where, 0, row);
    add(overall(entry, "quiet"), 1, row);
    figures(entry, columns, row, "@" + name);
  }

  private void figures(Entry entry, List<Column> columns, int row, String where) {
    int column = 2;
    for (Column c : columns) {
      if (c.measure() == null) {
        if (c.axis() != Axis.INFO) {
          add(axisScore(entry, c.axis()), column, row);
        }
      } else {
        ToggleButton cell = cell(entry, c.measure(), where);
        if (where.isEmpty()) {
          cells.put(key(entry.measured().id(), c.measure().id()), cell);
        }
        add(cell, column, row);
      }
      column++;
    }
  }

  private static Label overall(Entry entry, String style) {
    String tie = entry.tiedWith().isEmpty() ? "" : " =";
    Label overall =
        Texts.of(
            entry.card().overall().map(o -> Numbers.fixed(o.value(), 0)).orElse("–") + tie, style);
    overall.setMaxWidth(Double.MAX_VALUE);
    overall.setAlignment(Pos.CENTER_RIGHT);
    overall.setStyle("-fx-padding: 3 7 3 6;");
    if (!entry.tiedWith().isEmpty()) {
      overall.setTooltip(new Tooltip("tied with " + String.join(", ", entry.tiedWith())));
    }
    return overall;
  }

  /** The score of a question, taken apart on hover. */
  private static Label axisScore(Entry entry, Axis axis) {
    Estimate score = entry.card().axes().get(axis);
    Label label =
        Texts.of(score == null ? "–" : Numbers.fixed(score.value(), 0), axis.id() + "-text");
    label.setMaxWidth(Double.MAX_VALUE);
    label.setAlignment(Pos.CENTER_RIGHT);
    label.setStyle("-fx-padding: 3 7 3 6;");
    if (score != null) {
      StringBuilder made = new StringBuilder();
      made.append(axis.title()).append(' ').append(Numbers.fixed(score.value(), 1));
      made.append(", 95 % interval ")
          .append(Numbers.fixed(score.low(), 1))
          .append(" to ")
          .append(Numbers.fixed(score.high(), 1));
      for (Card.Part part : entry.card().parts().getOrDefault(axis, List.of())) {
        made.append('\n')
            .append(Measures.declaration(part.measure()).title())
            .append(": score ")
            .append(Numbers.fixed(part.score(), 0))
            .append(", weight ")
            .append(Numbers.fixed(part.weight(), 1))
            .append(", makes ")
            .append(Numbers.fixed(100 * part.share(), 0))
            .append(" % of the shortfall");
      }
      label.setTooltip(new Tooltip(made.toString()));
    }
    return label;
  }

  private ToggleButton cell(Entry entry, Declaration d, String where) {
    ToggleButton cell = new ToggleButton();
    cell.getStyleClass().setAll("toggle-button", "sheet-cell");
    cell.setMaxWidth(Double.MAX_VALUE);
    cell.setId("cell-" + entry.measured().id() + "-" + d.id() + where);
    cell.setOnAction(
        e -> {
          workspace.selection().reading(entry.measured().id(), d.id());
          cell.setSelected(where.isEmpty());
        });
    var reading = entry.reading(d.id());
    if (reading.isPresent()) {
      Reading r = reading.get();
      String value = Numbers.reading(r.value(), d.unit());
      Label text = where.isEmpty() ? Texts.of(value) : Texts.of(value, "quiet", "small");
      VBox content = new VBox(1, text, scoreBar(r, d));
      content.setAlignment(Pos.CENTER_RIGHT);
      cell.setGraphic(content);
      cell.setAccessibleText(
          d.title() + " of " + entry.measured().label() + ": " + value + " " + d.unit());
      cell.setTooltip(
          new Tooltip(
              value
                  + " "
                  + d.unit()
                  + ", 95 % interval "
                  + Numbers.reading(r.estimate().low(), d.unit())
                  + " to "
                  + Numbers.reading(r.estimate().high(), d.unit())));
    } else {
      String reason = entry.reasonNotMeasured(d.id()).orElse("not measured");
      cell.setText("–");
      cell.setTooltip(new Tooltip("Not measured: " + reason));
      cell.setAccessibleText(d.title() + ": not measured, " + reason);
    }
    return cell;
  }

  private StackPane scoreBar(Reading reading, Declaration d) {
    StackPane bar = new StackPane();
    bar.setMaxWidth(BAR);
    bar.setMinHeight(4);
    bar.setAlignment(Pos.CENTER_LEFT);
    sheet
        .scoring()
        .scale(d, sheet.job())
        .ifPresent(
            scale -> {
              double score = scale.score(reading.scored().value());
              Rectangle ground = new Rectangle(BAR, 4, Ink.RULE);
              Rectangle filled = new Rectangle(BAR * score / 100, 4, Ink.of(d.axis(sheet.job())));
              bar.getChildren().addAll(ground, filled);
            });
    return bar;
  }

  private static String key(String version, String measure) {
    return version + " " + measure;
  }

  /** Marks the cell of a reading. */
  void select(String version, String measure) {
    cells.forEach((k, cell) -> cell.setSelected(k.equals(key(version, measure))));
  }
}
