package kettlesieve.app.gather;

import java.util.List;
import java.util.Optional;
import javafx.scene.control.TextField;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Tags;

/** Words by which round-ups tell this recording from others, parted by commas. */
final class TagsField extends TextField {
  private static final String WHAT =
      "Tags: words by which the round-up tells recordings apart, parted by commas";

  private final Workspace workspace;

  TagsField(Workspace workspace) {
    this.workspace = workspace;
    getStyleClass().add("plain-field");
    setId("tags");
    setPromptText("Tags, such as: tape, outdoors");
    setAccessibleText(WHAT);
    Hint.set(this, WHAT);
    setPrefWidth(220);
    setMinWidth(90);
    Fields.whenDone(this, () -> text(workspace.comparison()), this::take);
  }

  private static String text(Comparison c) {
    return String.join(", ", c.tags());
  }

  void show(Comparison c) {
    if (!isFocused()) {
      setText(text(c));
    }
  }

  private void take(String typed) {
    List<String> tags = Tags.of(typed);
    Optional<String> tooLong = tags.stream().filter(t -> !Tags.valid(t)).findFirst();
    if (tooLong.isPresent()) {
      workspace
          .messageProperty()
          .set(
              "A tag has at most "
                  + Tags.LONGEST
                  + " letters. Part several by commas, or say it shorter.");
      return;
    }
    if (!tags.equals(workspace.comparison().tags())) {
      workspace.edit(c -> c.withTags(tags));
    }
    setText(String.join(", ", tags));
  }
}
