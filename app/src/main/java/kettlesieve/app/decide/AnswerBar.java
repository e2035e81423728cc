package kettlesieve.app.decide;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.core.measure.Part;
import kettlesieve.core.report.Answer;
import kettlesieve.core.report.SettlingWords;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Settling;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.ears.EarOdds;
import org.kordamp.ikonli.feather.Feather;

/** Who leads, how surely, and what would settle it, with the place to hear. */
final class AnswerBar extends HBox {
  private static final int MOST_LINES = 3;
  private static final long EAR_SEED = 7;

  private final Workspace workspace;
  private final Label answer = new Label();
  private final Button hear = new Button("Hear both there  (D)", Icons.of(Feather.PLAY));

  AnswerBar(Workspace workspace) {
    super(14);
    this.workspace = workspace;
    getStyleClass().add("answer");
    setAlignment(Pos.CENTER_LEFT);
    setMinHeight(Region.USE_PREF_SIZE);
    answer.setId("answer");
    answer.setWrapText(true);
    answer.setMinHeight(Region.USE_PREF_SIZE);
    answer.setMaxWidth(Double.MAX_VALUE);
    HBox.setHgrow(answer, Priority.ALWAYS);
    hear.getStyleClass().add("spot-button");
    hear.setMinWidth(Region.USE_PREF_SIZE);
    hear.setId("hear-first-two");
    Hint.set(hear, "Loops the place where the first two differ most; again: the other one");
    hear.setOnAction(e -> workspace.firstTwo().hear());
    getChildren().addAll(answer, hear);
    hide();
  }

  void show(ScoreSheet sheet) {
    Answer said = new Answer(sheet, workspace.comparison());
    List<String> lines = new ArrayList<>(said.lines());
    Optional<Settling> two = workspace.firstTwo().settling();
    two.flatMap(s -> ears(sheet).map(e -> SettlingWords.withEars(s, e)))
        .ifPresent(words -> lines.add(1 + lines.indexOf(SettlingWords.headline(two.get())), words));
    List<String> told = new ArrayList<>(lines.subList(0, Math.min(MOST_LINES, lines.size())));
    // A leader that breaks what the delivery asks for must not be read past.
    said.brokenDelivery().filter(l -> !told.contains(l)).ifPresent(told::add);
    answer.setText(String.join(" ", told));
    boolean place = two.flatMap(Settling::place).isPresent();
    hear.setVisible(place);
    hear.setManaged(place);
    setVisible(true);
    setManaged(true);
  }

  private Optional<EarOdds> ears(ScoreSheet sheet) {
    return EarOdds.of(SheetOdds.of(sheet, Part.ALL), workspace.comparison().rounds(), "", EAR_SEED);
  }

  void hide() {
    answer.setText("");
    setVisible(false);
    setManaged(false);
  }
}
