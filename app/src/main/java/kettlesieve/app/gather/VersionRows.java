package kettlesieve.app.gather;

import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Takes;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.LongField;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.report.SweepWords;
import org.kordamp.ikonli.feather.Feather;

/** The versions as rows: what each is, and its file; what it cost is folded away at first. */
final class VersionRows extends GridPane {
  /** What is typed for a version that ought to be the source again. */
  private static final String BACK = "back";

  private final Workspace workspace;
  private final Function<String, File> chooser;
  private final ToggleButton showCosts = new ToggleButton("Costs", Icons.of(Feather.CLOCK));

  /**
   * @param chooser asks for one audio file, given a title; null if none was chosen
   */
  VersionRows(Workspace workspace, Function<String, File> chooser) {
    this.workspace = workspace;
    this.chooser = chooser;
    setHgap(6);
    setVgap(1);
    showCosts.setId("show-costs");
    showCosts.getStyleClass().add("tool-toggle");
    Hint.set(showCosts, "Time, price and mode of each version");
    showCosts.setMinWidth(Region.USE_PREF_SIZE);
    showCosts.setOnAction(e -> fill());
  }

  /** Shows or folds away what the versions cost. */
  ToggleButton costs() {
    return showCosts;
  }

  /** Fills the rows anew. */
  void fill() {
    getChildren().clear();
    boolean stems = workspace.comparison().job().inStems();
    boolean costs = showCosts.isSelected();
    getColumnConstraints()
        .setAll(column(30), grows(170, 240), grows(110, 164), grows(80, 130), column(62));
    if (costs) {
      getColumnConstraints().add(column(236));
    }
    if (ownTime()) {
      getColumnConstraints().add(column(84));
    }
    getColumnConstraints().addAll(grows(150, 260), column(98));
    if (workspace.comparison().versions().isEmpty()) {
      add(
          Texts.wrapped(
              "No versions yet: drop the files that the tools made, or make one below.", "quiet"),
          0,
          0,
          7,
          1);
      return;
    }
    List<String> heads = new ArrayList<>(List.of("", "Label", "Tool", "Setting", "Amount"));
    if (costs) {
      heads.add("Time, price, mode");
    }
    if (ownTime()) {
      heads.add("Asked for");
    }
    heads.add(stems ? "Files" : "File");
    for (int i = 0; i < heads.size(); i++) {
      Label head = Texts.of(heads.get(i), "column-head");
      head.setPadding(new Insets(0, 0, 0, 7));
      add(head, i, 0);
    }
    int row = 1;
    for (Version v : workspace.comparison().versions()) {
      List<Node> cells = new ArrayList<>();
      cells.add(VersionSign.of(row - 1, 20));
      cells.add(
          new LongField(field("label-" + v.id(), "Label", v.label(), t -> relabelled(v.id(), t))));
      cells.add(
          new LongField(
              field("tool-" + v.id(), "Tool", v.tool(), t -> edit(v.id(), x -> x.withTool(t)))));
      cells.add(
          new LongField(
              field(
                  "setting-" + v.id(),
                  "Setting",
                  v.setting(),
                  t -> edit(v.id(), x -> x.withSetting(t)))));
      cells.add(
          field(
              "amount-" + v.id(),
              "Amount, 0 to 100",
              v.amount() == null ? "" : SweepWords.amount(v.amount()),
              t -> amount(v.id(), t)));
      if (costs) {
        cells.add(new CostFields(workspace, v));
      }
      if (ownTime()) {
        cells.add(asked(v));
      }
      cells.add(facts(v));
      cells.add(rowButtons(v));
      for (int i = 0; i < cells.size(); i++) {
        add(cells.get(i), i, row);
      }
      row++;
    }
  }

  private static ColumnConstraints grows(double least, double wanted) {
    ColumnConstraints c = new ColumnConstraints(least, wanted, 600);
    c.setHgrow(Priority.SOMETIMES);
    c.setFillWidth(true);
    return c;
  }

  private static ColumnConstraints column(double width) {
    ColumnConstraints c = new ColumnConstraints(width);
    c.setFillWidth(true);
    return c;
  }

  private Node rowButtons(Version v) {
    HBox buttons = new HBox(0);
    buttons.setStyle("-fx-alignment: center-right;");
    buttons
        .getChildren()
        .addAll(
            Icons.button(
                Feather.CHEVRON_UP, "Move " + v.label() + " up", () -> workspace.move(v.id(), -1)),
            Icons.button(
                Feather.CHEVRON_DOWN,
                "Move " + v.label() + " down",
                () -> workspace.move(v.id(), 1)),
            Icons.button(
                Feather.TRASH_2,
                "Take " + v.label() + " out of the comparison",
                () -> workspace.edit(c -> c.minus(v.id()))));
    return buttons;
  }

  private TextField field(
      String id, String name, String text, java.util.function.Consumer<String> taken) {
    TextField field = new TextField(text);
    field.getStyleClass().add("plain-field");
    field.setId(id);
    field.setAccessibleText(name);
    field.setPromptText(name.equals("Label") ? "" : "–");
    Fields.whenDone(field, taken);
    return field;
  }

  private void edit(String id, java.util.function.UnaryOperator<Version> change) {
    workspace.edit(c -> c.version(id).map(v -> c.withVersion(change.apply(v))).orElse(c));
  }

  private void relabelled(String id, String text) {
    boolean taken =
        workspace.comparison().versions().stream()
            .anyMatch(v -> !v.id().equals(id) && v.label().equals(text));
    if (text.isEmpty() || taken) {
      workspace
          .messageProperty()
          .set(
              taken
                  ? "Another version is already called \"" + text + "\"."
                  : "A version needs a label.");
      fill();
    } else {
      edit(id, v -> v.withLabel(text));
    }
  }

