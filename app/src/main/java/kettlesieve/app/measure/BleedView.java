package kettlesieve.app.measure;

import java.util.List;
import java.util.Optional;
import javafx.beans.binding.Bindings;
import javafx.geometry.HPos;
import javafx.geometry.Insets;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SplitPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Share;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;

/**
 * Who is heard in whose stem: a grid of stems by roles for each version, as ink and as a figure. A
 * cell shows where that comes from, and plays the stem there.
 */
final class BleedView extends StackPane {
  private static final String BLEED = "bleed";
  private static final double LOUDEST = -3;
  private static final double SOFTEST = -36;
  private static final double INK = 0.62;

  private static final String FLOOR_STYLE =
      "-fx-background-color: transparent; -fx-text-fill: -quiet; -fx-border-color: -rule;"
          + " -fx-border-style: dashed;";

  private final Workspace workspace;
  private final FlowPane grids = new FlowPane(26, 18);
  private final CellDetail detail;
  private String excerpt = "";

  BleedView(Workspace workspace) {
    this.workspace = workspace;
    this.detail = new CellDetail(workspace);
    setId("bleed");
    grids.setPadding(new Insets(4, 14, 10, 14));
    ScrollPane scroll = new ScrollPane(grids);
    scroll.setFitToWidth(true);
    detail.setMinHeight(0);
    SplitPane split = new SplitPane(scroll, detail);
    split.setOrientation(Orientation.VERTICAL);
    split.getStyleClass().add("sheet-split");
    split.setDividerPositions(0.55);
    getChildren().add(split);
    workspace.selection().addressProperty().addListener((o, was, is) -> selected());
  }

  void show(ScoreSheet sheet, Part part) {
    excerpt = part.excerpt();
    grids.getChildren().clear();
    if (sheet == null) {
      detail.show(null, null, null);
      return;
    }
    List<Version> versions = workspace.comparison().versions();
    // The same columns for all: what one tool has nothing of is an empty place.
    List<String> heard =
        Roles.sorted(
            versions.stream()
                .flatMap(v -> v.stems().keySet().stream().map(s -> reading(sheet, v, s)))
                .flatMap(Optional::stream)
                .flatMap(r -> r.by().stream())
                .map(Share::role)
                .distinct()
                .toList());
    for (Version version : versions) {
      if (!version.stems().isEmpty()) {
        grids.getChildren().add(grid(sheet, version, versions.indexOf(version), heard));
      }
    }
    selected();
  }

  private Node grid(ScoreSheet sheet, Version version, int index, List<String> heard) {
    GridPane grid = new GridPane();
    grid.setHgap(2);
    grid.setVgap(2);
    List<String> stems = Roles.sorted(version.stems().keySet());
    Label corner = Texts.of("in the stem", "caption");
    Hint.set(corner, "Each row is a stem; each column a role, and how loud it is in the stem");
    corner.setMinWidth(Region.USE_PREF_SIZE);
    grid.add(corner, 0, 0);
    for (int c = 0; c < heard.size(); c++) {
      Label head = Texts.of(heard.get(c), "column-head");
      head.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
      head.setMaxWidth(62);
      Hint.set(head, "How loud " + heard.get(c) + " is in each stem");
      GridPane.setHalignment(head, HPos.CENTER);
      grid.add(head, c + 1, 0);
    }
    for (int r = 0; r < stems.size(); r++) {
      Label stem = Texts.of(stems.get(r), "small");
      stem.setMaxWidth(150);
      stem.setMinWidth(56);
      GridPane.setMargin(stem, new Insets(0, 8, 0, 0));
      stem.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
      Hint.set(stem, "The stem " + stems.get(r));
      grid.add(stem, 0, r + 1);
      Optional<Reading> reading = reading(sheet, version, stems.get(r));
      for (int c = 0; c < heard.size(); c++) {
        grid.add(cell(version, stems.get(r), heard.get(c), reading), c + 1, r + 1);
      }
      if (reading.isEmpty()) {
        Label why = Texts.of("not told: hover", "quiet", "small");
        Hint.set(why, reason(sheet, version, stems.get(r)));
        grid.add(why, heard.size() + 1, r + 1);
      }
    }
    Label name = VersionName.strong(workspace, version.label());
    name.setMaxWidth(320);
    HBox title = new HBox(8, VersionSign.of(index, 20), name);
    title.setAlignment(Pos.CENTER_LEFT);
    VBox box = new VBox(6, title, grid);
    box.setId("bleed-of-" + version.id());
    return box;
  }

  private Optional<Entry> entry(ScoreSheet sheet, Version version, String stem) {
    return sheet.entry(new Part(stem, excerpt), version.id());
  }

  private Optional<Reading> reading(ScoreSheet sheet, Version version, String stem) {
    return entry(sheet, version, stem).flatMap(e -> e.reading(BLEED));
  }

  private String reason(ScoreSheet sheet, Version version, String stem) {
    return entry(sheet, version, stem)
        .flatMap(e -> e.reasonNotMeasured(BLEED))
        .orElse("not measured");
  }

  private Node cell(Version version, String stem, String role, Optional<Reading> reading) {
    Share share =
        reading.stream()
            .flatMap(r -> r.by().stream())
            .filter(s -> s.role().equals(role))
            .findFirst()
            .orElse(null);
    if (share == null) {
      Region nothing = new Region();
      nothing.setPrefSize(62, 30);
      return nothing;
    }
    double db = share.figure().estimate().value();
    boolean floor = share.figure().limit() == Limit.AT_OR_BELOW;
    String text = share.figure().limit().sign() + Numbers.fixed(db, 0);
    Button button = new Button(text);
    button.setMnemonicParsing(false);
    button.setId("bleed-" + version.id() + "-" + stem + "-" + role);
    button.getStyleClass().setAll("bleed-cell");
    button.setPrefSize(62, 30);
    double depth = floor ? 0 : INK * (db - SOFTEST) / (LOUDEST - SOFTEST);
    button
        .styleProperty()
        .bind(
            Bindings.createStringBinding(
                () -> floor ? FLOOR_STYLE : shadeStyle(depth), Ink.lookProperty()));
    String words =
        role
            + " in the stem "
            + stem
            + " of "
            + version.label()
            + ": "
            + text
            + " dB"
            + (floor ? ", at or below what can be told" : "");
    Hint.set(button, words);
    button.setAccessibleText(words);
    button.setOnAction(
        e ->
            workspace
                .selection()
                .reading(new Address(version.id(), new Part(stem, excerpt), BLEED, role)));
    return button;
  }

  private void selected() {
    ScoreSheet sheet = workspace.sheetProperty().get();
    Address chosen = workspace.selection().addressProperty().get();
    if (sheet == null || chosen == null || !BLEED.equals(chosen.measure())) {
      detail.show(null, null, null);
      return;
    }
    detail.show(
        sheet,
        sheet.entry(chosen.part(), chosen.version()).orElse(null),
        Measures.declaration(BLEED),
        chosen.against());
  }

  /** Plays the next or the previous spot of the chosen cell. */
  void stepSpot(int by) {
    detail.stepSpot(by);
  }

  private static String shadeStyle(double depth) {
    String ground = String.format("#%06x", Ink.look().shade(depth) & 0xffffff);
    String words = Ink.Look.on(Color.web(ground)) == Color.WHITE ? "white" : "black";
    return "-fx-background-color: " + ground + "; -fx-text-fill: " + words + ";";
  }
}
