package kettlesieve.app.match;

import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.CommonPart;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.fairness.Fairness;
import org.kordamp.ikonli.feather.Feather;

/** Match: what was found and corrected, an overlay at an attack, and a way to overrule it. */
public final class MatchView extends VBox {
  private final Workspace workspace;
  private final MatchTable table;
  private final VBox unfair = new VBox(3);
  private final Button common = new Button("", Icons.of(Feather.CROP));
  private final ComboBox<LevelMode> level = new ComboBox<>();
  private final Label levelWords = Texts.of("", "quiet", "small");
  private boolean showing;
  private final AttackOverlay overlay;
  private final ByHand byHand;

  public MatchView(Workspace workspace) {
    this.workspace = workspace;
    this.overlay = new AttackOverlay(workspace);
    this.table = new MatchTable(workspace);
    this.byHand = new ByHand(workspace);
    getStyleClass().add("page");
    setId("match");
    level.getItems().setAll(LevelMode.values());
    level.setConverter(Words.of(LevelMode::title));
    level.setId("level-mode");
    level.setAccessibleText("What levels are matched on");
    level.setOnAction(
        e -> {
          if (!showing) {
            workspace.edit(c -> c.withLevel(level.getValue()));
          }
        });
    common.setId("common-part");
    common.setAccessibleText("Compare on what all versions cover");
    Hint.set(
        common, "Some versions lack a part of what is measured; choose the part that all have");
    HBox levels = new HBox(8, Texts.of("Levels matched on"), level, levelWords);
    levels.setAlignment(Pos.CENTER_LEFT);
    VBox left =
        new VBox(
            10, levels, table, Texts.of("What would have been unfair", "section"), common, unfair);
    ScrollPane scroll = new ScrollPane(left);
    scroll.setFitToWidth(true);
    HBox.setHgrow(scroll, Priority.ALWAYS);
    VBox right = new VBox(10, overlay, byHand);
    right.setPrefWidth(348);
    right.setMinWidth(348);
    VBox.setVgrow(overlay, Priority.ALWAYS);
    HBox both = new HBox(16, scroll, right);
    VBox.setVgrow(both, Priority.ALWAYS);
    getChildren().add(both);
    workspace.comparisonProperty().addListener((o, was, is) -> show());
    workspace
        .versionStates()
        .addListener((javafx.collections.MapChangeListener<String, VersionState>) c -> show());
    workspace.selection().versionProperty().addListener((o, was, is) -> show());
    workspace.sheetProperty().addListener((o, was, is) -> fillUnfair());
    show();
  }

  private Version selected() {
    List<Version> versions = workspace.comparison().versions();
    String id = workspace.selection().versionProperty().get();
    return versions.stream()
        .filter(v -> v.id().equals(id))
        .findFirst()
        .orElse(versions.isEmpty() ? null : versions.get(0));
  }

  private void show() {
    showing = true;
    Job job = workspace.comparison().job();
    level.setValue(workspace.comparison().level());
    level.setDisable(job.inStems());
    levelWords.setText(
        switch (job) {
          case STEMS -> "levels of stems are part of what is judged, and left alone";
          case DECLIP -> "wanted sound: the samples that were never clipped";
          case STRETCH, PITCH ->
              "wanted sound: integrated loudness, where cells cannot be compared";
          case DENOISE, DEREVERB -> "";
        });
    showing = false;
    Version version = selected();
    table.fill(version);
    fillUnfair();
    overlay.show(version);
    byHand.fill(version);
  }

  /** Where versions cover different parts of what is measured, one click takes what all have. */
  private void fillCommon() {
    Comparison c = workspace.comparison();
    Optional<TimeSpan> all = CommonPart.of(c, workspace.sourceProperty().get(), workspace::state);
    common.setVisible(all.isPresent());
    common.setManaged(all.isPresent());
    all.ifPresent(
        span -> {
          common.setText(
              "Compare on what all cover: "
                  + workspace.clock().text(span.from())
                  + " – "
                  + workspace.clock().text(span.to()));
          common.setOnAction(e -> workspace.edit(x -> x.withTogether(false).withExcerpt(span)));
        });
  }

  private void fillUnfair() {
    fillCommon();
    unfair.getChildren().clear();
    for (Version v : workspace.comparison().versions()) {
      Prepared prepared = workspace.state(v.id()).prepared();
      if (prepared != null) {
        for (String warning : prepared.match().warnings()) {
          unfair.getChildren().add(Texts.wrapped(v.label() + ": " + warning, "warning-text"));
        }
      }
    }
    var sheet = workspace.sheetProperty().get();
    List<Fairness.Item> items = sheet == null ? List.of() : sheet.allFairness();
    GridPane grid = new GridPane();
    grid.setHgap(12);
    grid.setVgap(3);
    double[] widths = {150, 90, 220, 240};
    for (double width : widths) {
      ColumnConstraints column = new ColumnConstraints(width * 0.6, width, 600);
      column.setHgrow(Priority.SOMETIMES);
      grid.getColumnConstraints().add(column);
    }
    String last = null;
    int row = 0;
    for (Fairness.Item item : items) {
      String who = item.version().isEmpty() ? "All together" : item.version();
      if (!who.equals(last)) {
        grid.add(Texts.of(who, "strong", "small"), 0, row);
      }
      last = who;
      grid.add(Texts.of(item.matter(), "quiet", "small"), 1, row);
      grid.add(Texts.wrapped(item.found(), "small"), 2, row);
      grid.add(Texts.wrapped(item.done(), "quiet", "small"), 3, row++);
    }
    unfair.getChildren().add(grid);
    if (items.isEmpty() && unfair.getChildren().size() == 1) {
      unfair
          .getChildren()
          .add(
              Texts.of(
                  sheet == null ? "Still looking." : "Nothing was found that had to be put right.",
                  "quiet"));
    }
  }
}