  private boolean ownTime() {
    Job job = workspace.comparison().job();
    return job.ownTime();
  }

  /** What was asked of one version, where that is something else than the comparison asks. */
  private Node asked(Version v) {
    Double own = workspace.comparison().job() == Job.PITCH ? v.semitones() : v.ratio();
    String text = v.back() ? BACK : own == null ? "" : StretchTarget.figure(own);
    TextField field = field("asked-" + v.id(), "Asked for", text, t -> asked(v.id(), t));
    Hint.set(
        field,
        "What was asked of this one, if not what the comparison asks: a length over the source's"
            + " or semitones;\n\"back\" if it was brought back again and ought to be the"
            + " source");
    return field;
  }

  private void asked(String id, String text) {
    boolean pitch = workspace.comparison().job() == Job.PITCH;
    try {
      boolean back = text.trim().equalsIgnoreCase(BACK);
      Double own =
          back || text.isBlank()
              ? null
              : pitch
                  ? (Double) Double.parseDouble(text.replace('−', '-').replace("st", "").trim())
                  : (Double) StretchTarget.ratio(text, sourceSeconds());
      edit(
          id,
          v -> v.withBack(back).withRatio(pitch ? null : own).withSemitones(pitch ? own : null));
    } catch (IllegalArgumentException e) {
      workspace
          .messageProperty()
          .set(
              pitch
                  ? "Asked for is a number of semitones up to 36, or \"back\", not \""
                      + text
                      + "\"."
                  : "Asked for is a length such as 0.8 or 80 %, or \"back\", not \""
                      + text
                      + "\".");
      fill();
    }
  }

  private double sourceSeconds() {
    var source = workspace.sourceProperty().get();
    return source == null ? Double.NaN : source.audio().seconds();
  }

  private void amount(String id, String text) {
    if (text.isEmpty()) {
      edit(id, v -> v.withAmount(null));
      return;
    }
    try {
      double amount = Double.parseDouble(text.replace(',', '.').replace("%", "").trim());
      if (amount >= 0 && amount <= 100) {
        edit(id, v -> v.withAmount(amount));
        return;
      }
    } catch (NumberFormatException e) {
      // Said below.
    }
    workspace.messageProperty().set("An amount is a number from 0 to 100, not \"" + text + "\".");
    fill();
  }

  private Node facts(Version v) {
    VersionState state = workspace.state(v.id());
    if (state.problem() != null) {
      Label problem = Texts.wrapped(Sentences.begun(state.problem()), "warning-text", "small");
      Hint.set(problem, v.files().get(0).path());
      if (v.media() == null) {
        return problem;
      }
      Button point = new Button("Point to it …");
      point.setOnAction(
          e -> {
            File file = chooser.apply("The file of " + v.label());
            if (file != null) {
              edit(v.id(), x -> x.withMedia(MediaRef.of(file.toPath())));
            }
          });
      HBox box = new HBox(8, problem, point);
      HBox.setHgrow(problem, Priority.ALWAYS);
      point.setMinWidth(Region.USE_PREF_SIZE);
      box.setStyle("-fx-alignment: center-left;");
      return box;
    }
    Label label =
        Texts.of(
            state.recording() == null
                ? "reading …"
                : (state.recordings().size() > 1 ? state.recordings().size() + " stems, " : "")
                    + GatherView.describe(state.recording().facts()),
            "quiet",
            "small");
    Hint.set(label, v.files().get(0).path());
    label.setPadding(new Insets(0, 0, 0, 7));
    Takes.Take take = workspace.takes().before().get(v.id());
    if (take != null) {
      return new VBox(2, label, takeBefore(v, take));
    }
    if (state.recording() == null
        || v.media() == null
        || !PartChooser.wanted(state.recording().facts())) {
      return label;
    }
    return new VBox(
        2,
        label,
        PartChooser.of(
            v.id(),
            v.media(),
            state.recording().facts(),
            ref -> edit(v.id(), x -> x.withMedia(ref))));
  }

  /** What was before the file was written anew: to be heard, kept or dropped. */
  private Node takeBefore(Version v, Takes.Take take) {
    String was =
        take.score().isPresent()
            ? "before: " + Numbers.fixed(take.score().getAsDouble(), 0)
            : "before";
    Label words = Texts.of(was, "small");
    words.setPadding(new Insets(0, 0, 0, 7));
    words.setMinWidth(Region.USE_PREF_SIZE);
    Hint.set(words, "The file was rendered again while the window was open: its score before");
    Button keep = new Button("Keep that one");
    keep.setId("take-keep-" + v.id());
    keep.getStyleClass().addAll("tool-toggle", "small");
    keep.setAccessibleText("Keep what " + v.label() + " was before as another version");
    keep.setMinWidth(Region.USE_PREF_SIZE);
    keep.setOnAction(e -> workspace.takes().keep(v.id()));
    Button hear =
        Icons.button(
            Feather.PLAY,
            "Hear what " + v.label() + " was before (Y)",
            () -> {
              workspace.listening().choose(Takes.heardAs(v.id()));
              workspace.listening().play();
            });
    Button drop =
        Icons.button(
            Feather.X,
            "Let go of what " + v.label() + " was before",
            () -> workspace.takes().drop(v.id()));
    drop.setId("take-drop-" + v.id());
    HBox box = new HBox(4, words, hear, keep, drop);
    box.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
    return box;
  }
}
