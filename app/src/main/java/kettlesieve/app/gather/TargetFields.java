package kettlesieve.app.gather;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.StretchTarget;

/** Stretch and pitch: what was asked of the tools, in the words that the person has at hand. */
final class TargetFields extends HBox {
  private final Workspace workspace;

  TargetFields(Workspace workspace) {
    super(8);
    this.workspace = workspace;
    setAlignment(Pos.CENTER_LEFT);
    workspace.sourceProperty().addListener((o, was, is) -> show(workspace.comparison()));
  }

  /** Shows what a comparison asks for; nothing for jobs that ask for nothing. */
  void show(Comparison c) {
    getChildren().clear();
    boolean asks = c.job().ownTime();
    setVisible(asks);
    setManaged(asks);
    boolean stretch = c.job() == Job.STRETCH;
    if (!stretch && c.job() != Job.PITCH) {
      return;
    }
    Double now = stretch ? c.ratio() : c.semitones();
    TextField field =
        new TextField(
            now == null
                ? ""
                : stretch
                    ? Numbers.fixed(now, now == Math.rint(now * 1000) / 1000 ? 3 : 6)
                    : Numbers.signed(now, now == Math.rint(now) ? 0 : 2));
    field.setId("target");
    field.setPrefWidth(stretch ? 104 : 84);
    field.setAccessibleText(stretch ? "New length over old" : "Shift in semitones");
    if (stretch) {
      Hint.set(
          field,
          "0.8 times as long; or 80 %; a new length: 12.5 s or 1:02.5; two tempos: 100 → 120;"
              + "\na speed change in semitones: +3 st");
    }
    Fields.whenDone(field, text -> take(stretch, text));
    Label words = Texts.of(stretch ? "asked for: length" : "asked for: semitones", "quiet");
    words.setMinWidth(Region.USE_PREF_SIZE);
    getChildren().addAll(words, field);
    if (stretch && now != null) {
      Label converted = Texts.of(StretchTarget.words(now, seconds()), "quiet", "small");
      converted.setId("target-converted");
      getChildren().add(converted);
    }
  }

  private double seconds() {
    var source = workspace.sourceProperty().get();
    return source == null ? Double.NaN : source.audio().seconds();
  }

  private void take(boolean stretch, String text) {
    try {
      if (text.isBlank()) {
        workspace.edit(c -> stretch ? c.withRatio(null) : c.withSemitones(null));
      } else if (stretch) {
        double ratio = StretchTarget.ratio(text, seconds());
        workspace.edit(c -> c.withRatio(ratio));
      } else {
        String plain = text.replace(',', '.').replace('−', '-').replace("+", "").trim();
        double semitones = Double.parseDouble(plain);
        workspace.edit(c -> c.withSemitones(semitones));
      }
    } catch (NumberFormatException e) {
      workspace
          .messageProperty()
          .set(
              "\""
                  + text
                  + "\" is not a "
                  + (stretch
                      ? "length such as 0.8, 80 %, 12.5 s or 100 → 120."
                      : "number such as +3."));
    } catch (IllegalArgumentException e) {
      workspace.messageProperty().set("That cannot be: " + e.getMessage() + ".");
    }
    show(workspace.comparison());
  }
}
