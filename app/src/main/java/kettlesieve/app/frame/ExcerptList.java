package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.TimeSpan;
import org.kordamp.ikonli.feather.Feather;

/** Excerpts that are kept: named, ordered, heard one by one or together. */
final class ExcerptList extends StackPane {
  private final Workspace workspace;

  ExcerptList(Workspace workspace) {
    this.workspace = workspace;
    setAlignment(Pos.TOP_CENTER);
    setStyle("-fx-padding: 52 0 0 0;");
    setVisible(false);
    setPickOnBounds(false);
    setId("excerpts");
    workspace.comparisonProperty().addListener((o, was, is) -> fill());
  }

  void toggle() {
    setVisible(!isVisible());
    fill();
  }

  private void fill() {
    if (!isVisible()) {
      return;
    }
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head =
        new HBox(
            8,
            Texts.of("Excerpts", "section"),
            gap,
            Icons.button(Feather.X, "Close the list of excerpts", this::toggle));
    head.setAlignment(Pos.CENTER_LEFT);
    VBox card = new VBox(6, head);
    card.getStyleClass().add("card");
    card.setMaxSize(560, Region.USE_PREF_SIZE);
    card.getStyleClass().add("floating");
    Comparison c = workspace.comparison();
    for (Excerpt excerpt : c.excerpts()) {
      card.getChildren().add(row(c, excerpt));
    }
    if (c.excerpts().isEmpty()) {
      card.getChildren()
          .add(
              Texts.wrapped(
                  "Drag over the overview to choose a place, then keep it here under a name.",
                  "quiet"));
    }
    Button keep = new Button("Keep the place chosen now", Icons.of(Feather.PLUS));
    keep.setId("keep-excerpt");
    keep.setDisable(c.excerpt() == null || c.together());
    keep.setOnAction(e -> keep());
    card.getChildren().add(keep);
    getChildren().setAll(card);
  }

  private HBox row(Comparison c, Excerpt excerpt) {
    int index = c.excerpts().indexOf(excerpt);
    TextField name = new TextField(excerpt.name());
    name.setId("excerpt-name-" + index);
    name.setAccessibleText("Name of the excerpt");
    Fields.whenDone(name, text -> rename(excerpt, text));
    HBox.setHgrow(name, Priority.ALWAYS);
    Label where =
        Texts.of(
            Numbers.clock(excerpt.span().from()) + " – " + Numbers.clock(excerpt.span().to()),
            "quiet",
            "small");
    where.setMinWidth(Region.USE_PREF_SIZE);
    HBox row =
        new HBox(
            6,
            Icons.button(Feather.PLAY, "Loop " + excerpt.name(), () -> hear(excerpt)),
            name,
            where,
            Icons.button(Feather.CHEVRON_UP, "Move up", () -> move(excerpt, -1)),
            Icons.button(Feather.CHEVRON_DOWN, "Move down", () -> move(excerpt, 1)),
            Icons.button(Feather.TRASH_2, "Take " + excerpt.name() + " away", () -> drop(excerpt)));
    row.setAlignment(Pos.CENTER_LEFT);
    return row;
  }

  private void hear(Excerpt excerpt) {
    workspace.edit(c -> c.withTogether(false).withExcerpt(excerpt.span()));
    workspace.listening().loopingProperty().set(true);
    workspace.listening().seek(excerpt.span().from());
    workspace.listening().play();
  }

  private void keep() {
    workspace.edit(
        c -> {
          TimeSpan span = c.excerpt();
          int n = c.excerpts().size() + 1;
          while (c.excerpt("Excerpt " + n).isPresent()) {
            n++;
          }
          List<Excerpt> list = new ArrayList<>(c.excerpts());
          list.add(new Excerpt("Excerpt " + n, span));
          return c.withExcerpts(list);
        });
  }

  private void rename(Excerpt excerpt, String text) {
    if (text.isBlank() || workspace.comparison().excerpt(text).isPresent()) {
      workspace
          .messageProperty()
          .set(
              text.isBlank()
                  ? "An excerpt needs a name."
                  : "Another excerpt is already called \"" + text + "\".");
      fill();
      return;
    }
    workspace.edit(
        c ->
            c.withExcerpts(
                c.excerpts().stream()
                    .map(e -> e.equals(excerpt) ? new Excerpt(text, e.span()) : e)
                    .toList()));
  }

  private void move(Excerpt excerpt, int places) {
    workspace.edit(
        c -> {
          List<Excerpt> list = new ArrayList<>(c.excerpts());
          int at = list.indexOf(excerpt);
          int to = Math.max(0, Math.min(list.size() - 1, at + places));
          list.add(to, list.remove(at));
          return c.withExcerpts(list);
        });
  }

  private void drop(Excerpt excerpt) {
    workspace.edit(
        c -> c.withExcerpts(c.excerpts().stream().filter(e -> !e.equals(excerpt)).toList()));
  }
}
