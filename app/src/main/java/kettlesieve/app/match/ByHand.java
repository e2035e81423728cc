package kettlesieve.app.match;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;

/** What a person sets by hand of a version's place, level and length. */
final class ByHand extends VBox {
  private final Workspace workspace;
  private final Map<String, TextField> fields = new HashMap<>();
  private final Button turn = new Button();
  private final Button reset = new Button("Back to what was found");
  private List<Object> shown;

  ByHand(Workspace workspace) {
    super(8);
    this.workspace = workspace;
    getStyleClass().setAll("card");
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
  void fill(Version version) {
    Effective now = version == null ? null : effective(version.id());
    setVisible(now != null);
    if (now == null) {
      return;
    }
    List<Object> key = List.of(version.id(), version.label(), now.ownTime());
    if (!key.equals(shown)) {
      shown = key;
      build(version.id(), version.label(), now);
    }
    renew("delay", Numbers.fixed(now.delay(), 2));
    renew("gain", Numbers.fixed(now.gain(), 2));
    renew("drift", Numbers.fixed(now.drift(), 1));
    renew("ratio", Numbers.fixed(now.ratio(), 5));
    turn.setText(now.polarity() < 0 ? "Inverted: leave as it came" : "Turn over");
    reset.setDisable(version.match().none());
  }

  private void renew(String id, String text) {
    TextField field = fields.get(id);
    if (field != null && !field.isFocused()) {
      field.setText(text);
    }
  }

  private void build(String id, String label, Effective start) {
    double rate = workspace.sourceProperty().get().audio().sampleRate();
    fields.clear();
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
    getChildren().setAll(Texts.of("Set by hand: " + label, "strong"), grid, reset);
  }

  private Node steps(
      String id,
      String unit,
      java.util.function.Consumer<String> typed,
      String[] words,
      double[] amounts,
      java.util.function.DoubleConsumer stepped) {
    TextField field = new TextField();
    fields.put(id, field);
    field.setPrefWidth(76);
    field.setMinWidth(64);
    field.setId("hand-" + id);
    field.setAccessibleText(id + " in " + unit);
    field.setAlignment(Pos.CENTER_RIGHT);
    field.setOnAction(e -> typed.accept(field.getText()));
    Label unitLabel = Texts.of(unit, "small", "quiet");
    unitLabel.setMinWidth(USE_PREF_SIZE);
    HBox box = new HBox(3, field, unitLabel);
    box.setAlignment(Pos.CENTER_LEFT);
    for (int i = 0; i < words.length; i++) {
      double amount = amounts[i];
      Button button = new Button(words[i]);
      button.getStyleClass().add("small");
      button.setStyle("-fx-padding: 4 4 4 4;");
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
