package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javafx.geometry.HPos;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.ScoreSheet;

/** Measure: the sheet of versions by readings, and what lies behind the selected cell. */
public final class MeasureView extends VBox {
  private final Workspace workspace;
  private final GridPane sheet = new GridPane();
  private final CellDetail detail;
  private final Map<String, ToggleButton> cells = new HashMap<>();
  private final StackPane sheetHolder = new StackPane();
  private final ScrollPane scroll = new ScrollPane();

  public MeasureView(Workspace workspace) {
    this.workspace = workspace;
    this.detail = new CellDetail(workspace);
    getStyleClass().add("page");
    setId("measure");
    setStyle("-fx-spacing: 8; -fx-padding: 8 0 8 0;");
    scroll.setContent(sheetHolder);
    scroll.setFitToWidth(true);
    VBox.setMargin(scroll, new Insets(0, 14, 0, 14));
    sheetHolder.setAlignment(Pos.TOP_LEFT);
    VBox.setVgrow(detail, Priority.ALWAYS);
    getChildren().addAll(scroll, detail);
    workspace.sheetProperty().addListener((o, was, is) -> fill());
    workspace.comparisonProperty().addListener((o, was, is) -> fill());
    workspace.busyProperty().addListener((o, was, is) -> fill());
    workspace.selection().measureProperty().addListener((o, was, is) -> selectionChanged());
    workspace.selection().versionProperty().addListener((o, was, is) -> selectionChanged());
    fill();
  }

  private void fill() {
    ScoreSheet scores = workspace.sheetProperty().get();
    cells.clear();
    sheet.getChildren().clear();
    sheet.getColumnConstraints().clear();
    if (scores == null || scores.entries().isEmpty()) {
      sheetHolder
          .getChildren()
          .setAll(
              Texts.wrapped(
                  workspace.comparison().versions().isEmpty()
                      ? "There is nothing to measure yet: bring in a source and versions under Gather."
                      : "The sheet appears here as soon as the versions are measured.",
                  "quiet"));
      detail.show(null, null, null);
      return;
    }
    List<Declaration> columns = columns(scores);
    if (columns.isEmpty()) {
      sheetHolder
          .getChildren()
          .setAll(
              Texts.wrapped(
                  "This version of the program has no measures for the job "
                      + scores.job().title()
                      + " yet. Matching, listening, marks and verdicts are all there.",
                  "quiet"));
      detail.show(null, null, null);
      return;
    }
    sheetHolder.getChildren().setAll(sheet);
    sheet.setHgap(1);
    head(columns);
    int row = 2;
    for (Version version : workspace.comparison().versions()) {
      int index = row - 2;
      scores.entries().stream()
          .filter(e -> e.measured().id().equals(version.id()))
          .findFirst()
          .ifPresent(e -> row(e, columns, index, index + 2));
      row++;
    }
    // As high as its rows ask for, up to half the step's height: the detail needs the rest.
    double wanted = 84 + 31 * scores.entries().size();
    scroll.setMinHeight(Math.min(wanted, 170));
    scroll.setPrefHeight(Math.min(wanted, 340));
    selectSomething(scores, columns);
    selectionChanged();
  }

  /** All measures with at least one reading or reason, grouped by axis. */
  private static List<Declaration> columns(ScoreSheet scores) {
    List<Declaration> columns = new ArrayList<>();
    for (Axis axis : Axis.values()) {
      Measures.of(scores.job()).stream()
          .map(m -> m.declaration())
          .filter(d -> d.axis() == axis)
          .filter(
              d ->
                  !d.needsReference()
                      || scores.entries().stream().anyMatch(e -> e.reading(d.id()).isPresent()))
          .forEach(columns::add);
    }
    return columns;
  }

  private void head(List<Declaration> columns) {
    ColumnConstraints first = new ColumnConstraints();
    first.setMinWidth(170);
    first.setHgrow(Priority.SOMETIMES);
    sheet.getColumnConstraints().add(first);
    ColumnConstraints overall = new ColumnConstraints(66);
    sheet.getColumnConstraints().add(overall);
    sheet.add(columnHead("Version", "", HPos.LEFT), 0, 1);
    sheet.add(columnHead("Overall", "of 100", HPos.RIGHT), 1, 1);
    int column = 2;
    Axis last = null;
    for (Declaration d : columns) {
      ColumnConstraints c = new ColumnConstraints();
      c.setMinWidth(82);
      c.setHgrow(Priority.ALWAYS);
      sheet.getColumnConstraints().add(c);
      if (d.axis() != last) {
        Axis axis = d.axis();
        long span = columns.stream().filter(x -> x.axis() == axis).count();
        Label head = Texts.of(axis.title(), axis.id() + "-text", "axis-head", "axis-" + axis.id());
        head.setMaxWidth(Double.MAX_VALUE);
        head.setTooltip(new Tooltip(axis.question()));
        sheet.add(head, column, 0, (int) span, 1);
        last = axis;
      }
      Region head = columnHead(d.title(), d.unit(), HPos.RIGHT);
      Tooltip.install(head, new Tooltip(d.title() + ": " + d.meaning()));
      sheet.add(head, column++, 1);
    }
  }

