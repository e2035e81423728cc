package kettlesieve.app.measure;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.RankTests;
import kettlesieve.core.score.ScoreSheet;

/**
 * Measure: the sheet of versions by readings and what lies behind the selected cell; the trade-off
 * between what was gained and what it cost; two versions against each other; the clipped passages.
 */
public final class MeasureView extends VBox {
  private static final String TOGETHER = "All excerpts together";
  private static final String SIDE_BY_SIDE = "Each excerpt under its version";

  private final Workspace workspace;
  private final ReadingSheet sheet;
  private final CellDetail detail;
  private final TradeOffView tradeOff;
  private final ContrastView contrast;
  private final ClippingView clipping;
  private final VBox readings;
  private final StackPane sheetHolder = new StackPane();
  private final ScrollPane scroll = new ScrollPane();
  private final StackPane face = new StackPane();
  private final ToggleGroup faces = new ToggleGroup();
  private final ToggleButton clippingFace;
  private final ComboBox<String> excerpts = new ComboBox<>();
  private final MenuButton columns = new MenuButton("Columns");
  private final Label rank = Texts.of("", "quiet", "small");
  private boolean filling;

  public MeasureView(Workspace workspace) {
    this.workspace = workspace;
    this.sheet = new ReadingSheet(workspace);
    this.detail = new CellDetail(workspace);
    this.tradeOff = new TradeOffView(workspace);
    this.contrast = new ContrastView(workspace);
    this.clipping = new ClippingView(workspace);
    getStyleClass().add("page");
    setId("measure");
    setStyle("-fx-spacing: 8; -fx-padding: 8 0 8 0;");
    scroll.setContent(sheetHolder);
    scroll.setFitToWidth(true);
    sheetHolder.setAlignment(Pos.TOP_LEFT);
    VBox.setMargin(scroll, new Insets(0, 14, 0, 14));
    VBox.setVgrow(detail, Priority.ALWAYS);
    readings = new VBox(8, scroll, detail);
    ToggleButton first = faceButton("Readings", "face-readings", readings);
    faceButton("Gain and harm", "face-trade-off", tradeOff);
    faceButton("Two versions", "face-contrast", contrast);
    clippingFace = faceButton("Clipped passages", "face-clipping", clipping);
    HBox bar = bar();
    VBox.setVgrow(face, Priority.ALWAYS);
    getChildren().addAll(bar, face);
    first.setSelected(true);
    face.getChildren().setAll(readings);
    workspace.sheetProperty().addListener((o, was, is) -> fill());
    workspace.comparisonProperty().addListener((o, was, is) -> fill());
    workspace.busyProperty().addListener((o, was, is) -> fill());
    workspace.sheetLayout().changesProperty().addListener((o, was, is) -> fill());
    workspace.selection().measureProperty().addListener((o, was, is) -> selectionChanged());
    workspace.selection().versionProperty().addListener((o, was, is) -> selectionChanged());
    fill();
  }

  private ToggleButton faceButton(String title, String id, Node shown) {
    ToggleButton button = new ToggleButton(title);
    button.setId(id);
    button.setToggleGroup(faces);
    button.getStyleClass().add("face-button");
    button.setUserData(shown);
    button.setOnAction(
        e -> {
          button.setSelected(true);
          face.getChildren().setAll(shown);
        });
    return button;
  }

  private HBox bar() {
    excerpts.setId("measure-excerpt");
    excerpts.setAccessibleText("Which excerpts the sheet shows");
    excerpts.setOnAction(
        e -> {
          if (!filling) {
            fill();
          }
        });
    columns.setId("columns");
    rank.setId("rank-tests");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox bar = new HBox(6);
    faces.getToggles().forEach(t -> bar.getChildren().add((ToggleButton) t));
    bar.getChildren().addAll(gap, rank, excerpts, columns);
    bar.setAlignment(Pos.CENTER_LEFT);
    bar.setPadding(new Insets(0, 14, 0, 14));
    return bar;
  }

  private void fill() {
    ScoreSheet scores = workspace.sheetProperty().get();
    boolean declip = workspace.comparison().job() == Job.DECLIP;
    clippingFace.setVisible(declip);
    clippingFace.setManaged(declip);
    if (!declip && clippingFace.isSelected()) {
      faces.selectToggle(faces.getToggles().get(0));
      face.getChildren().setAll(readings);
    }
    String missing = missing(scores);
    if (missing != null) {
      sheetHolder.getChildren().setAll(Texts.wrapped(missing, "quiet"));
      detail.show(null, null, null);
      tradeOff.show(null);
      contrast.show(null);
      columns.setDisable(true);
      excerpts.setVisible(false);
      rank.setText("");
      return;
    }
    columns.setDisable(false);
    List<Declaration> measures = ReadingSheet.measures(scores);
    fillExcerpts(scores);
    fillColumns(scores, measures);
    sheetHolder.getChildren().setAll(sheet);
    sheet.show(shown(), beside(scores));
    // As high as its rows ask for, up to half the step's height: the detail needs the rest.
    double wanted = 90 + 31 * sheet.rows();
    scroll.setMinHeight(Math.min(wanted, 170));
    scroll.setPrefHeight(Math.min(wanted, 340));
    tradeOff.show(shown());
    contrast.show(shown());
    selectSomething(shown(), measures);
    selectionChanged();
  }

