package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.event.ActionEvent;
import javafx.geometry.Insets;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.SplitPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.model.sheet.SheetModel;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.RankTests;
import kettlesieve.core.score.ScoreSheet;
import org.kordamp.ikonli.feather.Feather;

/**
 * Measure: the sheet of versions by readings and what lies behind the selected cell; the trade-off
 * between what was gained and what it cost; two versions against each other; the clipped passages.
 *
 * <p>Over 400 lines because four ways of looking share one selection, one choice of stems and
 * excerpts and one bar; each way is a class of its own.
 */
public final class MeasureView extends VBox {
  private static final String ALL_STEMS = "All stems together";
  private static final String TOGETHER = "All excerpts together";
  private static final String SIDE_BY_SIDE = "Each excerpt under its version";

  private final Workspace workspace;
  private final SheetTable sheet;
  private final CellDetail detail;
  private final TradeOffView tradeOff;
  private final ContrastView contrast;
  private final ClippingView clipping;
  private static final int ROWS_SEEN = 8;
  private static final double LEAST_EXPLANATION = 150;

  private final SplitPane readings;
  private final StackPane sheetHolder = new StackPane();
  private final StackPane face = new StackPane();
  private final ToggleGroup faces = new ToggleGroup();
  private final ToggleButton clippingFace;
  private final ToggleButton bleedFace;
  private final BleedView bleed;
  private final ToggleButton rolesFace;
  private final RolesView rolesView;
  private final ToggleButton timingFace;
  private final TimingView timing;
  private final ToggleButton pitchFace;
  private final PitchView pitch;
  private final ComboBox<String> roles = new ComboBox<>();
  private final HBox shares = new HBox(0);
  private final ComboBox<String> excerpts = new ComboBox<>();
  private final MenuButton columns = new MenuButton("Columns");
  private final Label rank = Texts.of("", "quiet", "small");
  private boolean filling;

  public MeasureView(Workspace workspace) {
    this.workspace = workspace;
    this.sheet = new SheetTable(workspace);
    sheet.onSeen(this::share);
    sheet.onOpened(() -> stepSpot(1));
    this.detail = new CellDetail(workspace);
    this.tradeOff = new TradeOffView(workspace);
    this.contrast = new ContrastView(workspace);
    this.clipping = new ClippingView(workspace);
    this.bleed = new BleedView(workspace);
    this.timing = new TimingView(workspace);
    this.pitch = new PitchView(workspace);
    this.rolesView = new RolesView(workspace, this::chooseRole);
    getStyleClass().add("page");
    setId("measure");
    setStyle("-fx-spacing: 8; -fx-padding: 8 0 8 0;");
    sheetHolder.setAlignment(Pos.TOP_LEFT);
    sheetHolder.setPadding(new Insets(0, 14, 0, 14));
    sheetHolder.setMinHeight(0);
    detail.setMinHeight(0);
    readings = new SplitPane(sheetHolder, detail);
    readings.setOrientation(Orientation.VERTICAL);
    readings.getStyleClass().add("sheet-split");
    workspace.sheetLayout().divider().ifPresent(readings::setDividerPositions);
    readings.heightProperty().addListener((o, was, is) -> share());
    readings
        .getDividers()
        .get(0)
        .positionProperty()
        .addListener((o, was, is) -> dividerMoved(is.doubleValue()));
    ToggleButton first = faceButton("Readings", "face-readings", readings);
    faceButton("Gain and harm", "face-trade-off", tradeOff);
    faceButton("Two versions", "face-contrast", contrast);
    clippingFace = faceButton("Clipped passages", "face-clipping", clipping);
    timingFace = faceButton("Time and attacks", "face-timing", timing);
    pitchFace = faceButton("Pitch and formants", "face-pitch", pitch);
    rolesFace = faceButton("Role by role", "face-roles", rolesView);
    bleedFace = faceButton("Who is in whom", "face-bleed", bleed);
    shares.getStyleClass().add("shares");
    for (Share share : Share.values()) {
      shares.getChildren().add(shareButton(share));
    }
    HBox bar = bar();
    VBox.setVgrow(face, Priority.ALWAYS);
    getChildren().addAll(bar, face);
    first.setSelected(true);
    showFace(readings);
    workspace.sheetProperty().addListener((o, was, is) -> fill());
    workspace.comparisonProperty().addListener((o, was, is) -> fill());
    workspace.busyProperty().addListener((o, was, is) -> fill());
    workspace.sheetLayout().changesProperty().addListener((o, was, is) -> fill());
    workspace.selection().addressProperty().addListener((o, was, is) -> selectionChanged());
    fill();
  }

