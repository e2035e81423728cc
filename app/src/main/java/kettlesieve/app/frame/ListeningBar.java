package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Function;
import javafx.beans.property.ObjectProperty;
import javafx.css.PseudoClass;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.MouseButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Takes;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.ShortNames;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Band;
import kettlesieve.core.listen.JavaSoundOut;
import kettlesieve.core.listen.Side;
import kettlesieve.core.listen.Turns;
import kettlesieve.core.measure.VoiceRange;
import org.kordamp.ikonli.feather.Feather;
import org.kordamp.ikonli.javafx.FontIcon;

/** The listening bar, there in every step: what is heard above, how below. */
final class ListeningBar extends VBox {
  private static final String NAME_FONT = "Source Sans 3 SemiBold";
  private static final double LEAST_NAME = 46;
  private static final double MOST_NAME = 170;

  private final Workspace workspace;
  private final Listening listening;
  private final Preferences preferences;

  /** What is heard is not the plain sound: this must be seen. */
  private static final PseudoClass NOT_PLAIN = PseudoClass.getPseudoClass("not-plain");

  private final Button play = new Button();
  private final TextField clock = new TextField("0:00.0");
  private final HBox tracks = new HBox(6);
  private final HBox roles = new HBox(4);
  private final HBox parts = new HBox(8);
  private final MenuButton device = new MenuButton();
  private final FontIcon playIcon = Icons.of(Feather.PLAY);
  private final FontIcon stopIcon = Icons.of(Feather.SQUARE);
  private final Label heard = Texts.of("", "strong");
  private final MeterView meter = new MeterView();
  private List<String> named = List.of();
  private boolean shownPlaying;

  ListeningBar(Workspace workspace, Preferences preferences) {
    this.workspace = workspace;
    this.listening = workspace.listening();
    this.preferences = preferences;
    getStyleClass().add("listening-bar");
    play.getStyleClass().setAll("button", "play-button");
    play.setGraphic(playIcon);
    play.setId("play");
    play.setAccessibleText("Play or stop");
    Hint.set(play, "Play or stop (Space)");
    play.setOnAction(e -> listening.toggle());
    clock.getStyleClass().add("clock");
    clock.setId("clock");
    clock.setAccessibleText("The place: type another to go there");
    Hint.set(clock, "Type a time here to go there (A)");
    clock.setOnAction(e -> goTo());
    Fields.takesBack(clock, () -> workspace.clock().text(listening.positionSeconds()));
    tracks.setStyle("-fx-alignment: center-left;");
    tracks.setMinWidth(0);
    heard.setId("heard");
    heard.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    heard.setMinWidth(60);
    Hint.set(heard, heard::getText);
    HBox.setHgrow(heard, Priority.ALWAYS);
    heard.setMaxWidth(Double.MAX_VALUE);
    Region between = new Region();
    HBox.setHgrow(between, Priority.SOMETIMES);
    HBox what = new HBox(8, play, clock, tracks, heard, between, meter);
    what.setStyle("-fx-alignment: center-left;");
    parts.getChildren().addAll(Texts.of("Parts", "quiet", "small"), roles);
    parts.setStyle("-fx-alignment: center-left;");
    parts.managedProperty().bind(parts.visibleProperty());
    getChildren().addAll(what, parts, how());
    listening.changesProperty().addListener((o, was, is) -> rebuild());
    widthProperty()
        .addListener(
            (o, was, is) -> {
              if (!names().equals(named)) {
                rebuild();
              }
            });
    listening.chosenProperty().addListener((o, was, is) -> markChosen());
    listening.rolesProperty().addListener((o, was, is) -> fillRoles());
    rebuild();
  }

