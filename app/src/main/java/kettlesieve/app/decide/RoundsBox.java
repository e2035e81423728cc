package kettlesieve.app.decide;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.HPos;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.report.EarTable;
import kettlesieve.core.report.RoundWords;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.ears.EarAgainstFigures;
import kettlesieve.core.score.ears.EarWeights;
import org.kordamp.ikonli.feather.Feather;

/** What the ear said: blind rounds with their results, answers of others, weights by ear. */
final class RoundsBox extends VBox {
  private static final String BY_EAR = "by-ear";
  private static final int MOST_HEARD = 3;

  private final Workspace workspace;

  RoundsBox(Workspace workspace, ScoreSheet sheet, Button csv, Button json) {
    super(6);
    this.workspace = workspace;
    setId("rounds");
    setPadding(new Insets(14, 0, 0, 0));
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(8, Texts.of("What the ear says", "strong"), gap, csv, json);
    head.setAlignment(Pos.CENTER_LEFT);
    getChildren().add(head);
    List<Round> rounds = workspace.comparison().rounds();
    for (int i = rounds.size() - 1; i >= 0; i--) {
      getChildren().add(round(rounds.get(i), sheet));
    }
    for (String together : EarTable.together(workspace.comparison())) {
      Label words = Texts.wrapped(together.strip(), "small");
      words.setId("rounds-together");
      getChildren().add(words);
    }
    for (ListeningSheet s : workspace.comparison().sheets()) {
      getChildren().add(Texts.wrapped(EarTable.of(workspace.comparison(), s).strip(), "small"));
    }
    EarWeights.of(EarWeights.pairs(finished(rounds)), sheet).ifPresent(w -> weights(w, sheet));
  }

  private static List<Round> finished(List<Round> rounds) {
    return rounds.stream().filter(Round::done).toList();
  }

  private VBox round(Round round, ScoreSheet sheet) {
    List<String> lines = RoundWords.lines(workspace.comparison(), round, sheet);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(8, Texts.of(RoundWords.head(round), "quiet", "small"), gap);
    head.setAlignment(Pos.CENTER_LEFT);
    if (!round.done()) {
      Button on = new Button("Go on");
      on.setId("round-on-" + round.id());
      on.getStyleClass().add("small");
      on.setOnAction(e -> workspace.rounds().goOn(round));
      head.getChildren().add(on);
    }
    Button away =
        Icons.button(
            Feather.TRASH_2, "Take this round out", () -> workspace.rounds().forget(round));
    away.setId("round-away-" + round.id());
    head.getChildren().add(away);
    VBox words = new VBox(2, Texts.wrapped(lines.get(0), "answer-small"));
    for (String line : lines.subList(1, lines.size())) {
      words.getChildren().add(Texts.wrapped(line, "quiet", "small"));
    }
    Map<String, Estimate> ear = round.done() ? RoundWords.ear(round) : Map.of();
    if (!ear.isEmpty()) {
      words.getChildren().add(table(ear, round, sheet));
    }
    HBox.setHgrow(words, Priority.ALWAYS);
    HBox body = new HBox(18, words);
    EarAgainstFigures.of(ear, round.question(), sheet)
        .ifPresent(
            found -> {
              words.getChildren().addAll(hearings(round, found));
              body.getChildren().add(new EarPlot(workspace, round, ear, sheet));
            });
    VBox box = new VBox(2, head, body);
    box.setId("round-" + round.id());
    return box;
  }