  private static Region columnHead(String title, String unit, HPos side) {
    Label name = Texts.wrapped(title, "column-head");
    name.setStyle(
        "-fx-line-spacing: -2; -fx-text-alignment: "
            + (side == HPos.LEFT ? "left" : "right")
            + ";");
    name.setMinHeight(Region.USE_PREF_SIZE);
    Label unitLabel = Texts.of(unit.isEmpty() ? " " : unit, "quiet", "small");
    VBox box = new VBox(-1, name, unitLabel);
    box.setAlignment(side == HPos.LEFT ? Pos.BOTTOM_LEFT : Pos.BOTTOM_RIGHT);
    box.setStyle("-fx-padding: 3 7 3 7;");
    return box;
  }

  private void row(Entry entry, List<Declaration> columns, int index, int row) {
    Label name = Texts.of(entry.measured().label(), "strong");
    HBox who = new HBox(7, VersionSign.of(index, 18), name);
    who.setAlignment(Pos.CENTER_LEFT);
    who.setStyle("-fx-padding: 2 6 2 4;");
    sheet.add(who, 0, row);
    String tie = entry.tiedWith().isEmpty() ? "" : " =";
    Label overall =
        Texts.of(
            entry.card().overall().map(o -> Numbers.fixed(o.value(), 0)).orElse("–") + tie,
            "strong");
    overall.setMaxWidth(Double.MAX_VALUE);
    overall.setAlignment(Pos.CENTER_RIGHT);
    overall.setStyle("-fx-padding: 3 7 3 6;");
    if (!entry.tiedWith().isEmpty()) {
      overall.setTooltip(new Tooltip("tied with " + String.join(", ", entry.tiedWith())));
    }
    sheet.add(overall, 1, row);
    int column = 2;
    for (Declaration d : columns) {
      ToggleButton cell = cell(entry, d);
      cells.put(key(entry.measured().id(), d.id()), cell);
      sheet.add(cell, column++, row);
    }
  }

  private ToggleButton cell(Entry entry, Declaration d) {
    ToggleButton cell = new ToggleButton();
    cell.getStyleClass().setAll("toggle-button", "sheet-cell");
    cell.setMaxWidth(Double.MAX_VALUE);
    cell.setId("cell-" + entry.measured().id() + "-" + d.id());
    cell.setOnAction(
        e -> {
          workspace.selection().reading(entry.measured().id(), d.id());
          cell.setSelected(true);
        });
    var reading = entry.reading(d.id());
    if (reading.isPresent()) {
      Reading r = reading.get();
      String value = Numbers.reading(r.value(), d.unit());
      Label text = Texts.of(value);
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
    bar.setMaxWidth(52);
    bar.setMinHeight(4);
    bar.setAlignment(Pos.CENTER_LEFT);
    var scale =
        d.axis() == Axis.INFO
            ? java.util.Optional.<Scale>empty()
            : workspace.sheetProperty().get().scoring().scale(d.id());
    if (scale.isPresent()) {
      double score = scale.get().score(reading.scored().value());
      Rectangle ground = new Rectangle(52, 4, Ink.RULE);
      Rectangle filled = new Rectangle(52 * score / 100, 4, Ink.of(d.axis()));
      bar.getChildren().addAll(ground, filled);
    }
    return bar;
  }

  private static String key(String version, String measure) {
    return version + " " + measure;
  }

  /** Without a selection the reading that costs most is shown: the first thing to look at. */
  private void selectSomething(ScoreSheet scores, List<Declaration> columns) {
    String version = workspace.selection().versionProperty().get();
    String measure = workspace.selection().measureProperty().get();
    boolean versionThere =
        scores.entries().stream().anyMatch(e -> e.measured().id().equals(version));
    if (versionThere && columns.stream().anyMatch(d -> d.id().equals(measure))) {
      return;
    }
    if (workspace.busyProperty().get()) {
      // Which version is the best, and what it suffers from, is known when all are measured.
      return;
    }
    Entry best = versionThere ? find(scores, version) : scores.ranked().get(0);
    String worst = columns.get(0).id();
    double lowest = 101;
    for (Declaration d : columns) {
      var scale = scores.scoring().scale(d.id());
      var reading = best.reading(d.id());
      if (d.axis() != Axis.INFO && scale.isPresent() && reading.isPresent()) {
        double score = scale.get().score(reading.get().scored().value());
        if (score < lowest) {
          lowest = score;
          worst = d.id();
        }
      }
    }
    workspace.selection().reading(best.measured().id(), worst);
  }

  private static Entry find(ScoreSheet scores, String id) {
    return scores.entries().stream()
        .filter(e -> e.measured().id().equals(id))
        .findFirst()
        .orElseThrow();
  }

  private void selectionChanged() {
    String version = workspace.selection().versionProperty().get();
    String measure = workspace.selection().measureProperty().get();
    cells.forEach((k, cell) -> cell.setSelected(k.equals(key(version, measure))));
    ScoreSheet scores = workspace.sheetProperty().get();
    Declaration declaration = measure == null ? null : Measures.declaration(measure);
    Entry entry =
        scores == null
            ? null
            : scores.entries().stream()
                .filter(e -> e.measured().id().equals(version))
                .findFirst()
                .orElse(null);
    detail.show(scores, entry, declaration);
  }

  /** Plays the next or the previous spot of the selected reading. */
  public void stepSpot(int by) {
    detail.stepSpot(by);
  }

  /** Puts the selected reading on the clipboard. */
  public void copySelected() {
    String text = detail.asText();
    if (!text.isEmpty()) {
      ClipboardContent content = new ClipboardContent();
      content.putString(text);
      Clipboard.getSystemClipboard().setContent(content);
    }
  }

  /** Sets the version against the source, in the same place. */
  public void swapWithSource() {
    detail.swapWithSource();
  }
}
