package kettlesieve.app.frame;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCombination;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.score.Scoring;
import kettlesieve.demo.Demo;
import org.kordamp.ikonli.feather.Feather;

/** Name, job, excerpt, delivery profile and warnings. */
final class HeaderBar extends HBox {
  private final Workspace workspace;
  private final TextField name = new TextField();
  private final ComboBox<Job> job = new ComboBox<>();
  private final MenuButton excerpt = new MenuButton();
  private final Runnable showExcerpts;
  private final ComboBox<Profile> profile = new ComboBox<>();
  private final Button warnings = new Button();
  private boolean showing;

  /**
   * What opens and closes the cards that lie over the view.
   *
   * @param warnings of the comparison
   * @param keys all of them
   * @param excerpts that are kept
   * @param preferences of the person
   * @param testPiece what makes one
   */
  record Lists(
      Runnable warnings,
      Runnable keys,
      Runnable excerpts,
      Runnable preferences,
      Runnable testPiece) {}

  HeaderBar(Workspace workspace, FileActions files, Lists lists) {
    this.workspace = workspace;
    this.showExcerpts = lists.excerpts();
    getStyleClass().add("header");
    name.getStyleClass().add("name-field");
    name.setId("name");
    name.setPrefWidth(230);
    name.setMaxWidth(460);
    HBox.setHgrow(name, Priority.ALWAYS);
    Hint.set(name, name::getText);
    name.setAccessibleText("Name of the comparison");
    name.setOnAction(e -> takeName());
    Fields.takesBack(name, () -> workspace.comparison().name());
    name.focusedProperty().addListener((o, was, is) -> takeName());
    job.getItems().setAll(Job.values());
    job.setId("job");
    job.setConverter(Words.of(Job::title));
    job.setAccessibleText("Kind of job");
    job.setOnAction(
        e -> {
          if (!showing && job.getValue() != workspace.comparison().job()) {
            workspace.setJob(job.getValue());
          }
        });
    profile.setConverter(Words.of(Profile::title));
    profile.setId("profile");
    profile.setAccessibleText("Delivery profile");
    Hint.set(profile, "Delivery profile: what matters for this delivery");
    profile.setOnAction(
        e -> {
          if (profile.getValue() != null) {
            take(c -> c.withProfile(profile.getValue().name()));
          }
        });
    excerpt.getStyleClass().addAll("small");
    excerpt.setAccessibleText("What is heard and measured");
    excerpt.setOnShowing(e -> fillExcerpts());
    excerpt.setId("excerpt");
    warnings.setId("warnings");
    warnings.setGraphic(Icons.of(Feather.ALERT_TRIANGLE));
    warnings.getStyleClass().add("tool-toggle");
    warnings.setOnAction(e -> lists.warnings().run());
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.SOMETIMES);
    Button undo = Icons.button(Feather.CORNER_UP_LEFT, "Undo (Ctrl+Z)", workspace.document()::undo);
    undo.disableProperty().bind(workspace.document().canUndoProperty().not());
    undo.setId("undo");
    Button redo =
        Icons.button(Feather.CORNER_UP_RIGHT, "Redo (Ctrl+Y)", workspace.document()::redo);
    redo.disableProperty().bind(workspace.document().canRedoProperty().not());
    redo.setId("redo");
    Button save = Icons.button(Feather.SAVE, "Save (Ctrl+S)", files::save);
    save.setId("save");
    getChildren()
        .addAll(
            menu(files, lists),
            name,
            caption("Job", job),
            caption("Delivery", profile),
            caption("Heard and measured", excerpt),
            gap,
            warnings,
            undo,
            redo,
            save);
    workspace.comparisonProperty().addListener((o, was, is) -> show());
    workspace.sheetProperty().addListener((o, was, is) -> show());
    show();
  }

  /** A box with a word above it that says what it is. */
  private static VBox caption(String word, Region box) {
    Label caption = Texts.of(word, "caption");
    caption.setLabelFor(box);
    VBox both = new VBox(0, caption, box);
    both.visibleProperty().bind(box.visibleProperty());
    return both;
  }

  private MenuButton menu(FileActions files, Lists lists) {
    MenuButton menu = new MenuButton(null, Icons.of(Feather.FOLDER));
    menu.setId("file-menu");
    menu.setAccessibleText("Comparison file");
    menu.getItems()
        .addAll(
            item("New comparison", "Shortcut+N", files::startNew),
            item("Open …", "Shortcut+O", files::open),
            item("Save", "Shortcut+S", files::save),
            item("Save as …", "Shortcut+Shift+S", files::saveAs),
            new javafx.scene.control.SeparatorMenuItem(),
            item("Round-up of many …", () -> workspace.roundups().showingProperty().set(true)),
            item("Make a test piece …", lists.testPiece()),
            demos(files),
            item("Preferences …", "Shortcut+COMMA", lists.preferences()),
            item("Keys", "F1", lists.keys()));
    menu.setOnShowing(
        e -> {
          menu.getItems().removeIf(i -> "recent".equals(i.getUserData()));
          for (var path : files.recent()) {
            MenuItem recent = item("Recent: " + path.getFileName(), () -> files.openFile(path));
            recent.setUserData("recent");
            menu.getItems().add(recent);
          }
        });
    return menu;
  }

  private static Menu demos(FileActions files) {
    Menu menu = new Menu("Demo comparisons");
    for (Demo demo : Demo.ALL) {
      menu.getItems()
          .add(item(demo.job().title() + ": " + demo.title(), () -> files.openDemo(demo)));
    }
    menu.getItems()
        .add(item("Round-up: which denoiser for the interviews?", files::openInterviews));
    return menu;
  }

  /** With the key beside it that does the same. */
  private static MenuItem item(String text, String key, Runnable action) {
    MenuItem item = item(text, action);
    item.setAccelerator(KeyCombination.valueOf(key));
    return item;
  }

  private static MenuItem item(String text, Runnable action) {
    MenuItem item = new MenuItem(text);
    item.setMnemonicParsing(false);
    item.setOnAction(e -> action.run());
    return item;
  }

  private void takeName() {
    String text = name.getText().trim();
    if (!text.isEmpty()) {
      take(c -> c.withName(text));
    }
  }

  private void take(java.util.function.UnaryOperator<Comparison> change) {
    if (!showing) {
      workspace.edit(change);
    }
  }

  private void show() {
    showing = true;
    Comparison c = workspace.comparison();
    if (!name.isFocused() || !name.getText().trim().equals(c.name())) {
      name.setText(c.name());
    }
    job.setValue(c.job());
    Scoring scoring = Scoring.of(c);
    if (!profile.getItems().equals(scoring.profiles())) {
      profile.getItems().setAll(scoring.profiles());
    }
    profile.setValue(scoring.profileOrDefault(c.profile()));
    excerpt.setVisible(c.source() != null);
    excerpt.setMnemonicParsing(false);
    excerpt.setText(place(c) + (c.pauses() != null ? ", pauses marked by hand" : ""));
    if (excerpt.getItems().isEmpty()) {
      fillExcerpts();
    }
    var sheet = workspace.sheetProperty().get();
    int count = sheet == null ? 0 : sheet.allNotices().size() + sheet.failed().size();
    warnings.setText(count == 1 ? "1 warning" : count + " warnings");
    warnings.setVisible(count > 0);
    warnings.setManaged(count > 0);
    showing = false;
  }

  /** What is heard and measured, in words. */
  private String place(Comparison c) {
    if (c.together()) {
      return c.excerpts().size() + " excerpts together";
    }
    if (c.excerpt() == null) {
      return "Whole source";
    }
    for (Excerpt kept : c.excerpts()) {
      if (kept.span().equals(c.excerpt())) {
        return kept.name();
      }
    }
    return "Excerpt "
        + workspace.clock().text(c.excerpt().from())
        + " – "
        + workspace.clock().text(c.excerpt().to());
  }

  private void fillExcerpts() {
    Comparison now = workspace.comparison();
    List<MenuItem> items = new ArrayList<>();
    items.add(item("Whole source", () -> take(c -> c.withTogether(false).withExcerpt(null))));
    for (Excerpt kept : now.excerpts()) {
      items.add(
          item(
              kept.name() + "   " + workspace.clock().text(kept.span().from()),
              () -> take(c -> c.withTogether(false).withExcerpt(kept.span()))));
    }
    MenuItem together = item("All of them together", () -> take(c -> c.withTogether(true)));
    together.setDisable(now.excerpts().size() < 2);
    items.add(together);
    items.add(new javafx.scene.control.SeparatorMenuItem());
    items.add(item("Keep, name and order excerpts …", showExcerpts));
    excerpt.getItems().setAll(items);
  }
}
