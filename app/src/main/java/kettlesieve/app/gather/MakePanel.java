package kettlesieve.app.gather;

import java.io.File;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workshop;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Amounts;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.Run;
import org.kordamp.ikonli.feather.Feather;

/** Makes versions here, with a stand-in or an outside tool, over a list of amounts. */
final class MakePanel extends VBox {
  private final Workspace workspace;
  private final Workshop workshop;
  private final ComboBox<RigTool> tool = new ComboBox<>();
  private final ComboBox<Workshop.Subject> subject = new ComboBox<>();
  private final Label on = Texts.of("of");
  private final TextField amounts = new TextField("40");
  private final Label at = Texts.of("at amounts");
  private final TextField targets = new TextField();
  private final Label atTargets = Texts.of("");
  private final CheckBox back = new CheckBox("there and back");
  private final Label about = Texts.wrapped("", "quiet", "small");
  private final Label status = Texts.of("", "warning-text", "small");
  private final VBox runs = new VBox(3);
  private final ToolEditor editor;
  private final Set<File> others = new LinkedHashSet<>();
  private final Label alsoFor = Texts.of("", "quiet", "small");
  private Job shown;

  /**
   * @param opened called when there is more of it to see
   */
  MakePanel(Workspace workspace, Runnable opened) {
    this.workspace = workspace;
    this.workshop = workspace.workshop();
    this.editor = new ToolEditor(workspace, this::toolKept);
    getStyleClass().add("card");
    tool.setConverter(Words.of(RigTool::title));
    tool.setAccessibleText("Tool");
    tool.setId("make-tool");
    tool.setMaxWidth(230);
    tool.valueProperty().addListener((o, was, is) -> toolChosen());
    subject.setConverter(Words.of(Workshop.Subject::title));
    subject.setId("make-subject");
    subject.setAccessibleText("What it is run on");
    subject.setMaxWidth(240);
    subject.setOnShowing(e -> fillSubjects());
    amounts.setPrefWidth(110);
    amounts.setId("make-amounts");
    amounts.setAccessibleText("Amounts, 0 to 100, separated by commas");
    Hint.set(amounts, "Amounts from 0 to 100, separated by commas");
    amounts.setOnAction(e -> make());
    targets.setPrefWidth(120);
    targets.setId("make-targets");
    targets.setPromptText("the target");
    targets.setOnAction(e -> make());
    back.setId("make-back");
    Hint.set(
        back,
        "Stretched or shifted, and by the same tool back again: it ought to be the source, and is"
            + " judged against it");
    back.setMinWidth(USE_PREF_SIZE);
    Button make = new Button("Make", Icons.of(Feather.PLAY_CIRCLE));
    make.setId("make");
    make.setOnAction(e -> make());
    Button also = new Button("Also for …");
    also.setId("make-also");
    Hint.set(also, "Run it on the sources of other comparisons too");
    also.setOnAction(e -> chooseOthers());
    Button own = new Button("Outside tool …", Icons.of(Feather.TERMINAL));
    own.setId("make-own");
    own.setOnAction(
        e -> {
          editor.toggle(chosenOutside());
          opened.run();
        });
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox line =
        new HBox(
            8,
            Texts.of("Make a version here", "strong"),
            tool,
            on,
            subject,
            at,
            amounts,
            atTargets,
            targets,
            back,
            make,
            also,
            gap,
            own);
    line.setStyle("-fx-alignment: center-left;");
    getChildren().addAll(line, about, alsoFor, status, editor, runs);
    alsoFor.managedProperty().bind(alsoFor.textProperty().isNotEmpty());
    status.managedProperty().bind(status.textProperty().isNotEmpty());
    workshop.entries().addListener((ListChangeListener<Workshop.Entry>) c -> fillRuns());
    workshop.tools().addListener((ListChangeListener<Object>) c -> fillTools(null));
    fillRuns();
  }

  /** Shows the tools of the comparison's job. */
  void show() {
    Job job = workspace.comparison().job();
    if (job != shown) {
      shown = job;
      fillTools(null);
    }
    boolean stems = job.inStems();
    for (Node node : List.of(on, subject)) {
      node.setVisible(stems);
      node.setManaged(stems);
    }
    boolean ownTime = job.ownTime();
    for (Node node : List.of(atTargets, targets, back)) {
      node.setVisible(ownTime);
      node.setManaged(ownTime);
    }
    boolean pitch = job == Job.PITCH;
    atTargets.setText(pitch ? "at intervals" : "at lengths");
    String words =
        pitch
            ? "Semitones, such as -5, -2, 2, 5; empty for what the comparison asks"
            : "Lengths over the source's, such as 0.67, 0.8, 1.25, 1.5; empty for what the comparison"
                + " asks";
    Hint.set(targets, words);
    targets.setAccessibleText(words);
    if (subject.getValue() == null || !stems) {
      subject.setValue(Workshop.Subject.SOURCE);
    }
  }

  private void fillTools(String wanted) {
    RigTool before = tool.getValue();
    List<RigTool> list = workshop.of(workspace.comparison().job());
    tool.getItems().setAll(list);
    String name = wanted != null ? wanted : before == null ? "" : before.title();
    tool.setValue(
        list.stream()
            .filter(t -> t.title().equals(name))
            .findFirst()
            .orElse(list.isEmpty() ? null : list.get(0)));
    toolChosen();
  }

