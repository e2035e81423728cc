package kettlesieve.app.decide;

import javafx.geometry.Insets;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.RadioButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Handover;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.report.BlindCopies;

/** What other listeners are to be asked. */
final class SheetPanel extends VBox {
  private final RadioButton rating = new RadioButton("All letters along one line (rating)");
  private final RadioButton pairs =
      new RadioButton("Two at a time (pairs, up to " + BlindCopies.MOST_FOR_PAIRS + " letters)");
  private final CheckBox source = new CheckBox("The untouched source takes part in pairs");
  private final ComboBox<Round.Question> question = new ComboBox<>();

  /**
   * @param stem which is heard, in words; empty without stems
   */
  SheetPanel(String stem) {
    super(10);
    setId("sheet-panel");
    setPadding(new Insets(4, 18, 10, 18));
    setPrefWidth(500);
    ToggleGroup kinds = new ToggleGroup();
    kinds.getToggles().addAll(rating, pairs);
    rating.setSelected(true);
    pairs.setId("sheet-pairs");
    source.setId("sheet-source");
    source.disableProperty().bind(pairs.selectedProperty().not());
    question.getItems().addAll(Round.Question.values());
    question.setValue(Round.Question.OVERALL);
    question.setConverter(Words.of(Round.Question::words));
    question.setId("sheet-question");
    getChildren()
        .addAll(
            Texts.wrapped(
                "A folder with blind copies at matched level and a page that plays them from disk"
                    + " in any browser. What the letters stand for stays in the comparison: save it"
                    + " before you hand the folder out. Drop the answers onto this step.",
                "quiet",
                "small"),
            rating,
            pairs,
            source,
            ReelPanel.row(Texts.of("Judge"), question));
    if (!stem.isEmpty()) {
      getChildren().add(Texts.of("Stem: " + stem, "quiet"));
    }
  }

  /** What was set. */
  Handover.SheetWish wish() {
    return new Handover.SheetWish(
        pairs.isSelected() ? Round.Kind.PAIRS : Round.Kind.RATING,
        question.getValue(),
        pairs.isSelected() && source.isSelected());
  }
}
