package kettlesieve.app.match;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.CommonPart;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Fairness;
import kettlesieve.core.match.Match;
import org.kordamp.ikonli.feather.Feather;

/** Match: what was found and corrected, an overlay at an attack, and a way to overrule it. */
public final class MatchView extends VBox {
  private final Workspace workspace;
  private final GridPane table = new GridPane();
  private final VBox unfair = new VBox(3);
  private final Button common = new Button("", Icons.of(Feather.CROP));
  private final ComboBox<LevelMode> level = new ComboBox<>();
  private final Label levelWords = Texts.of("", "quiet", "small");
  private boolean showing;
  private List<Object> shownTable;
  private List<Object> shownByHand;
  private final Map<String, TextField> handFields = new HashMap<>();
  private final Button turn = new Button();
  private final Button reset = new Button("Back to what was found");
  private final AttackOverlay overlay;
  private final VBox byHand = new VBox(8);

  public MatchView(Workspace workspace) {
    this.workspace = workspace;
    this.overlay = new AttackOverlay(workspace);
    getStyleClass().add("page");
    setId("match");
    byHand.getStyleClass().setAll("card");
    table.setHgap(4);
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
    common.setTooltip(
        new Tooltip(
            "Some versions lack a part of what is measured; choose the part that all have"));
    HBox levels = new HBox(8, Texts.of("Levels matched on"), level, levelWords);
    levels.setAlignment(Pos.CENTER_LEFT);
    VBox left =
        new VBox(
            10, levels, table, Texts.of("What would have been unfair", "section"), common, unfair);
    ScrollPane scroll = new ScrollPane(left);
    scroll.setFitToWidth(true);
    HBox.setHgrow(scroll, Priority.ALWAYS);
    VBox right = new VBox(10, overlay, byHand);
    right.setPrefWidth(400);
    right.setMinWidth(400);
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
    level.setDisable(job == Job.STEMS);
    levelWords.setText(
        switch (job) {
          case STEMS -> "levels of stems are part of what is judged, and left alone";
          case DECLIP -> "wanted sound: the samples that were never clipped";
          case STRETCH, PITCH ->
              "wanted sound: integrated loudness, where cells cannot be compared";
          default -> "";
        });
    showing = false;
    fillTable();
    fillUnfair();
    Version version = selected();
    overlay.show(version);
    fillByHand(version);
  }

  private void fillTable() {
    List<Object> key = new ArrayList<>();
    Version chosen = selected();
    key.add(chosen == null ? "" : chosen.id());
    key.add(workspace.comparison().ratio() == null ? 1 : workspace.comparison().ratio());
    for (Version v : workspace.comparison().versions()) {
      VersionState state = workspace.state(v.id());
      key.add(v.id() + v.label());
      key.add(v.match());
      key.add(state.problem() == null ? "" : state.problem());
      key.add(state.prepared() == null ? "" : state.prepared().match());
    }
    if (key.equals(shownTable)) {
      return;
    }
    shownTable = key;
    table.getChildren().clear();
    String[] heads = {
      "Version", "Delay", "Polarity", "Level", "Rate", "Drift", "Length", "Channels", "Likeness"
    };
    double[] widths = {176, 98, 72, 72, 66, 72, 76, 74, 76};
    table.getColumnConstraints().clear();
    for (int i = 0; i < heads.length; i++) {
      ColumnConstraints column = new ColumnConstraints();
      column.setMinWidth(widths[i] * 0.8);
      column.setPrefWidth(widths[i]);
      table.getColumnConstraints().add(column);
      Label head = Texts.of(heads[i], "column-head");
      GridPane.setHalignment(head, i == 0 ? javafx.geometry.HPos.LEFT : javafx.geometry.HPos.RIGHT);
      head.setPadding(new Insets(0, 6, 4, 6));
      table.add(head, i, 0);
    }
    int row = 1;
    Version selected = selected();
    for (Version v : workspace.comparison().versions()) {
      addRow(v, row++, v == selected);
    }
    if (row == 1) {
      table.add(
          Texts.of("There are no versions yet: bring them in under Gather.", "quiet"), 0, 1, 9, 1);
    }
  }

