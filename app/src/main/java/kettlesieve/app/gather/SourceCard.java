package kettlesieve.app.gather;

import java.nio.file.Path;
import java.util.Locale;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.media.Recording;
import kettlesieve.core.signal.FullScale;
import kettlesieve.core.signal.Loudness;
import kettlesieve.core.signal.TruePeak;
import kettlesieve.core.work.PreparedExcerpt;

/** A card with the facts of the source or of the clean recording. */
final class SourceCard extends VBox {
  private final Workspace workspace;
  private final String what;
  private final String hint;
  private final ObjectProperty<Recording> recording;
  private final Label file = new Label();
  private final Button choose = new Button();
  private final HBox head = new HBox(8);
  private final GridPane facts = new GridPane();
  private final Drawing worker = new Drawing();
  private final Consumer<MediaRef> another;
  private MediaRef ref;
  private Recording shown;
  private Levels levels;

  private record Levels(double loudness, double peak, long fullScale) {}

  SourceCard(
      Workspace workspace,
      String what,
      String hint,
      Runnable chooser,
      Consumer<MediaRef> another,
      ObjectProperty<Recording> recording) {
    this.workspace = workspace;
    this.what = what;
    this.hint = hint;
    this.recording = recording;
    this.another = another;
    getStyleClass().add("card");
    setPrefWidth(400);
    choose.setOnAction(e -> chooser.run());
    choose.setMinWidth(Region.USE_PREF_SIZE);
    choose.setAccessibleText("Choose the " + what.toLowerCase(Locale.ROOT));
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    head.getChildren().addAll(Texts.of(what, "section"), gap, choose);
    head.setStyle("-fx-alignment: center-left;");
    facts.setHgap(14);
    facts.setVgap(2);
    getChildren().addAll(head, file, facts);
    recording.addListener((o, was, is) -> measure());
    workspace.preparedExcerptProperty().addListener((o, was, is) -> fill());
  }

  /** Something further in the line above, beside the heading. */
  SourceCard with(Node more) {
    head.getChildren().add(1, more);
    return this;
  }

  void show(MediaRef named, String problem) {
    ref = named;
    choose.setText(ref == null ? "Choose …" : "Replace …");
    file.getStyleClass().setAll("label");
    file.setWrapText(true);
    if (ref == null) {
      file.setText(hint);
      file.getStyleClass().add("quiet");
    } else if (problem != null) {
      file.setText(problem);
      file.getStyleClass().add("warning-text");
      choose.setText("Point to it …");
    } else {
      file.setText(Path.of(ref.path()).getFileName().toString());
      file.getStyleClass().add("strong");
      Hint.set(file, ref.path());
    }
    fill();
  }

  private void measure() {
    Recording now = recording.get();
    if (now == shown) {
      return;
    }
    shown = now;
    levels = null;
    fill();
    if (now != null) {
      worker.request(
          () ->
              new Levels(
                  Loudness.of(now.audio()).integrated().orElse(Double.NaN),
                  TruePeak.db(now.audio()),
                  FullScale.samples(now.audio())),
          made -> {
            levels = made;
            fill();
          });
    }
  }

  private void fill() {
    facts.getChildren().clear();
    Recording now = recording.get();
    if (now == null) {
      return;
    }
    fact(0, 0, "File", GatherView.describe(now.facts()));
    if (ref != null && PartChooser.wanted(now.facts())) {
      facts.add(
          PartChooser.of(what.toLowerCase(Locale.ROOT), ref, now.facts(), another), 0, 3, 4, 1);
    }
    if (levels != null) {
      fact(
          0,
          1,
          "Loudness",
          Double.isNaN(levels.loudness()) ? "–" : Numbers.fixed(levels.loudness(), 1) + " LUFS");
      fact(0, 2, "True peak", Numbers.fixed(levels.peak(), 1) + " dBTP");
      fact(
          2,
          1,
          "At full scale",
          levels.fullScale() == 0 ? "no samples" : levels.fullScale() + " samples");
    }
    PreparedExcerpt preparedExcerpt = workspace.preparedExcerptProperty().get();
    if (preparedExcerpt != null && recording == workspace.sourceProperty()) {
      fact(2, 2, "Noise floor", noiseFloor(preparedExcerpt));
    }
  }

  private static String noiseFloor(PreparedExcerpt preparedExcerpt) {
    PauseGround pauses = preparedExcerpt.source().pauses();
    if (pauses.problem().isPresent()) {
      return "not found";
    }
    return Numbers.fixed(pauses.floorDb(), 1) + " dBFS RMS";
  }

  private void fact(int column, int row, String name, String value) {
    Label head = Texts.of(name, "quiet", "small");
    head.setMinWidth(Region.USE_PREF_SIZE);
    facts.add(head, column, row);
    facts.add(Texts.of(value, "small"), column + 1, row, row == 0 ? 3 : 1, 1);
  }
}
