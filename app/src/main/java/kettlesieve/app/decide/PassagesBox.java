package kettlesieve.app.decide;

import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.report.PassageWords;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.ScoreSheet;
import org.kordamp.ikonli.feather.Feather;

/** Who leads where along the source, and why. */
final class PassagesBox extends VBox {
  /** More than these say no more. */
  private static final int MOST_SHOWN = 4;

  PassagesBox(Workspace workspace, ScoreSheet sheet, Passages passages) {
    super(4);
    double seconds = workspace.sourceProperty().get().audio().seconds();
    setId("passage-box");
    setPadding(new Insets(14, 0, 4, 0));
    Button save =
        HandoverBar.button(
            workspace,
            "Save the leaders …",
            Feather.SCISSORS,
            "Each passage from its leader, matched, with fades of 10 ms, as one WAV with a cue\n"
                + "a change, and the list beside it. A plan for an edit, not an edit.");
    save.setId("leaders");
    save.getStyleClass().add("small");
    boolean onTime = !sheet.job().ownTime();
    save.setVisible(onTime && !sheet.job().inStems());
    save.setOnAction(
        e ->
            Choosers.of(
                    workspace.lastFolder(),
                    "Save the leaders",
                    new FileChooser.ExtensionFilter("WAV", "*.wav"))
                .save(
                    getScene().getWindow(),
                    workspace.document().plainName() + "-leaders.wav",
                    workspace.document().folder())
                .ifPresent(file -> workspace.handover().leaders(file, passages)));
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(10, Texts.of("Passage by passage", "strong"), gap, save);
    head.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(head, new PassageLane(workspace, passages, seconds));
    List<Passages.Passage> stretches = passages.stretches();
    for (Passages.Passage p : stretches.subList(0, Math.min(MOST_SHOWN, stretches.size()))) {
      getChildren()
          .add(Texts.wrapped(PassageWords.of(sheet, p, workspace.clock()), "quiet", "small"));
    }
    if (stretches.size() > MOST_SHOWN) {
      getChildren()
          .add(
              Texts.of(
                  "and " + (stretches.size() - MOST_SHOWN) + " more; the report has all of them",
                  "quiet",
                  "small"));
    }
  }
}