  private void addRow(Version v, int row, boolean selected) {
    ToggleButton name = new ToggleButton(v.label(), VersionSign.of(row - 1, 18));
    name.getStyleClass().setAll("toggle-button", "pick-row");
    name.setId("match-" + v.id());
    name.setSelected(selected);
    name.setMaxWidth(Double.MAX_VALUE);
    name.setAlignment(Pos.CENTER_LEFT);
    name.setOnAction(
        e -> {
          workspace.selection().version(v.id());
          name.setSelected(true);
        });
    table.add(name, 0, row);
    VersionState state = workspace.state(v.id());
    if (state.problem() != null) {
      table.add(Texts.wrapped(state.problem(), "warning-text", "small"), 1, row, 8, 1);
      return;
    }
    if (state.prepared() == null) {
      table.add(Texts.of("matching …", "quiet"), 1, row, 8, 1);
      return;
    }
    Match m = state.prepared().match();
    boolean[] hand = {
      v.match().delaySamples() != null, v.match().polarity() != null, v.match().gainDb() != null
    };
    cell(row, 1, Numbers.signed(m.delayMs(), 2) + " ms", m.delaySamples() != 0, hand[0]);
    cell(row, 2, m.polarity() < 0 ? "inverted" : "normal", m.polarity() < 0, hand[1]);
    cell(row, 3, Numbers.signed(-m.gainDb(), 1) + " dB", Math.abs(m.gainDb()) >= 0.05, hand[2]);
    cell(
        row,
        4,
        Numbers.fixed(m.originalRate() / 1000.0, m.originalRate() % 1000 == 0 ? 0 : 1) + " kHz",
        workspace.sourceProperty().get() != null
            && m.originalRate() != workspace.sourceProperty().get().audio().sampleRate(),
        false);
    cell(
        row,
        5,
        Numbers.fixed(m.driftPpm(), 1) + " ppm",
        m.driftPpm() != 0,
        v.match().driftPpm() != null);
    double asked = asked();
    boolean own = !state.prepared().map().identity();
    cell(
        row,
        6,
        own ? "× " + Numbers.fixed(m.ratio(), 4) : Numbers.fixed(100 * m.ratio(), 1) + " %",
        Math.abs(m.ratio() / asked - 1) > 0.002,
        v.match().ratio() != null);
    int channels = m.originalChannels();
    var source = workspace.sourceProperty().get();
    cell(
        row,
        7,
        channels == 1 ? "mono" : channels == 2 ? "stereo" : Integer.toString(channels),
        source != null && channels != source.audio().channels(),
        false);
    Label likeness = cell(row, 8, Numbers.fixed(m.confidence(), 2), false, false);
    if (m.confidence() < 0.3) {
      likeness.getStyleClass().add("warning-text");
    }
  }

  private Label cell(int row, int column, String text, boolean corrected, boolean byHand) {
    Label label = Texts.of(byHand ? text + " ✎" : text);
    if (corrected || byHand) {
      label.getStyleClass().add("strong");
    } else {
      label.getStyleClass().add("quiet");
    }
    label.setPadding(new Insets(3, 6, 3, 6));
    label.setMinWidth(USE_PREF_SIZE);
    GridPane.setHalignment(label, javafx.geometry.HPos.RIGHT);
    table.add(label, column, row);
    return label;
  }

  /** The length asked for over the source's. */
  private double asked() {
    Comparison c = workspace.comparison();
    return c.job() == Job.STRETCH && c.ratio() != null ? c.ratio() : 1;
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
                  + Numbers.clock(span.from())
                  + " – "
                  + Numbers.clock(span.to()));
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

  /** What counts now: what was set by hand, before matching has caught up, else what was found. */
  private record Effective(
      double delay, double gain, double drift, double ratio, int polarity, boolean ownTime) {}

  private Effective effective(String id) {
    Version version = workspace.comparison().version(id).orElse(null);
    Prepared prepared = workspace.state(id).prepared();
    if (version == null || prepared == null) {
      return null;
    }
    Match m = prepared.match();
    MatchOverride hand = version.match();
    return new Effective(
        hand.delaySamples() != null ? hand.delaySamples() : m.delaySamples(),
        hand.gainDb() != null ? hand.gainDb() : m.gainDb(),
        hand.driftPpm() != null ? hand.driftPpm() : m.driftPpm(),
        hand.ratio() != null ? hand.ratio() : m.ratio(),
        hand.polarity() != null ? hand.polarity() : m.polarity(),
        !prepared.map().identity());
  }

  /**
   * Builds the fields when another version is chosen, and otherwise only renews their figures: a
   * button that is replaced while it is pressed would lose the click.
   */
  private void fillByHand(Version version) {
    Effective now = version == null ? null : effective(version.id());
    byHand.setVisible(now != null);
    if (now == null) {
      return;
    }
    List<Object> key = List.of(version.id(), version.label(), now.ownTime());
    if (!key.equals(shownByHand)) {
      shownByHand = key;
      buildByHand(version.id(), version.label(), now);
    }
    renew("delay", Numbers.fixed(now.delay(), 2));
    renew("gain", Numbers.fixed(now.gain(), 2));
    renew("drift", Numbers.fixed(now.drift(), 1));
    renew("ratio", Numbers.fixed(now.ratio(), 5));
    turn.setText(now.polarity() < 0 ? "Inverted: leave as it came" : "Turn over");
    reset.setDisable(version.match().none());
  }

