package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Rounds;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.ShortLabels;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.RoundPlan;
import org.kordamp.ikonli.feather.Feather;

/** What a blind round is to be, before it begins. */
final class RoundPanel extends VBox {
  private final Rounds.Plan usual;
  private final List<String> lastHeard;
  private final ReadOnlyBooleanWrapper ready = new ReadOnlyBooleanWrapper();
  private final ComboBox<Round.Kind> kind = new ComboBox<>();
  private final ComboBox<Round.Question> question = new ComboBox<>();
  private final Spinner<Integer> trials;
  private final TextField listener = new TextField();
  private final ComboBox<String> role = new ComboBox<>();
  private final List<CheckBox> versions = new ArrayList<>();
  private static final int MOST_LABEL = 54;
  private static final double SHORTEST = 0.3;

  private final TextField from = new TextField();
  private final TextField to = new TextField();
  private final Label problem = Texts.of("", "warning-text", "small");
  private Clock clock;
  private double seconds;
  private final Label words = Texts.wrapped("", "quiet", "small");

  RoundPanel(Workspace workspace, Rounds.Plan usual) {
    super(12);
    this.usual = usual;
    setId("round-panel");
    setPadding(new Insets(4, 18, 10, 18));
    setPrefWidth(520);
    kind.getItems().addAll(Round.Kind.values());
    kind.setConverter(Words.of(Round.Kind::title));
    kind.setValue(usual.kind());
    kind.setId("round-kind");
    question.getItems().addAll(Round.Question.values());
    question.setConverter(Words.of(Round.Question::words));
    question.setValue(usual.question());
    question.setId("round-about");
    trials = new Spinner<>(RoundPlan.FEWEST_TRIALS, RoundPlan.MOST_TRIALS, usual.trials(), 4);
    trials.setId("round-trials");
    trials.setPrefWidth(90);
    listener.setPromptText("name or initials, if you like");
    listener.setId("round-listener");
    VBox ticks = new VBox(6);
    List<String> names = ShortLabels.of(names(workspace), MOST_LABEL);
    for (Version v : workspace.comparison().versions()) {
      if (usual.items().contains(v.id())) {
        CheckBox box = new CheckBox(names.get(names(workspace).indexOf(v.label())));
        box.setAccessibleText(v.label());
        box.setUserData(v.id());
        box.setMnemonicParsing(false);
        box.selectedProperty().addListener((o, was, is) -> say());
        versions.add(box);
        ticks.getChildren().add(box);
      }
    }
    ScrollPane scroll = new ScrollPane(ticks);
    scroll.setFitToWidth(true);
    scroll.setMaxHeight(190);
    GridPane grid = new GridPane();
    grid.setHgap(14);
    grid.setVgap(8);
    grid.addRow(0, Texts.of("Kind"), kind);
    grid.addRow(1, Texts.of("Judge"), question);
    grid.addRow(2, Texts.of("Trials"), trials);
    grid.addRow(3, Texts.of("Listener"), listener);
    grid.addRow(4, Texts.of("Loop"), loop(workspace));
    if (!workspace.listening().allRoles().isEmpty()) {
      role.getItems().add("");
      role.getItems().addAll(Roles.sorted(workspace.listening().allRoles()));
      role.setConverter(Words.of(r -> r.isEmpty() ? "all of them, as a mix" : r + " alone"));
      role.setValue(usual.role());
      role.setId("round-role");
      grid.addRow(5, Texts.of("Stem"), role);
    }
    getChildren().addAll(words, grid, Texts.of("Who takes part", "strong"), scroll);
    this.lastHeard = workspace.listening().lastHeard();
    kind.valueProperty().addListener((o, was, is) -> tick());
    tick();
  }

  private static List<String> names(Workspace workspace) {
    return workspace.comparison().versions().stream().map(Version::label).toList();
  }