  /** Why there is no sheet; null if there is one. */
  private String missing(ScoreSheet scores) {
    if (scores == null || scores.entries().isEmpty()) {
      return workspace.comparison().versions().isEmpty()
          ? "There is nothing to measure yet: bring in a source and versions under Gather."
          : "The sheet appears here as soon as the versions are measured.";
    }
    return ReadingSheet.measures(scores).isEmpty()
        ? "This version of the program has no measures for the job "
            + scores.job().title()
            + " yet. Matching, listening, marks and verdicts are all there."
        : null;
  }

  // --- excerpts ---

  private void fillExcerpts(ScoreSheet scores) {
    List<String> places = scores.places();
    excerpts.setVisible(!places.isEmpty());
    excerpts.setManaged(!places.isEmpty());
    filling = true;
    String before = excerpts.getValue();
    excerpts.getItems().setAll(TOGETHER, SIDE_BY_SIDE);
    excerpts.getItems().addAll(places);
    excerpts.setValue(excerpts.getItems().contains(before) ? before : TOGETHER);
    filling = false;
    rank.setText(
        RankTests.over(places.stream().map(scores::at).toList())
            .map(
                t ->
                    "Over "
                        + t.occasions()
                        + " excerpts the versions differ with p = "
                        + Numbers.fixed(t.p(), 3)
                        + " (Friedman)")
            .orElse(""));
  }

  /** The sheet of the chosen excerpt, or of all together. */
  private ScoreSheet shown() {
    ScoreSheet scores = workspace.sheetProperty().get();
    String place = excerpts.getValue();
    return scores.places().contains(place) ? scores.at(place) : scores;
  }

  private Map<String, ScoreSheet> beside(ScoreSheet scores) {
    Map<String, ScoreSheet> beside = new LinkedHashMap<>();
    if (SIDE_BY_SIDE.equals(excerpts.getValue())) {
      scores.places().forEach(p -> beside.put(p, scores.at(p)));
    }
    return beside;
  }

  // --- columns ---

  private void fillColumns(ScoreSheet scores, List<Declaration> measures) {
    columns.getItems().clear();
    Axis last = null;
    for (Declaration d : measures) {
      Axis axis = d.axis(scores.job());
      if (last != null && axis != last) {
        columns.getItems().add(new SeparatorMenuItem());
      }
      last = axis;
      CheckMenuItem item = new CheckMenuItem(d.title());
      item.setSelected(workspace.sheetLayout().shown(d.id()));
      item.setOnAction(e -> workspace.sheetLayout().show(d.id(), item.isSelected()));
      columns.getItems().add(item);
    }
    MenuItem all = new MenuItem("Show all");
    all.setOnAction(e -> workspace.sheetLayout().showAll());
    columns.getItems().addAll(new SeparatorMenuItem(), all);
  }

  // --- selection ---

  /** Without a selection the reading that costs most is shown: the first thing to look at. */
  private void selectSomething(ScoreSheet scores, List<Declaration> measures) {
    String version = workspace.selection().versionProperty().get();
    String measure = workspace.selection().measureProperty().get();
    boolean versionThere = version != null && ReadingSheet.entry(scores, version).isPresent();
    if (versionThere && measures.stream().anyMatch(d -> d.id().equals(measure))) {
      return;
    }
    if (workspace.busyProperty().get()) {
      // Which version is the best, and what it suffers from, is known when all are measured.
      return;
    }
    Entry best =
        versionThere ? ReadingSheet.entry(scores, version).orElseThrow() : scores.ranked().get(0);
    String worst = measures.get(0).id();
    double lowest = 101;
    for (Declaration d : measures) {
      var scale = scores.scoring().scale(d, scores.job());
      var reading = best.reading(d.id());
      if (scale.isPresent() && reading.isPresent()) {
        double score = scale.get().score(reading.get().scored().value());
        if (score < lowest) {
          lowest = score;
          worst = d.id();
        }
      }
    }
    workspace.selection().reading(best.measured().id(), worst);
  }

  private void selectionChanged() {
    String version = workspace.selection().versionProperty().get();
    String measure = workspace.selection().measureProperty().get();
    sheet.select(version, measure);
    ScoreSheet scores = workspace.sheetProperty().get();
    boolean there = scores != null && version != null && missing(scores) == null;
    Declaration declaration = measure == null ? null : Measures.declaration(measure);
    ScoreSheet judged = there ? shown() : null;
    detail.show(
        judged, there ? ReadingSheet.entry(judged, version).orElse(null) : null, declaration);
  }

  /** Plays the next or the previous spot of the selected reading, or clipped passage. */
  public void stepSpot(int by) {
    if (face.getChildren().contains(clipping)) {
      clipping.step(by);
    } else {
      detail.stepSpot(by);
    }
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
