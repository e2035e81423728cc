package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.FrameRate;
import kettlesieve.core.comparison.TimeFormat;
import kettlesieve.core.listen.JavaSoundOut;

/**
 * How the window looks, how times are told, what plays, and where is kept what can be made anew.
 */
final class PreferencesCard extends FloatingCard {
  private static final String SYSTEM = "System sound device";

  private final Workspace workspace;
  private final Preferences preferences;
  private final CacheBox cache;

  PreferencesCard(Workspace workspace, Preferences preferences) {
    super("preferences", "Preferences", 640);
    this.workspace = workspace;
    this.preferences = preferences;
    this.cache = new CacheBox(workspace);
    workspace.comparisonProperty().addListener((o, was, is) -> refill());
    workspace.sourceProperty().addListener((o, was, is) -> refill());
  }

  @Override
  void fill(VBox card) {
    card.getChildren()
        .addAll(
            row("Look", looks()),
            row("Size of everything", sizes()),
            row("Sound", device()),
            Texts.of("Times in this comparison", "strong"),
            row("Told as", times()));
    if (format().as() == TimeFormat.As.TIMECODE) {
      card.getChildren().add(row("Frames a second", rates()));
    }
    if (format().as().ofClock()) {
      card.getChildren().add(row("The source starts at", start()));
    }
    card.getChildren().addAll(Texts.of("Kept to be quicker the next time", "strong"), cache);
    cache.look();
  }

  private static HBox row(String words, Node control) {
    Label label = Texts.of(words);
    label.setMinWidth(170);
    label.setLabelFor(control);
    HBox row = new HBox(10, label, control);
    row.setAlignment(Pos.CENTER_LEFT);
    return row;
  }

  /** Buttons of which one is on. */
  private static <T> HBox choice(
      String id, List<T> values, T now, List<String> words, Consumer<T> chosen) {
    ToggleGroup group = new ToggleGroup();
    HBox box = new HBox(4);
    for (int i = 0; i < values.size(); i++) {
      T value = values.get(i);
      ToggleButton button = new ToggleButton(words.get(i));
      button.getStyleClass().add("tool-toggle");
      button.setId(id + "-" + i);
      button.setToggleGroup(group);
      button.setSelected(value.equals(now));
      button.setOnAction(
          e -> {
            button.setSelected(true);
            chosen.accept(value);
          });
      box.getChildren().add(button);
    }
    return box;
  }

  private Node looks() {
    return choice(
        "look",
        List.of(Ink.Look.DAY, Ink.Look.NIGHT),
        preferences.look(),
        List.of("Day: ink on paper", "Night: lamplight on ink"),
        preferences::useLook);
  }

  private Node sizes() {
    return choice(
        "size",
        Preferences.SIZES,
        preferences.sizeProperty().get(),
        Preferences.SIZES.stream().map(s -> s + " %").toList(),
        preferences::useSize);
  }

  private Node device() {
    ComboBox<String> devices = new ComboBox<>();
    devices.setId("preferred-device");
    devices.setAccessibleText("Sound device");
    List<String> names = new ArrayList<>(List.of(SYSTEM));
    names.addAll(JavaSoundOut.devices());
    if (preferences.device() != null && !names.contains(preferences.device())) {
      names.add(preferences.device());
    }
    devices.getItems().setAll(names);
    devices.setValue(preferences.device() == null ? SYSTEM : preferences.device());
    devices.setOnAction(
        e -> {
          preferences.useDevice(SYSTEM.equals(devices.getValue()) ? null : devices.getValue());
          // Another device is taken when playing starts.
          workspace.listening().stop();
        });
    Label when = Texts.of("from the next start of playing on", "quiet", "small");
    HBox box = new HBox(8, devices, when);
    box.setAlignment(Pos.CENTER_LEFT);
    return box;
  }

  private TimeFormat format() {
    TimeFormat own = workspace.comparison().times();
    return own == null ? TimeFormat.PLAIN : own;
  }

  private void tell(TimeFormat times) {
    preferences.useTimes(times);
    workspace.edit(c -> c.withTimes(Preferences.told(times)));
  }

  private Node times() {
    ComboBox<TimeFormat.As> as = new ComboBox<>();
    as.setId("times-as");
    as.setAccessibleText("How times are told");
    as.setConverter(Words.of(TimeFormat.As::title));
    as.getItems().setAll(TimeFormat.As.values());
    as.setValue(format().as());
    as.setOnAction(e -> tell(new TimeFormat(as.getValue(), format().rate(), format().start())));
    return as;
  }

  private Node rates() {
    ComboBox<FrameRate> rates = new ComboBox<>();
    rates.setId("frame-rate");
    rates.setAccessibleText("Frames a second");
    rates.setConverter(Words.of(FrameRate::title));
    rates.getItems().setAll(FrameRate.values());
    rates.setValue(format().rate());
    rates.setOnAction(e -> tell(new TimeFormat(format().as(), rates.getValue(), format().start())));
    return rates;
  }

  private Node start() {
    Clock clock = workspace.clock();
    TextField field = new TextField(clock.text(0));
    field.setId("times-start");
    field.setAccessibleText("Time of the source's first sample");
    field.setPrefColumnCount(11);
    Fields.whenDone(field, this::takeStart);
    var source = workspace.sourceProperty().get();
    Double own = source == null ? null : source.facts().startSeconds();
    String said =
        format().start() != null
            ? "typed; empty for " + (own == null ? "0" : "what its file says")
            : own != null ? "as its file says" : "its file says nothing";
    HBox box = new HBox(8, field, Texts.of(said, "quiet", "small"));
    box.setAlignment(Pos.CENTER_LEFT);
    return box;
  }

  private void takeStart(String typed) {
    try {
      // Typed is the clock's own time: nothing counts before it.
      Double start =
          typed.isBlank()
              ? null
              : new Clock(format(), 0, workspace.clock().sampleRate()).seconds(typed);
      tell(new TimeFormat(format().as(), format().rate(), start));
    } catch (IllegalArgumentException e) {
      workspace.messageProperty().set("The start was not taken: " + e.getMessage() + ".");
      refill();
    }
  }
}