  /** From where to where each sound is looped, as times are told here. */
  private HBox loop(Workspace workspace) {
    clock = workspace.clock();
    seconds = workspace.sourceProperty().get().audio().seconds();
    edge(from, "round-from", "The loop begins at", usual.span().from());
    edge(to, "round-to", "The loop ends at", usual.span().to());
    Button hear =
        Icons.button(
            Feather.PLAY,
            "Hear the loop",
            () ->
                span()
                    .ifPresent(
                        s ->
                            workspace
                                .listening()
                                .playSpot(workspace.listening().chosenProperty().get(), s)));
    hear.setId("round-hear-loop");
    HBox box = new HBox(6, from, Texts.of("to"), to, hear, problem);
    box.setAlignment(Pos.CENTER_LEFT);
    return box;
  }

  private void edge(TextField field, String id, String name, double at) {
    field.setText(clock.text(at));
    field.setId(id);
    field.setAccessibleText(name);
    field.setPrefColumnCount(8);
    field.textProperty().addListener((o, was, is) -> say());
  }

  /** The loop that is typed; empty if it is none within the source. */
  private Optional<TimeSpan> span() {
    try {
      // What was not touched stays as it was found, not as it is told.
      double start =
          from.getText().equals(clock.text(usual.span().from()))
              ? usual.span().from()
              : clock.seconds(from.getText());
      double end =
          to.getText().equals(clock.text(usual.span().to()))
              ? usual.span().to()
              : clock.seconds(to.getText());
      end = Math.min(end, seconds);
      return end - start < SHORTEST ? Optional.empty() : Optional.of(new TimeSpan(start, end));
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  /** Ticks those that such a round takes: two for telling apart, the last two that were heard. */
  private void tick() {
    boolean two = kind.getValue() == Round.Kind.ABX;
    List<String> ids = new ArrayList<>(versions.stream().map(RoundPanel::id).toList());
    ids.sort(
        Comparator.comparingInt(
            id -> lastHeard.contains(id) ? lastHeard.indexOf(id) : lastHeard.size()));
    Set<String> taken = Set.copyOf(two ? ids.subList(0, Math.min(2, ids.size())) : ids);
    versions.forEach(box -> box.setSelected(taken.contains(id(box))));
    say();
  }

  private static String id(CheckBox box) {
    return (String) box.getUserData();
  }

  /** Whether a round can begin with what is ticked. */
  ReadOnlyBooleanProperty readyProperty() {
    return ready.getReadOnlyProperty();
  }

  private void say() {
    int ticked = items().size();
    boolean looped = span().isPresent();
    problem.setText(looped ? "" : "no loop in the source");
    ready.set(looped && (kind.getValue() == Round.Kind.ABX ? ticked == 2 : ticked >= 2));
    trials.setDisable(kind.getValue() != Round.Kind.ABX);
    int n = items().size();
    words.setText(
        switch (kind.getValue()) {
          case ABX ->
              "Can two versions be told apart at all? X is one of them; say which. "
                  + (n == 2 ? "" : "Tick two of them below. ")
                  + "With 16 trials 12 must be right.";
          case PAIRS ->
              "Two at a time, which would you send out? "
                  + (n <= RoundPlan.MOST_ALL_PAIRS
                      ? n * (n - 1) + " trials: every pair in both orders."
                      : "As many pairs as it takes to sort " + n + ".");
          case RATING ->
              "All at once on one line. "
                  + "One of them is hidden twice, and the clean recording or the untouched source"
                  + " hides among them.";
        });
  }

  private List<String> items() {
    return versions.stream().filter(CheckBox::isSelected).map(RoundPanel::id).toList();
  }

  /** What was set. */
  Rounds.Plan plan() {
    return new Rounds.Plan(
        kind.getValue(),
        question.getValue(),
        items(),
        trials.getValue(),
        listener.getText().strip(),
        span().orElse(usual.span()),
        role.getValue() == null ? "" : role.getValue());
  }
}