  private void renew(String id, String text) {
    TextField field = handFields.get(id);
    if (field != null && !field.isFocused()) {
      field.setText(text);
    }
  }

  private void buildByHand(String id, String label, Effective start) {
    double rate = workspace.sourceProperty().get().audio().sampleRate();
    handFields.clear();
    GridPane grid = new GridPane();
    grid.setHgap(5);
    grid.setVgap(6);
    grid.add(Texts.of("Delay"), 0, 0);
    grid.add(
        steps(
            "delay",
            "samples",
            text -> change(id, o -> o.withDelaySamples(number(text, effective(id).delay()))),
            new String[] {"−1 ms", "−1", "+1", "+1 ms"},
            new double[] {-rate / 1000, -1, 1, rate / 1000},
            by -> change(id, o -> o.withDelaySamples(effective(id).delay() + by))),
        1,
        0);
    grid.add(Texts.of("Gain"), 0, 1);
    grid.add(
        steps(
            "gain",
            "dB",
            text -> change(id, o -> o.withGainDb(number(text, effective(id).gain()))),
            new String[] {"−1", "−0.1", "+0.1", "+1"},
            new double[] {-1, -0.1, 0.1, 1},
            by -> change(id, o -> o.withGainDb(effective(id).gain() + by))),
        1,
        1);
    if (start.ownTime()) {
      grid.add(Texts.of("Length"), 0, 2);
      grid.add(
          steps(
              "ratio",
              "times",
              text -> ratio(id, number(text, effective(id).ratio())),
              new String[] {"−0.001", "+0.001"},
              new double[] {-0.001, 0.001},
              by -> ratio(id, effective(id).ratio() + by)),
          1,
          2);
    } else {
      grid.add(Texts.of("Drift"), 0, 2);
      grid.add(
          steps(
              "drift",
              "ppm",
              text -> change(id, o -> o.withDriftPpm(number(text, effective(id).drift()))),
              new String[] {"−10", "−1", "+1", "+10"},
              new double[] {-10, -1, 1, 10},
              by -> change(id, o -> o.withDriftPpm(effective(id).drift() + by))),
          1,
          2);
      grid.add(Texts.of("Polarity"), 0, 3);
      grid.add(turn, 1, 3);
    }
    turn.setId("turn-polarity");
    turn.setOnAction(e -> change(id, o -> o.withPolarity(-effective(id).polarity())));
    reset.setId("reset-match");
    reset.setOnAction(e -> change(id, o -> MatchOverride.NONE));
    byHand.getChildren().setAll(Texts.of("Set by hand: " + label, "strong"), grid, reset);
  }

  private Node steps(
      String id,
      String unit,
      java.util.function.Consumer<String> typed,
      String[] words,
      double[] amounts,
      java.util.function.DoubleConsumer stepped) {
    TextField field = new TextField();
    handFields.put(id, field);
    field.setPrefWidth(92);
    field.setId("hand-" + id);
    field.setAccessibleText(id + " in " + unit);
    field.setAlignment(Pos.CENTER_RIGHT);
    field.setOnAction(e -> typed.accept(field.getText()));
    Label unitLabel = Texts.of(unit, "small", "quiet");
    unitLabel.setMinWidth(USE_PREF_SIZE);
    HBox box = new HBox(4, field, unitLabel);
    box.setAlignment(Pos.CENTER_LEFT);
    for (int i = 0; i < words.length; i++) {
      double amount = amounts[i];
      Button button = new Button(words[i]);
      button.getStyleClass().add("small");
      button.setStyle("-fx-padding: 4 6 4 6;");
      button.setMinWidth(USE_PREF_SIZE);
      button.setId("hand-" + id + "-" + i);
      button.setOnAction(e -> stepped.accept(amount));
      box.getChildren().add(button);
    }
    return box;
  }

  private double number(String text, double otherwise) {
    try {
      return Double.parseDouble(text.trim().replace('−', '-').replace(',', '.'));
    } catch (NumberFormatException e) {
      workspace.messageProperty().set("\"" + text + "\" is not a number; nothing was changed.");
      return otherwise;
    }
  }

  private void ratio(String id, double value) {
    if (value >= 0.1 && value <= 10) {
      change(id, o -> o.withRatio(value));
    } else {
      workspace.messageProperty().set("A length lies between 0.1 and 10 times the source's.");
    }
  }

  private void change(String id, UnaryOperator<MatchOverride> change) {
    workspace.edit(
        c -> c.version(id).map(v -> c.withVersion(v.withMatch(change.apply(v.match())))).orElse(c));
  }
}