  /** How the height is shared between the sheet and the explanation. */
  private enum Share {
    SHEET(1, Feather.MAXIMIZE_2, "The sheet alone"),
    BOTH(0.52, Feather.CREDIT_CARD, "Sheet and explanation"),
    EXPLANATION(0, Feather.ALIGN_LEFT, "The explanation alone");

    private final double divider;
    private final Feather icon;
    private final String words;

    Share(double divider, Feather icon, String words) {
      this.divider = divider;
      this.icon = icon;
      this.words = words;
    }
  }

  private Button shareButton(Share share) {
    Button button =
        Icons.button(share.icon, share.words, () -> readings.setDividerPositions(share.divider));
    button.addEventHandler(ActionEvent.ACTION, e -> workspace.sheetLayout().divide(share.divider));
    button.setId("share-" + share.name().toLowerCase(Locale.ROOT));
    return button;
  }

  private void dividerMoved(double position) {
    // Only what a hand moves is kept: the window moves it too, whenever it is laid out.
    Node line = readings.lookup(".split-pane-divider");
    if (line != null && line.isPressed()) {
      workspace.sheetLayout().divide(position);
    }
  }

  /** As long as nobody moved the line, the sheet has what its rows ask for, up to eight. */
  private void share() {
    double height = readings.getHeight();
    if (height > 100 && workspace.sheetLayout().divider().isEmpty()) {
      double wanted = Math.min(sheet.heightOf(ROWS_SEEN), height - LEAST_EXPLANATION);
      double position = Math.max(0.2, wanted / height);
      if (Math.abs(readings.getDividerPositions()[0] - position) > 0.003) {
        readings.setDividerPositions(position);
      }
    }
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
          showFace(shown);
        });
    return button;
  }

  private void showFace(Node shown) {
    face.getChildren().setAll(shown);
    for (Node only : List.of(shares, columns)) {
      only.setVisible(shown == readings);
      only.setManaged(shown == readings);
    }
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
    roles.setId("measure-role");
    roles.setAccessibleText("Which stem the sheet shows");
    roles.setOnAction(
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
    bar.getChildren().addAll(gap, rank, roles, excerpts, columns, shares);
    bar.setAlignment(Pos.CENTER_LEFT);
    bar.setPadding(new Insets(0, 14, 0, 14));
    return bar;
  }

  private void fill() {
    ScoreSheet scores = workspace.sheetProperty().get();
    only(clippingFace, workspace.comparison().job() == Job.DECLIP);
    only(bleedFace, workspace.comparison().job().inStems());
    only(rolesFace, workspace.comparison().job().inStems());
    boolean ownTime = workspace.comparison().job().ownTime();
    only(timingFace, ownTime);
    only(pitchFace, ownTime);
    if (ownTime) {
      timing.fill();
      pitch.fill();
    }
    String missing = missing(scores);
    if (missing != null) {
      sheetHolder.getChildren().setAll(Texts.wrapped(missing, "quiet"));
      detail.show(null, null, null);
      tradeOff.show(null, Part.ALL);
      contrast.show(null, Part.ALL);
      bleed.show(null, Part.ALL);
      rolesView.show(null, Part.ALL);
      columns.setDisable(true);
      excerpts.setVisible(false);
      roles.setVisible(false);
      rank.setText("");
      return;
    }
    columns.setDisable(false);
    List<Declaration> measures = scores.columns();
    fillExcerpts(scores);
    fillRoles(scores);
    fillColumns(scores, measures);
    sheetHolder.getChildren().setAll(sheet);
    List<String> ids = workspace.comparison().versions().stream().map(Version::id).toList();
    sheet.show(SheetModel.of(scores, part(), beside(scores), workspace.sheetLayout(), ids));
    tradeOff.show(scores, part());
    contrast.show(scores, part());
    bleed.show(scores, part());
    rolesView.show(scores, part());
    share();
    selectSomething(scores, measures);
    selectionChanged();
  }

  /** Why there is no sheet; null if there is one. */
  private String missing(ScoreSheet scores) {
    if (scores == null || scores.entries().isEmpty()) {
      return workspace.comparison().versions().isEmpty()
          ? "There is nothing to measure yet: bring in a source and versions under Gather."
          : "The sheet appears here as soon as the versions are measured.";
    }
    return scores.columns().isEmpty()
        ? "This version of the program has no measures for the job "
            + scores.job().title()
            + " yet. Matching, listening, marks and verdicts are all there."
        : null;
  }

  // --- excerpts ---

  private void fillExcerpts(ScoreSheet scores) {
    List<String> places = scores.excerpts();
    excerpts.setVisible(!places.isEmpty());
    excerpts.setManaged(!places.isEmpty());
    filling = true;
    String before = excerpts.getValue();
    excerpts.getItems().setAll(TOGETHER, SIDE_BY_SIDE);
    excerpts.getItems().addAll(places);
    excerpts.setValue(excerpts.getItems().contains(before) ? before : TOGETHER);
    filling = false;
    rank.setText(
        RankTests.overExcerpts(scores)
            .map(
                t ->
                    "Over "
                        + t.occasions()
                        + " excerpts the versions differ with p = "
                        + Numbers.fixed(t.p(), 3)
                        + " (Friedman)")
            .orElse(""));
  }

  /** The stems that were measured, over all versions. */
  private void fillRoles(ScoreSheet scores) {
    List<String> there =
        Roles.sorted(
            scores.ranks().keySet().stream()
                .map(Part::role)
                .filter(r -> !r.isEmpty())
                .distinct()
                .toList());
    roles.setVisible(!there.isEmpty());
    roles.setManaged(!there.isEmpty());
    filling = true;
    String before = roles.getValue();
    List<String> all = new ArrayList<>(List.of(ALL_STEMS));
    all.addAll(there);
    // Only what is new: while a choice is being made its box must not be emptied under it.
    if (!roles.getItems().equals(all)) {
      roles.getItems().setAll(all);
    }
    String now = all.contains(before) ? before : ALL_STEMS;
    if (!now.equals(roles.getValue())) {
      roles.setValue(now);
    }
    filling = false;
  }

  /** A face that one job has alone. */
  private void only(ToggleButton button, boolean there) {
    button.setVisible(there);
    button.setManaged(there);
    if (!there && button.isSelected()) {
      faces.selectToggle(faces.getToggles().get(0));
      showFace(readings);
    }
  }

  /** The chosen stem and excerpt, or all together. */
  private Part part() {
    String place = excerpts.getValue();
    boolean one = workspace.sheetProperty().get().excerpts().contains(place);
    return new Part(role(), one ? place : "");
  }

  private void chooseRole(String role) {
    roles.setValue(role.isEmpty() ? ALL_STEMS : role);
  }

  private String role() {
    String role = roles.getValue();
    return role == null || role.equals(ALL_STEMS) ? "" : role;
  }

  private List<Part> beside(ScoreSheet scores) {
    return SIDE_BY_SIDE.equals(excerpts.getValue())
        ? scores.excerpts().stream().map(e -> new Part(role(), e)).toList()
        : List.of();
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
    boolean versionThere = version != null && scores.entry(part(), version).isPresent();
    if (versionThere && measures.stream().anyMatch(d -> d.id().equals(measure))) {
      return;
    }
    if (workspace.busyProperty().get()) {
      // Which version is the best, and what it suffers from, is known when all are measured.
      return;
    }
    List<Entry> ranked = scores.ranked(part());
    Entry best = versionThere ? scores.entry(part(), version).orElseThrow() : ranked.get(0);
    workspace
        .selection()
        .reading(new Address(best.version().id(), part(), SheetModel.costliest(scores, best), ""));
  }

  private void selectionChanged() {
    Address chosen = workspace.selection().addressProperty().get();
    ScoreSheet scores = workspace.sheetProperty().get();
    if (scores == null || chosen == null || missing(scores) != null) {
      detail.show(null, null, null);
      return;
    }
    detail.show(
        scores,
        scores.entry(chosen.part(), chosen.version()).orElse(null),
        Measures.declaration(chosen.measure()));
  }

  /** Plays the next or the previous spot of the selected reading, or clipped passage. */
  public void stepSpot(int by) {
    if (face.getChildren().contains(clipping)) {
      clipping.step(by);
    } else if (face.getChildren().contains(timing)) {
      timing.step(by);
    } else if (face.getChildren().contains(bleed)) {
      bleed.stepSpot(by);
    } else {
      detail.stepSpot(by);
    }
  }

  /** Puts the selected version's row on the clipboard, for a spreadsheet. */
  public void copyRow() {
    String version = workspace.selection().versionProperty().get();
    String text = version == null || sheet.model() == null ? "" : sheet.model().text(version);
    if (!text.isEmpty()) {
      ClipboardContent content = new ClipboardContent();
      content.putString(text);
      Clipboard.getSystemClipboard().setContent(content);
      workspace.news().done("The row is on the clipboard: paste it into a spreadsheet.");
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