  private HBox how() {
    roles.setStyle("-fx-alignment: center-left;");
    roles.setMinWidth(0);
    device.setMinWidth(USE_PREF_SIZE);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    device.getStyleClass().addAll("small", "how-menu");
    device.setId("device");
    device.setAccessibleText("Sound device");
    device.setOnShowing(e -> fillDevices());
    device.getItems().add(new MenuItem("System sound device"));
    device.setMnemonicParsing(false);
    device.setText(deviceName());
    HBox box =
        new HBox(
            6,
            toggle(
                "loop",
                "Loop",
                Feather.REPEAT,
                "Loop the excerpt (L)",
                listening.loopingProperty()),
            menu("turns", "Each pass (T)", listening.turnsProperty(), ListeningBar::words),
            bands(),
            menu("side", "Part of the stereo picture (V)", listening.sideProperty(), Side::title),
            toggle(
                "half-speed",
                "Half speed",
                Feather.CHEVRONS_DOWN,
                "Half the speed, an octave lower (H)",
                listening.halfSpeedProperty()),
            gap,
            device,
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
                "Hear only what was removed: source minus what is heard (R)",
                listening.onlyRemovedProperty()));
    box.setStyle("-fx-alignment: center-left;");
    return box;
  }

  private static String words(Turns turns) {
    return switch (turns) {
      case STAY -> "Same each pass";
      case NEXT -> "Next each pass";
      case WITH_SOURCE -> "Source in turn";
    };
  }

  private static <E extends Enum<E>> MenuButton menu(
      String id, String name, ObjectProperty<E> property, Function<E, String> words) {
    MenuButton menu = new MenuButton(words.apply(property.get()));
    menu.getStyleClass().addAll("small", "how-menu");
    menu.setId(id);
    menu.setAccessibleText(name);
    Hint.set(menu, name);
    menu.setMinWidth(USE_PREF_SIZE);
    for (E value : property.get().getDeclaringClass().getEnumConstants()) {
      MenuItem item = new MenuItem(words.apply(value));
      item.setId(id + "-" + value.name().toLowerCase(Locale.ROOT));
      item.setOnAction(e -> property.set(value));
      menu.getItems().add(item);
    }
    E plain = property.getValue().getDeclaringClass().getEnumConstants()[0];
    property.addListener(
        (o, was, is) -> {
          menu.setText(words.apply(is));
          menu.pseudoClassStateChanged(NOT_PLAIN, is != plain);
        });
    menu.pseudoClassStateChanged(NOT_PLAIN, property.get() != plain);
    return menu;
  }

  private MenuButton bands() {
    MenuButton menu = new MenuButton("All frequencies");
    menu.getStyleClass().addAll("small", "how-menu");
    menu.setId("band");
    menu.setAccessibleText("Frequencies that are heard (B)");
    Hint.set(menu, "Frequencies that are heard (B); drag with Shift on a spectrogram for others");
    menu.setMinWidth(USE_PREF_SIZE);
    MenuItem all = new MenuItem("All frequencies");
    all.setOnAction(e -> listening.bandProperty().set(null));
    menu.getItems().add(all);
    for (VoiceRange range : VoiceRange.values()) {
      MenuItem item = new MenuItem(words(new Band(range.lowHz(), range.highHz())));
      item.setOnAction(e -> listening.bandProperty().set(new Band(range.lowHz(), range.highHz())));
      menu.getItems().add(item);
    }
    listening
        .bandProperty()
        .addListener(
            (o, was, is) -> {
              menu.setText(words(is));
              menu.pseudoClassStateChanged(NOT_PLAIN, is != null);
            });
    return menu;
  }

  private static String words(Band band) {
    if (band == null) {
      return "All frequencies";
    }
    String edges = Numbers.hz(band.low()) + " – " + Numbers.hz(band.high());
    for (VoiceRange range : VoiceRange.values()) {
      if (range.lowHz() == band.low() && range.highHz() == band.high()) {
        String word = range.name().toLowerCase(Locale.ROOT);
        return Sentences.begun(word) + ", " + edges;
      }
    }
    return edges;
  }

  private String deviceName() {
    String chosen = preferences.device();
    return chosen == null ? "System sound" : chosen;
  }

  private void fillDevices() {
    List<MenuItem> items = new ArrayList<>();
    RadioMenuItem system = new RadioMenuItem("System sound device");
    system.setSelected(preferences.device() == null);
    system.setOnAction(e -> useDevice(null));
    items.add(system);
    List<String> names = JavaSoundOut.devices();
    if (names.isEmpty()) {
      MenuItem none = new MenuItem("No sound device was found: playing is simulated");
      none.setDisable(true);
      items.add(none);
    }
    for (String name : names) {
      RadioMenuItem item = new RadioMenuItem(name);
      item.setMnemonicParsing(false);
      item.setSelected(name.equals(preferences.device()));
      item.setOnAction(e -> useDevice(name));
      items.add(item);
    }
    items.add(new SeparatorMenuItem());
    MenuItem hint = new MenuItem("A change is heard from the next start of playing on");
    hint.setDisable(true);
    items.add(hint);
    device.getItems().setAll(items);
  }

  private void useDevice(String name) {
    preferences.useDevice(name);
    device.setText(deviceName());
    if (listening.playing()) {
      listening.stop();
    }
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
    Hint.set(button, hint);
    button.setMinWidth(USE_PREF_SIZE);
    button.selectedProperty().bindBidirectional(property);
    return button;
  }

  /** What the versions are called in the room there is; empty for their signs alone. */
  private List<String> names() {
    List<String> labels = workspace.comparison().versions().stream().map(Version::label).toList();
    int extra = workspace.takes().before().size();
    double room =
        Math.max(600, getWidth())
            - (listening.hasReference() ? 330 : 240)
            - MeterView.WIDTH
            - 70 * extra
            - 52.0 * labels.size();
    double each = labels.isEmpty() ? 0 : room / labels.size();
    if (each >= MOST_NAME) {
      each = MOST_NAME;
    }
    return each < LEAST_NAME ? List.of() : ShortNames.of(labels, each, NAME_FONT, 13);
  }

  /** Whether even the signs alone have to stand closely. */
  private boolean labelsMany() {
    return workspace.comparison().versions().size() > 10;
  }

  private void rebuild() {
    named = names();
    boolean compact = named.isEmpty();
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
      button.setGraphic(VersionSign.of(index, compact ? 20 : 18));
      button.setText(compact ? null : named.get(index));
      if (compact && labelsMany()) {
        button.getStyleClass().add("track-small");
      }
      button.setMinWidth(USE_PREF_SIZE);
      buttons.add(button);
      if (workspace.takes().before().containsKey(version.id())) {
        ToggleButton before =
            track(
                Takes.heardAs(version.id()),
                version.label() + ", before it was rendered again",
                "Y");
        before.setText("before");
        before.setMinWidth(USE_PREF_SIZE);
        buttons.add(before);
      }
      index++;
    }
    if (listening.hasReference()) {
      ToggleButton clean =
          track(
              Listening.REFERENCE,
              workspace.comparison().job().inStems() ? "True stems" : "Clean",
              "C");
      clean.setGraphic(Icons.of(Feather.STAR));
      clean.setMinWidth(USE_PREF_SIZE);
      buttons.add(clean);
    }
    tracks.getChildren().setAll(buttons);
    tracks.setSpacing(compact && labelsMany() ? 3 : 6);
    heard.setVisible(compact);
    heard.setManaged(compact);
    markChosen();
    fillRoles();
  }

  /** For stems: a chip a role. A click takes it out or puts it back, a double click hears it. */
  private void fillRoles() {
    Set<String> all = listening.allRoles();
    Set<String> heard = listening.rolesProperty().get();
    roles.getChildren().clear();
    parts.setVisible(all.size() >= 2);
    if (all.size() < 2) {
      return;
    }
    for (String role : Roles.sorted(all)) {
      ToggleButton chip = new ToggleButton(role);
      chip.setMnemonicParsing(false);
      chip.getStyleClass().setAll("toggle-button", "track-button");
      chip.setId("role-" + role.replace(' ', '-'));
      chip.setSelected(heard.isEmpty() || heard.contains(role));
      chip.setMinWidth(44);
      chip.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
      Hint.set(chip, role + ": click for this one alone, right click to mute it");
      chip.setAccessibleText("Hear " + role + " alone");
      chip.setOnAction(
          e -> {
            listening.solo(role);
            fillRoles();
          });
      chip.setOnMousePressed(
          e -> {
            if (e.getButton() == MouseButton.SECONDARY) {
              listening.mute(role);
              e.consume();
            }
          });
      roles.getChildren().add(chip);
    }
    List<RoleSum> sums = workspace.comparison().roleSums();
    if (!sums.isEmpty()) {
      MenuButton menu = new MenuButton("Sums");
      menu.getStyleClass().addAll("small", "how-menu");
      menu.setId("sums");
      menu.setMinWidth(USE_PREF_SIZE);
      for (RoleSum sum : sums) {
        MenuItem item = new MenuItem(sum.name());
        item.setMnemonicParsing(false);
        item.setOnAction(e -> listening.hear(sum));
        menu.getItems().add(item);
      }
      roles.getChildren().add(menu);
    }
    if (!heard.isEmpty()) {
      roles.getChildren().add(0, Texts.of("only", "quiet", "small"));
    }
  }

  private ToggleButton track(String id, String label, String key) {
    ToggleButton button = new ToggleButton(label);
    button.setMnemonicParsing(false);
    button.getStyleClass().setAll("toggle-button", "track-button");
    button.setId("track-" + id);
    button.setUserData(id);
    button.setDisable(!listening.audible(id));
    button.setAccessibleText("Listen to " + label);
    Hint.set(button, key.isEmpty() ? label : label + " (key " + key + ")");
    // Versions of one tool differ at the end of their labels: the middle is what may go.
    button.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    button.setMinWidth(52);
    button.setMaxWidth(230);
    button.setOnAction(
        e -> {
          listening.choose(id);
          markChosen();
        });
    return button;
  }

  private void markChosen() {
    String chosen = listening.chosenProperty().get();
    heard.setText(
        chosen.equals(Listening.SOURCE)
            ? "Source"
            : Takes.versionOf(chosen)
                .map(
                    id ->
                        workspace.comparison().version(id).map(Version::label).orElse("")
                            + ", before")
                .or(() -> workspace.comparison().version(chosen).map(Version::label))
                .orElse("Clean"));
    for (var node : tracks.getChildren()) {
      ((ToggleButton) node).setSelected(node.getUserData().equals(chosen));
    }
  }

  /** Waits for a time to be typed. */
  void askPlace() {
    clock.requestFocus();
    clock.selectAll();
  }

  private void goTo() {
    try {
      listening.seek(workspace.clock().seconds(clock.getText()));
      Fields.leave(getScene());
    } catch (IllegalArgumentException e) {
      workspace.messageProperty().set("That is no place: " + e.getMessage() + ".");
      clock.selectAll();
    }
  }

  /** Called with every frame of the window. */
  void follow(double position) {
    if (!clock.isFocused()) {
      String text = workspace.clock().text(position);
      clock.setText(text);
      clock.setPrefWidth(26 + 9.2 * Math.max(6, text.length()));
    }
    meter.follow(listening.levels());
    boolean playing = listening.playing();
    if (playing != shownPlaying) {
      shownPlaying = playing;
      play.setGraphic(playing ? stopIcon : playIcon);
      var out = listening.output();
      device.setText(out != null && out.simulated() ? "Simulated output" : deviceName());
    }
  }
}
