package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import org.kordamp.ikonli.feather.Feather;
import org.kordamp.ikonli.javafx.FontIcon;

/** The listening bar, there in every step. */
final class ListeningBar extends HBox {
  private final Workspace workspace;
  private final Button play = new Button();
  private final Label clock = new Label("0:00.0");
  private final HBox tracks = new HBox(6);
  private final Label output = new Label();
  private final FontIcon playIcon = Icons.of(Feather.PLAY);
  private final FontIcon stopIcon = Icons.of(Feather.SQUARE);
  private boolean shownPlaying;

  ListeningBar(Workspace workspace) {
    this.workspace = workspace;
    Listening listening = workspace.listening();
    getStyleClass().add("listening-bar");
    play.getStyleClass().setAll("button", "play-button");
    play.setGraphic(playIcon);
    play.setId("play");
    play.setAccessibleText("Play or stop");
    play.setTooltip(new Tooltip("Play or stop (Space)"));
    play.setOnAction(e -> listening.toggle());
    clock.getStyleClass().add("clock");
    clock.setId("clock");
    tracks.setStyle("-fx-alignment: center-left;");
    HBox.setHgrow(tracks, Priority.ALWAYS);
    tracks.setMinWidth(0);
    output.getStyleClass().addAll("small", "quiet");
    output.setMinWidth(USE_PREF_SIZE);
    getChildren()
        .addAll(
            play,
            toggle(
                "loop",
                "Loop",
                Feather.REPEAT,
                "Loop the excerpt (L)",
                listening.loopingProperty()),
            clock,
            tracks,
            output,
            toggle(
                "level",
                "Level",
                Feather.SLIDERS,
                "Matched level; off: as delivered (M)",
                listening.levelMatchedProperty()),
            toggle(
                "removed",
                "Removed",
                Feather.SCISSORS,
                "Hear only what was removed: source minus matched version (R)",
                listening.onlyRemovedProperty()));
    listening.changesProperty().addListener((o, was, is) -> rebuild());
    listening.chosenProperty().addListener((o, was, is) -> markChosen());
    rebuild();
  }

  private static ToggleButton toggle(
      String id,
      String text,
      Feather icon,
      String hint,
      javafx.beans.property.BooleanProperty property) {
    ToggleButton button = new ToggleButton(text, Icons.of(icon));
    button.getStyleClass().add("tool-toggle");
    button.setId(id);
    button.setAccessibleText(hint);
    button.setTooltip(new Tooltip(hint));
    button.setMinWidth(USE_PREF_SIZE);
    button.selectedProperty().bindBidirectional(property);
    return button;
  }

  private void rebuild() {
    List<ToggleButton> buttons = new ArrayList<>();
    if (workspace.comparison().source() != null) {
      ToggleButton source = track(Listening.SOURCE, "Source", "0");
      source.setGraphic(VersionSign.ofSource(18));
      source.setMinWidth(USE_PREF_SIZE);
      buttons.add(source);
    }
    int index = 0;
    for (Version version : workspace.comparison().versions()) {
      String key = index < 9 ? Integer.toString(index + 1) : "";
      ToggleButton button = track(version.id(), version.label(), key);
      button.setGraphic(VersionSign.of(index, 18));
      buttons.add(button);
      index++;
    }
    tracks.getChildren().setAll(buttons);
    markChosen();
  }

  private ToggleButton track(String id, String label, String key) {
    ToggleButton button = new ToggleButton(label);
    button.getStyleClass().setAll("toggle-button", "track-button");
    button.setId("track-" + id);
    button.setUserData(id);
    button.setDisable(!workspace.listening().audible(id));
    button.setAccessibleText("Listen to " + label);
    button.setTooltip(new Tooltip(key.isEmpty() ? label : label + " (key " + key + ")"));
    // Versions of one tool differ at the end of their labels: the middle is what may go.
    button.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    button.setMinWidth(52);
    button.setMaxWidth(190);
    button.setOnAction(
        e -> {
          workspace.listening().choose(id);
          markChosen();
        });
    return button;
  }

  private void markChosen() {
    String chosen = workspace.listening().chosenProperty().get();
    for (var node : tracks.getChildren()) {
      ((ToggleButton) node).setSelected(node.getUserData().equals(chosen));
    }
  }

  /** Called with every frame of the window. */
  void follow(double position) {
    clock.setText(Numbers.clock(position));
    boolean playing = workspace.listening().playing();
    if (playing != shownPlaying) {
      shownPlaying = playing;
      play.setGraphic(playing ? stopIcon : playIcon);
      var out = workspace.listening().output();
      output.setText(out != null && out.simulated() ? "simulated output" : "");
    }
  }
}