  /** Every version: what the ear says with its interval, and the score it answers. */
  private GridPane table(Map<String, Estimate> ear, Round round, ScoreSheet sheet) {
    GridPane grid = new GridPane();
    grid.setId("ear-table-" + round.id());
    grid.setHgap(14);
    grid.setVgap(1);
    String[] heads = {"Version", "By ear", "95 % interval", "Score"};
    for (int i = 0; i < heads.length; i++) {
      Label head = Texts.of(heads[i], "column-head");
      grid.add(head, i, 0);
      GridPane.setHalignment(head, i == 0 ? HPos.LEFT : HPos.RIGHT);
    }
    List<Map.Entry<String, Estimate>> order = new ArrayList<>(ear.entrySet());
    order.sort((a, b) -> Double.compare(b.getValue().value(), a.getValue().value()));
    int row = 1;
    for (Map.Entry<String, Estimate> one : order) {
      Estimate e = one.getValue();
      int decimals = Math.abs(e.value()) < 10 ? 2 : 0;
      boolean sure = e.low() == e.high();
      Label name =
          VersionName.small(workspace, EarTable.name(workspace.comparison(), one.getKey()));
      name.setMaxWidth(220);
      grid.add(name, 0, row);
      String[] cells = {
        Numbers.fixed(e.value(), decimals),
        sure
            ? "one listening"
            : Numbers.fixed(e.low(), decimals) + " to " + Numbers.fixed(e.high(), decimals),
        sheet
            .entry(Part.ALL, one.getKey())
            .flatMap(x -> EarAgainstFigures.score(x, round.question()))
            .map(s -> Numbers.fixed(s.value(), 0))
            .orElse("–")
      };
      for (int i = 0; i < cells.length; i++) {
        Label cell = Texts.of(cells[i], "small");
        GridPane.setHalignment(cell, HPos.RIGHT);
        grid.add(cell, i + 1, row);
      }
      row++;
    }
    return grid;
  }

  /** The places that the figures hold against what the ear prefers, to be heard at once. */
  private List<Button> hearings(Round round, EarAgainstFigures found) {
    List<Button> buttons = new ArrayList<>();
    for (EarAgainstFigures.Disagreement d : found.disagreements()) {
      if (buttons.size() < MOST_HEARD) {
        SpotButton.of(workspace, d.preferred(), d.reading(), d.spot())
            .ifPresent(
                hear -> {
                  hear.setId("ear-spot-" + round.id() + "-" + buttons.size());
                  buttons.add(hear);
                });
      }
    }
    return buttons;
  }

  private void weights(EarWeights found, ScoreSheet sheet) {
    String words =
        String.format(
            java.util.Locale.ROOT,
            "Weights by ear: Missed %.2f, Added %.2f, Lost %.2f put %d of %d decided pairs as you"
                + " did (even weights %d).",
            found.weights().get("missed"),
            found.weights().get("added"),
            found.weights().get("lost"),
            found.reproduced(),
            found.decided(),
            found.byEven());
    String warning =
        found.enough()
            ? ""
            : " Fewer than " + EarWeights.ENOUGH + " decided pairs: too few to tell.";
    Button take = new Button("Take them over");
    take.setId("ear-weights");
    take.getStyleClass().add("small");
    take.setOnAction(e -> takeOver(found, sheet));
    HBox.setHgrow(take, Priority.NEVER);
    HBox row = new HBox(10, Texts.wrapped(words + warning, "small"), take);
    row.setAlignment(Pos.CENTER_LEFT);
    getChildren().add(row);
  }

  private void takeOver(EarWeights found, ScoreSheet sheet) {
    Profile profile =
        new Profile(
            BY_EAR,
            "By ear",
            "The weights that blind rounds ask for.",
            found.weights(),
            sheet.profile().tolerance(),
            sheet.profile().requirements());
    workspace.edit(c -> c.withOwnProfile(profile).withProfile(BY_EAR));
  }

  /** Nothing to show without a round or an answer. */
  static Optional<RoundsBox> of(Workspace workspace, ScoreSheet sheet, Button csv, Button json) {
    boolean answered =
        workspace.comparison().sheets().stream().anyMatch(s -> !s.answers().isEmpty());
    return workspace.comparison().rounds().isEmpty() && !answered
        ? Optional.empty()
        : Optional.of(new RoundsBox(workspace, sheet, csv, json));
  }
}