  private void toolKept(String name) {
    fillTools(name);
  }

  private kettlesieve.core.rig.CommandTool chosenOutside() {
    return tool.getValue() instanceof RigTool.Outside outside ? outside.tool() : null;
  }

  private void toolChosen() {
    RigTool chosen = tool.getValue();
    boolean amount = chosen != null && chosen.hasAmount();
    for (Node node : List.of(at, amounts)) {
      node.setVisible(amount);
      node.setManaged(amount);
    }
    about.setText(
        chosen instanceof RigTool.Inside inside
            ? inside.standIn().description()
            : chosen instanceof RigTool.Outside outside ? outside.tool().line() : "");
  }

  private void fillSubjects() {
    Workshop.Subject before = subject.getValue();
    subject.getItems().setAll(workshop.subjects());
    subject.setValue(subject.getItems().contains(before) ? before : Workshop.Subject.SOURCE);
  }

  private void chooseOthers() {
    others.clear();
    others.addAll(
        Choosers.of(
                workspace.lastFolder(), "Comparisons to make it for as well", Choosers.COMPARISONS)
            .openSeveral(getScene().getWindow()));
    alsoFor.setText(
        others.isEmpty()
            ? ""
            : "also for " + String.join(", ", others.stream().map(File::getName).toList()));
  }

  private void make() {
    RigTool chosen = tool.getValue();
    if (chosen == null || workspace.sourceProperty().get() == null) {
      status.setText(
          chosen == null ? "Choose a tool, or set one up." : "The source is not ready yet.");
      return;
    }
    Optional<List<Double>> list =
        chosen.hasAmount() ? Amounts.of(amounts.getText()) : Optional.of(List.of(100.0));
    if (list.isEmpty()) {
      status.setText(Amounts.WISH);
      return;
    }
    List<Double> asked = targets();
    if (asked == null) {
      return;
    }
    status.setText("");
    boolean ownTime = shown != null && shown.ownTime();
    workshop.make(chosen, list.get(), asked, ownTime && back.isSelected(), subject.getValue());
    others.forEach(f -> workshop.makeFor(f.toPath(), chosen, list.get()));
  }

  /** The lengths or intervals that were typed; null, with a word, if they are none. */
  private List<Double> targets() {
    List<Double> asked = new ArrayList<>();
    boolean pitch = shown == Job.PITCH;
    boolean any = (pitch || shown == Job.STRETCH) && !targets.getText().isBlank();
    for (String part : any ? targets.getText().trim().split("[,;\\s]+") : new String[0]) {
      try {
        double value = Double.parseDouble(part.replace('−', '-'));
        if (pitch ? value != 0 && Math.abs(value) <= 36 : value >= 0.1 && value <= 10) {
          asked.add(value);
          continue;
        }
      } catch (NumberFormatException e) {
        // Said below.
      }
      status.setText(
          pitch
              ? "Intervals are semitones other than 0, such as -5, 2, 7."
              : "Lengths are numbers from 0.1 to 10, such as 0.67, 0.8, 1.25.");
      return null;
    }
    return asked;
  }

  private void fillRuns() {
    runs.getChildren().clear();
    List<Workshop.Entry> entries = workshop.entries();
    for (Workshop.Entry entry : entries.subList(Math.max(0, entries.size() - 12), entries.size())) {
      runs.getChildren().add(row(entry));
    }
    runs.setManaged(!entries.isEmpty());
  }

  private Node row(Workshop.Entry entry) {
    ProgressBar bar = new ProgressBar(0);
    bar.setPrefWidth(120);
    bar.progressProperty().bind(entry.shareProperty());
    Label name =
        Texts.of(entry.label() + (entry.where().isEmpty() ? "" : " (" + entry.where() + ")"));
    name.setMinWidth(180);
    Label outcome = Texts.wrapped("", "small");
    HBox.setHgrow(outcome, Priority.ALWAYS);
    outcome.setMaxWidth(Double.MAX_VALUE);
    Button drop = Icons.button(Feather.X, "Stop " + entry.label(), entry::drop);
    HBox row = new HBox(10, bar, name, outcome, drop);
    row.setStyle("-fx-alignment: center-left;");
    Runnable show =
        () -> {
          Run run = entry.runProperty().get();
          bar.setVisible(run == null);
          bar.setManaged(run == null);
          outcome.getStyleClass().removeAll("warning-text", "quiet");
          outcome.getStyleClass().add(run != null && failed(run) ? "warning-text" : "quiet");
          outcome.setText(words(run));
          if (run != null && !run.messages().isEmpty()) {
            Hint.set(outcome, String.join("\n", run.messages()));
          }
        };
    entry.runProperty().addListener((o, was, is) -> show.run());
    show.run();
    return row;
  }

  private static boolean failed(Run run) {
    return run.outcome() == Run.Outcome.FAILED || run.outcome() == Run.Outcome.TOO_LONG;
  }

  private static String words(Run run) {
    if (run == null) {
      return "";
    }
    if (run.outcome() != Run.Outcome.DONE) {
      return run.problem();
    }
    return "done in "
        + Numbers.fixed(run.seconds(), 1)
        + " s"
        + (run.processorSeconds() == null
            ? ""
            : ", processor " + Numbers.fixed(run.processorSeconds(), 1) + " s");
  }
}
