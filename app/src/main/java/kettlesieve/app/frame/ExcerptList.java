package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.FilePlaces;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.TimeSpan;
import org.kordamp.ikonli.feather.Feather;

/** Excerpts that are kept: named, ordered, heard one by one or together. */
final class ExcerptList extends FloatingCard {
  private final Workspace workspace;

  ExcerptList(Workspace workspace) {
    super("excerpts", "Excerpts", 560);
    this.workspace = workspace;
    workspace.comparisonProperty().addListener((o, was, is) -> refill());
  }

  @Override
  void fill(VBox card) {
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
    inTheFile(card, c);
  }

  /** Named places that the source's file brings along. */
  private void inTheFile(VBox card, Comparison c) {
    List<FilePlaces.Place> places = FilePlaces.of(workspace.sourceProperty().get());
    if (places.isEmpty()) {
      return;
    }
    card.getChildren().add(Texts.of("Places in the source's file", "strong"));
    VBox rows = new VBox(2);
    for (FilePlaces.Place place : places) {
      Label name = Texts.of(place.name());
      HBox.setHgrow(name, Priority.ALWAYS);
      name.setMaxWidth(Double.MAX_VALUE);
      Label at = Texts.of(workspace.clock().text(place.seconds()), "quiet", "small");
      at.setMinWidth(Region.USE_PREF_SIZE);
      Button take = new Button("Take as excerpt");
      take.getStyleClass().add("tool-toggle");
      take.setId("take-place-" + places.indexOf(place));
      take.setAccessibleText("Take " + place.name() + " as an excerpt, up to the next place");
      take.setDisable(!place.longEnough());
      take.setOnAction(e -> workspace.edit(now -> withExcerpt(now, place.excerpt(now))));
      HBox row =
          new HBox(
              6,
              Icons.button(
                  Feather.PLAY,
                  "Hear " + place.name(),
                  () -> {
                    workspace.listening().seek(place.seconds());
                    workspace.listening().play();
                  }),
              name,
              at,
              take);
      row.setAlignment(Pos.CENTER_LEFT);
      rows.getChildren().add(row);
    }
    ScrollPane pane = new ScrollPane(rows);
    pane.setFitToWidth(true);
    pane.setMaxHeight(220);
    card.getChildren().add(pane);
  }

  private static Comparison withExcerpt(Comparison c, Excerpt excerpt) {
    List<Excerpt> list = new ArrayList<>(c.excerpts());
    list.add(excerpt);
    return c.withExcerpts(list);
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
            workspace.clock().text(excerpt.span().from())
                + " – "
                + workspace.clock().text(excerpt.span().to()),
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
          return withExcerpt(c, new Excerpt("Excerpt " + n, span));
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
      refill();
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
