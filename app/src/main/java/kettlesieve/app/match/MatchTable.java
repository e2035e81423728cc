package kettlesieve.app.match;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.ShortNames;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;

/** What matching found of each version, a row a version. */
final class MatchTable extends GridPane {
  private final Workspace workspace;
  private List<Object> shown;

  MatchTable(Workspace workspace) {
    this.workspace = workspace;
    setHgap(0);
    getStyleClass().add("match-table");
  }

  /**
   * Fills the table anew if anything in it has changed.
   *
   * @param chosen the version that is looked at; null for none
   */
  void fill(Version chosen) {
    List<Object> key = new ArrayList<>();
    key.add(chosen == null ? "" : chosen.id());
    key.add(workspace.comparison().ratio() == null ? 1 : workspace.comparison().ratio());
    for (Version v : workspace.comparison().versions()) {
      VersionState state = workspace.state(v.id());
      key.add(v.id() + v.label());
      key.add(v.match());
      key.add(state.problem() == null ? "" : state.problem());
      key.add(state.prepared() == null ? "" : state.prepared().match());
    }
    if (key.equals(shown)) {
      return;
    }
    shown = key;
    getChildren().clear();
    String[] heads = {
      "Version", "Delay", "Polarity", "Level", "Rate", "Drift", "Length", "Channels", "Likeness"
    };
    double[] widths = {170, 92, 66, 70, 60, 70, 74, 66, 64};
    getColumnConstraints().clear();
    for (int i = 0; i < heads.length; i++) {
      ColumnConstraints column = new ColumnConstraints();
      column.setMinWidth(widths[i] * 0.8);
      column.setPrefWidth(widths[i]);
      getColumnConstraints().add(column);
      Label head = Texts.of(heads[i], "column-head");
      GridPane.setHalignment(head, i == 0 ? javafx.geometry.HPos.LEFT : javafx.geometry.HPos.RIGHT);
      head.setPadding(new Insets(0, 4, 4, 4));
      head.setMinWidth(USE_PREF_SIZE);
      add(head, i, 0);
    }
    int row = 1;
    for (Version v : workspace.comparison().versions()) {
      addRow(v, row++, v == chosen);
    }
    if (row == 1) {
      add(Texts.of("There are no versions yet: bring them in under Gather.", "quiet"), 0, 1, 9, 1);
    }
  }

  private void addRow(Version v, int row, boolean selected) {
    ToggleButton name = new ToggleButton(v.label(), VersionSign.of(row - 1, 18));
    name.setMnemonicParsing(false);
    name.getStyleClass().setAll("toggle-button", "pick-row");
    name.setId("match-" + v.id());
    name.setSelected(selected);
    name.setMaxWidth(Double.MAX_VALUE);
    name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    ShortNames.follow(name, workspace, v.label(), 44);
    Hint.set(name, v.label());
    name.setAlignment(Pos.CENTER_LEFT);
    name.setOnAction(
        e -> {
          workspace.selection().version(v.id());
          name.setSelected(true);
        });
    add(name, 0, row);
    VersionState state = workspace.state(v.id());
    if (state.problem() != null) {
      add(Texts.wrapped(state.problem(), "warning-text", "small"), 1, row, 8, 1);
      return;
    }
    if (state.prepared() == null) {
      add(Texts.of("matching …", "quiet"), 1, row, 8, 1);
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
    label.setPadding(new Insets(3, 4, 3, 4));
    label.setMinWidth(USE_PREF_SIZE);
    GridPane.setHalignment(label, javafx.geometry.HPos.RIGHT);
    add(label, column, row);
    return label;
  }

  /** The length asked for over the source's. */
  private double asked() {
    Comparison c = workspace.comparison();
    return c.job() == Job.STRETCH && c.ratio() != null ? c.ratio() : 1;
  }
}
