package kettlesieve.app.decide;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Costs;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Decision;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.report.LimitWords;
import kettlesieve.core.score.BestSet;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.Places;
import kettlesieve.core.score.ReferenceOrder;
import kettlesieve.core.score.Requirements;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.WhatIf;
import org.kordamp.ikonli.feather.Feather;

/** Decide: the ranking under the delivery profile, verdicts, exports. */
public final class DecideView extends VBox {
  private final Workspace workspace;
  private final HandoverBar handover;
  private final GridPane ranking = new GridPane();
  private final Label profile = new Label();
  private final Label profileWords = Texts.of("", "quiet");
  private final AnswerBar answer;
  private final TextArea notes = new TextArea();
  private boolean showing;

  public DecideView(Workspace workspace) {
    this.workspace = workspace;
    this.answer = new AnswerBar(workspace);
    getStyleClass().add("page");
    setId("decide");
    profile.getStyleClass().add("section");
    profile.setId("ranking-title");
    ranking.setHgap(10);
    ranking.setVgap(4);
    notes.setPromptText("Notes on the decision");
    notes.setAccessibleText("Notes on the decision");
    notes.setId("notes");
    notes.setPrefRowCount(3);
    notes.setMinHeight(70);
    notes.setWrapText(true);
    Fields.takesBack(notes, () -> workspace.comparison().notes());
    notes
        .focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (!is && !showing) {
                workspace.edit(c -> c.withNotes(notes.getText()));
              }
            });
    this.handover = new HandoverBar(workspace);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(12, profile, profileWords, gap, handover);
    // The words about the profile give way first, then nothing.
    profile.setMinWidth(Region.USE_PREF_SIZE);
    handover.setMinWidth(Region.USE_PREF_SIZE);
    profileWords.setMinWidth(0);
    HBox.setHgrow(profileWords, Priority.SOMETIMES);
    head.setAlignment(Pos.CENTER_LEFT);
    VBox noteBox = new VBox(6, Texts.of("Notes", "section"), notes);
    notes.setPrefRowCount(5);
    HBox.setHgrow(noteBox, Priority.ALWAYS);
    HBox foot = new HBox(24, noteBox, new ProfileEditor(workspace));
    foot.setMinHeight(Region.USE_PREF_SIZE);
    // All in one: a small window shows the ranking first, and the rest by scrolling.
    ScrollPane scroll = new ScrollPane(new VBox(18, ranking, foot));
    scroll.setFitToWidth(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    setOnDragOver(
        e -> {
          if (!dropped(e).isEmpty()) {
            e.acceptTransferModes(TransferMode.COPY);
            e.consume();
          }
        });
    setOnDragDropped(
        e -> {
          List<Path> answers = dropped(e);
          if (!answers.isEmpty()) {
            workspace.handover().answers(answers);
            e.setDropCompleted(true);
            e.consume();
          }
        });
    getChildren().addAll(head, new WrittenBox(workspace), answer, scroll);
    workspace.sheetProperty().addListener((o, was, is) -> fill());
    workspace.comparisonProperty().addListener((o, was, is) -> fill());
    fill();
  }

  /** Answers to a listening sheet come as small files. */
  private static List<Path> dropped(DragEvent event) {
    return event.getDragboard().getFiles().stream()
        .map(File::toPath)
        .filter(f -> f.toString().endsWith(".json"))
        .toList();
  }

  private void fill() {
    showing = true;
    if (!notes.isFocused()) {
      notes.setText(workspace.comparison().notes());
    }
    showing = false;
    ranking.getChildren().clear();
    answer.hide();
    ScoreSheet sheet = workspace.sheetProperty().get();
    if (sheet == null || sheet.entries().isEmpty()) {
      profile.setText("Ranking");
      profileWords.setText("");
      ranking.add(
          Texts.of("The ranking appears here as soon as versions are measured.", "quiet"), 0, 0);
      return;
    }
    profile.setText("Ranking for: " + sheet.profile().title());
    profileWords.setText(sheet.profile().description());
    answer.show(sheet);
    SheetOdds odds = SheetOdds.of(sheet, Part.ALL);
    Optional<ReferenceOrder> nearness = ReferenceOrder.of(sheet, Part.ALL);
    String[] heads = {
      "",
      "Version",
      "Truly the best",
      "Overall, 95 % interval",
      "Missed",
      "Added",
      "Lost",
      nearness.isEmpty() ? "" : "Against clean",
      "Verdict"
    };
    for (int i = 0; i < heads.length; i++) {
      Label head = Texts.of(heads[i], "column-head");
      head.setMinWidth(Region.USE_PREF_SIZE);
      if (i >= 4 && i <= 7) {
        GridPane.setHalignment(head, javafx.geometry.HPos.RIGHT);
      }
      if (i == 2) {
        Hint.set(head, "The chance to be the best of these in truth, not by score alone");
      }
      if (i == 7) {
        Hint.set(
            head,
            "Place by nearness to the clean recording: SI-SDR, STOI, SDR gain.\n"
                + "The scores know nothing of it.");
      }
      ranking.add(head, i, 0);
    }
    int row = 1;
    for (Entry entry : sheet.ranked(Part.ALL)) {
      addRow(entry, nearness.map(n -> n.places().get(entry.version().id())), odds, row++);
    }
    for (Failure failure : sheet.failed()) {
      ranking.add(Texts.of("–"), 0, row);
      ranking.add(Texts.of(failure.label(), "quiet"), 1, row);
      ranking.add(
          Texts.wrapped(Sentences.begun(failure.reason()), "warning-text", "small"),
          2,
          row++,
          7,
          1);
    }
    if (nearness.isPresent() && !nearness.get().disagreements().isEmpty()) {
      ranking.add(OrderNotes.disagreements(nearness.get().disagreements()), 1, row++, 8, 1);
    }
    List<WhatIf> turns = WhatIf.of(sheet, 3);
    if (!turns.isEmpty()) {
      ranking.add(OrderNotes.turns(workspace, turns, sheet), 1, row++, 8, 1);
    }
    Optional<BestSet> set = BestSet.of(sheet);
    if (set.isPresent()) {
      ranking.add(new RoleLeaders(workspace, set.get()), 1, row++, 8, 1);
    }
    Optional<Passages> passages = Passages.of(sheet);
    if (passages.isPresent() && workspace.sourceProperty().get() != null) {
      ranking.add(new PassagesBox(workspace, sheet, passages.get()), 1, row++, 8, 1);
    }
    Optional<RoundsBox> rounds =
        RoundsBox.of(workspace, sheet, handover.trials("CSV"), handover.trials("JSON"));
    if (rounds.isPresent()) {
      ranking.add(rounds.get(), 1, row, 8, 1);
    }
  }

  private void addRow(Entry entry, Optional<ReferenceOrder.Place> near, SheetOdds odds, int row) {
    Version version = workspace.comparison().version(entry.version().id()).orElse(null);
    if (version == null) {
      return;
    }
    Label place = Texts.of(Places.words(entry.ranked()), "section");
    place.setMinWidth(38);
    place.setId("rank-" + version.id());
    ranking.add(place, 0, row);
    int index = workspace.comparison().versions().indexOf(version);
    Label name = VersionName.strong(workspace, version.label());
    VBox names = new VBox(name);
    names.setAlignment(Pos.CENTER_LEFT);
    if (entry.version().sourceItself()) {
      Label same =
          Texts.wrapped(
              "the source itself: its Missed is what doing nothing leaves", "quiet", "small");
      same.setId("source-itself-" + version.id());
      names.getChildren().add(same);
    }
    if (!entry.tiedWith().isEmpty()) {
      names.getChildren().add(ties(entry.tiedWith()));
    }
    limits(entry).ifPresent(names.getChildren()::add);
    String cost = Costs.words(workspace.comparison().costOf(version), sourceSeconds());
    if (!cost.isEmpty()) {
      names.getChildren().add(Texts.of(cost, "quiet", "small"));
    }
    HBox who = new HBox(8, VersionSign.of(index, 20), names);
    who.setAlignment(Pos.CENTER_LEFT);
    who.setMinWidth(170);
    who.setMaxWidth(310);
    ranking.add(who, 1, row);
    odds.of(version.id())
        .ifPresent(
            o -> {
              ChanceBar bar = new ChanceBar(o, odds);
              bar.setId("chance-" + version.id());
              ranking.add(bar, 2, row);
            });
    ranking.add(new IntervalBar(entry.card().overall().orElse(null), index), 3, row);
    int column = 4;
    for (Axis axis : new Axis[] {Axis.MISSED, Axis.ADDED, Axis.LOST}) {
      ranking.add(axisScore(entry.card().axes().get(axis), axis), column++, row);
    }
    near.ifPresent(
        nearness -> {
          Label words = Texts.of(nearness.words());
          words.setMinWidth(Region.USE_PREF_SIZE);
          words.setId("near-" + version.id());
          GridPane.setHalignment(words, javafx.geometry.HPos.RIGHT);
          ranking.add(words, 7, row);
        });
    ranking.add(verdict(version), 8, row);
  }

  /**
   * Whether a version keeps to the limits of the delivery; which it breaks, and where to hear it.
   */
  private Optional<Node> limits(Entry entry) {
    List<Requirements.Outcome> outcomes =
        Requirements.of(entry, workspace.sheetProperty().get().profile());
    return Requirements.word(outcomes)
        .map(
            word -> {
              List<Requirements.Outcome> broken =
                  outcomes.stream().filter(o -> !o.meets().orElse(true)).toList();
              Clock clock = workspace.clock();
              Label label =
                  Texts.of(
                      broken.size() == 1 ? LimitWords.off(broken.get(0), entry) : word,
                      broken.isEmpty() ? "quiet" : "warning-text",
                      "small");
              label.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
              label.setMinWidth(Region.USE_PREF_SIZE);
              label.setId("limits-" + entry.version().id());
              Hint.set(
                  label,
                  outcomes.stream()
                      .map(o -> LimitWords.outcome(o, entry, clock))
                      .collect(Collectors.joining("\n")));
              return broken.stream()
                  .flatMap(o -> LimitWords.worst(o, entry).stream())
                  .findFirst()
                  .map(spot -> (Node) withPlay(label, entry, spot))
                  .orElse(label);
            });
  }

  private HBox withPlay(Label label, Entry entry, Spot spot) {
    TimeSpan around = new TimeSpan(Math.max(0, spot.from() - 0.3), spot.to() + 0.3);
    Button hear =
        Icons.button(
            Feather.PLAY_CIRCLE,
            "Hear where the limit is broken, at " + workspace.clock().text(spot.at()),
            () -> workspace.listening().playSpot(entry.version().id(), around));
    hear.setId("limit-hear-" + entry.version().id());
    HBox box = new HBox(2, label, hear);
    box.setAlignment(Pos.CENTER_LEFT);
    return box;
  }

  /** Whom a version is not told apart from. */
  static Label ties(List<String> labels) {
    String words =
        labels.size() == 1
            ? "not told apart from " + labels.get(0)
            : "not told apart from " + labels.size() + " others";
    Label label = Texts.of(words, "quiet", "small");
    Hint.set(label, "not told apart from\n" + String.join("\n", labels));
    return label;
  }

  private static Node axisScore(Estimate score, Axis axis) {
    Label label =
        Texts.of(
            score == null ? "–" : Numbers.fixed(score.value(), 0),
            score == null ? "quiet" : axis.id() + "-text");
    GridPane.setHalignment(label, javafx.geometry.HPos.RIGHT);
    return label;
  }

  private Node verdict(Version version) {
    ComboBox<String> choice = new ComboBox<>();
    choice.getItems().add("Open");
    for (Decision d : Decision.values()) {
      choice.getItems().add(d.title());
    }
    choice
        .getSelectionModel()
        .select(version.decision() == null ? 0 : version.decision().ordinal() + 1);
    choice.setId("decision-" + version.id());
    choice.setAccessibleText("Decision on " + version.label());
    choice.setMinWidth(132);
    choice.setPrefWidth(132);
    choice
        .getSelectionModel()
        .selectedIndexProperty()
        .addListener(
            (o, was, is) -> {
              Decision chosen = is.intValue() < 1 ? null : Decision.values()[is.intValue() - 1];
              change(version.id(), v -> v.withDecision(chosen));
            });
    TextField field = new TextField(version.verdict());
    field.setPromptText("your words");
    field.setAccessibleText("Verdict on " + version.label());
    field.setId("verdict-" + version.id());
    field.setPrefWidth(130);
    field.setMinWidth(70);
    HBox.setHgrow(field, Priority.ALWAYS);
    Fields.whenDone(field, text -> change(version.id(), v -> v.withVerdict(text)));
    HBox both = new HBox(6, choice, field);
    both.setAlignment(Pos.CENTER_LEFT);
    GridPane.setHgrow(both, Priority.ALWAYS);
    return both;
  }

  private void change(String id, UnaryOperator<Version> how) {
    workspace.edit(c -> c.version(id).map(v -> c.withVersion(how.apply(v))).orElse(c));
  }

  private double sourceSeconds() {
    var sheet = workspace.sheetProperty().get();
    return sheet == null ? 0 : sheet.heading().source().seconds();
  }
}
