package kettlesieve.app.roundup;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiConsumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.RoundupDesk;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.OwnKeys;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.RoundupCsv;
import kettlesieve.core.report.RoundupJson;
import kettlesieve.core.report.RoundupPage;
import kettlesieve.core.report.RoundupWords;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.work.ProgramVersion;
import org.kordamp.ikonli.feather.Feather;

/** Many comparisons together: tools by recordings, what follows, and what makes more of it. */
public final class RoundupView extends VBox {
  private final Workspace workspace;
  private final RoundupDesk desk;
  private final RoundupMatrix matrix;
  private final Label chosen = Texts.wrapped("", "quiet");
  private final VBox answer = new VBox(4);
  private final VBox below = new VBox(8);
  private final ComboBox<Job> job = new ComboBox<>();
  private final ComboBox<Roundup.By> by = new ComboBox<>();
  private final ComboBox<Aspect> aspect = new ComboBox<>();
  private final ComboBox<String> role = new ComboBox<>();
  private final ComboBox<String> tag = new ComboBox<>();
  private final HBox looking = new HBox(8);
  private final MakeForAll making;
  private final VBox empty;
  private boolean showing;

  /**
   * Where one begins who has no comparisons yet.
   *
   * @param demo brings in the demo's
   * @param testPiece makes test pieces
   */
  public record Beginnings(Runnable demo, Runnable testPiece) {}

  /**
   * @param beginnings for who has nothing yet
   * @param open opens a comparison at a version: its file and the version's label
   */
  public RoundupView(Workspace workspace, BiConsumer<Path, String> open, Beginnings beginnings) {
    this.workspace = workspace;
    this.desk = workspace.roundups();
    this.matrix =
        new RoundupMatrix(
            (row, recording) ->
                open.accept(
                    desk.file(recording),
                    row.cells().get(recording) == null ? "" : row.cells().get(recording).label()),
            chosen::setText);
    this.making = new MakeForAll(workspace);
    answer.setId("roundup-answer");
    setId("roundup");
    getStyleClass().add("roundup");
    setStyle("-fx-padding: 10 14 10 14; -fx-spacing: 8;");
    chosen.setId("roundup-chosen");
    chosen.setMinHeight(20);
    empty = empty(beginnings);
    VBox all = new VBox(8, answer, matrix, matrix.along(), chosen, below);
    all.setStyle("-fx-padding: 0 12 0 0;");
    ScrollPane scroll = new ScrollPane(all);
    scroll.setFitToWidth(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    getChildren().addAll(head(), looking, making, empty, scroll);
    fillLooking();
    desk.roundupProperty().addListener((o, was, is) -> show());
    desk.runningProperty().addListener((o, was, is) -> show());
    dropped();
    show();
  }

  private Node head() {
    Button files = new Button("Add comparisons …", Icons.of(Feather.FILE_PLUS));
    files.setId("roundup-add");
    files.setOnAction(e -> addFiles());
    Button folder = new Button("Add a folder …", Icons.of(Feather.FOLDER_PLUS));
    folder.setId("roundup-folder");
    folder.setOnAction(e -> addFolder());
    Button none = new Button("Take all out");
    none.setId("roundup-clear");
    none.setOnAction(e -> desk.clear());
    ProgressBar bar = new ProgressBar();
    bar.setPrefWidth(120);
    bar.progressProperty().bind(desk.shareProperty());
    bar.visibleProperty().bind(desk.runningProperty());
    bar.managedProperty().bind(bar.visibleProperty());
    Label words = Texts.of("", "quiet");
    words.setId("roundup-state");
    words.textProperty().bind(desk.wordsProperty());
    words.setMinWidth(0);
    Button stop = new Button("Stop");
    stop.setId("roundup-stop");
    stop.getStyleClass().add("tool-toggle");
    stop.setOnAction(e -> desk.stop());
    stop.visibleProperty().bind(desk.runningProperty());
    stop.managedProperty().bind(stop.visibleProperty());
    Button again = Icons.button(Feather.REFRESH_CW, "Score again what has changed", desk::again);
    again.setId("roundup-again");
    again.disableProperty().bind(desk.runningProperty());
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button back = new Button("Back to the comparison");
    back.setId("roundup-back");
    back.setMinWidth(USE_PREF_SIZE);
    Hint.set(back, "Back to the comparison (Esc)");
    back.setOnAction(e -> desk.showingProperty().set(false));
    Label title = Texts.of("Round-up", "section");
    title.setMinWidth(USE_PREF_SIZE);
    HBox head =
        new HBox(8, title, files, folder, none, again, bar, words, stop, gap, saving(), back);
    head.setAlignment(Pos.CENTER_LEFT);
    for (Button b : List.of(files, folder, none, stop)) {
      b.setMinWidth(USE_PREF_SIZE);
    }
    return head;
  }

  private MenuButton saving() {
    MenuButton menu = new MenuButton("Save as", Icons.of(Feather.DOWNLOAD));
    menu.setId("roundup-save");
    menu.setMinWidth(USE_PREF_SIZE);
    menu.getItems()
        .addAll(
            item("Page to read (HTML) …", "html"),
            item("The same as PDF …", "pdf"),
            item("Table (CSV) …", "csv"),
            item("Everything (JSON) …", "json"));
    menu.disableProperty().bind(desk.roundupProperty().isNull());
    return menu;
  }

  private MenuItem item(String words, String ending) {
    MenuItem item = new MenuItem(words);
    item.setId("roundup-" + ending);
    item.setOnAction(e -> save(ending));
    return item;
  }

  private void save(String ending) {
    Roundup now = desk.roundupProperty().get();
    Choosers.of(workspace.lastFolder(), "Save the round-up")
        .save(getScene().getWindow(), "round-up." + ending, null)
        .ifPresent(file -> write(now, ending, file));
  }

  private void write(Roundup now, String ending, Path file) {
    int cores = Runtime.getRuntime().availableProcessors();
    LocalDate day = LocalDate.now();
    String program = ProgramVersion.words();
    try {
      switch (ending) {
        case "html" -> WholeFile.write(file, RoundupPage.html(now, cores, day, program));
        case "csv" -> WholeFile.write(file, RoundupCsv.write(now));
        case "json" -> WholeFile.write(file, RoundupJson.write(now, cores));
        default -> WholeFile.write(file, out -> RoundupPage.pdf(now, cores, day, program, out));
      }
      workspace.news().done("Saved as " + file.getFileName() + ".");
    } catch (IOException e) {
      workspace
          .messageProperty()
          .set(file + ": it could not be written. Check the folder and the room on the disk.");
    }
  }

  private static VBox empty(Beginnings beginnings) {
    Label words =
        Texts.wrapped(
            "Which tool is best over many recordings, and how sure is that? Add comparisons of one"
                + " job whose versions carry the same tools, or drop them here. Each is scored once;"
                + " the next time it is known at once.",
            "answer");
    Button piece = new Button("Make test pieces …");
    piece.setId("roundup-pieces");
    piece.setOnAction(e -> beginnings.testPiece().run());
    Button demo = new Button("Try it on the harbour interviews");
    demo.setId("roundup-demo");
    demo.setOnAction(e -> beginnings.demo().run());
    VBox box =
        new VBox(
            10,
            words,
            Texts.wrapped(
                "Nothing to compare yet? Test pieces are clean recordings of your own, spoilt in a"
                    + " known way; the demo has nine, with what four stand-ins make of them.",
                "quiet"),
            new HBox(8, piece, demo));
    box.setId("roundup-empty");
    return box;
  }

  private void addFiles() {
    List<Path> paths =
        Choosers.of(workspace.lastFolder(), "Comparisons for the round-up", Choosers.COMPARISONS)
            .openSeveral(getScene().getWindow())
            .stream()
            .map(File::toPath)
            .toList();
    desk.add(paths);
  }

  private void addFolder() {
    Choosers.folder(workspace.lastFolder(), "A folder with comparisons", getScene().getWindow())
        .ifPresent(desk::addFolder);
  }

  private void dropped() {
    setOnDragOver(
        e -> {
          if (e.getDragboard().hasFiles()) {
            e.acceptTransferModes(TransferMode.COPY);
          }
          e.consume();
        });
    setOnDragDropped(
        e -> {
          for (File f : e.getDragboard().getFiles()) {
            if (Files.isDirectory(f.toPath())) {
              desk.addFolder(f.toPath());
            } else if (f.getName().endsWith(ComparisonFile.ENDING)) {
              desk.add(List.of(f.toPath()));
            }
          }
          e.setDropCompleted(true);
          e.consume();
        });
  }

  private static <T> void setUp(ComboBox<T> box, String id, String words) {
    box.setId(id);
    box.setAccessibleText(words);
    Hint.set(box, words);
  }

  private static VBox caption(String words, Node box) {
    Label caption = Texts.of(words, "caption");
    caption.setLabelFor(box);
    VBox both = new VBox(0, caption, box);
    both.visibleProperty().bind(box.visibleProperty());
    both.managedProperty().bind(box.visibleProperty());
    return both;
  }

  private void fillLooking() {
    looking.setAlignment(Pos.BOTTOM_LEFT);
    setUp(job, "roundup-job", "Which job's comparisons are looked at");
    job.setConverter(Words.of(Job::title));
    job.setOnAction(e -> take(() -> desk.jobProperty().set(job.getValue())));
    setUp(by, "roundup-by", "What a row is");
    by.getItems().setAll(Roundup.By.values());
    by.setConverter(
        Words.of(b -> b == Roundup.By.TOOL ? "Tools, each at its best" : "Every version"));
    by.setValue(desk.byProperty().get());
    by.setOnAction(e -> take(() -> desk.byProperty().set(by.getValue())));
    setUp(aspect, "roundup-aspect", "What the figures are of");
    aspect.setConverter(Words.of(a -> a == null ? "" : new Aspect(a.what(), "").title()));
    aspect.setOnAction(e -> take(this::takeAspect));
    setUp(role, "roundup-role", "Of which stem");
    role.setConverter(Words.of(r -> r == null || r.isEmpty() ? "All stems" : r));
    role.setOnAction(e -> take(this::takeAspect));
    setUp(tag, "roundup-tag", "Of which recordings");
    tag.setConverter(Words.of(t -> t == null || t.isEmpty() ? "All recordings" : t));
    tag.setOnAction(
        e -> take(() -> desk.tagProperty().set(tag.getValue() == null ? "" : tag.getValue())));
    looking
        .getChildren()
        .addAll(
            caption("Job", job),
            caption("Rows", by),
            caption("Figures", aspect),
            caption("Stem", role),
            caption("Recordings", tag));
  }

  private void take(Runnable change) {
    if (!showing) {
      change.run();
    }
  }

  private void takeAspect() {
    String what = aspect.getValue() == null ? Aspect.OVERALL : aspect.getValue().what();
    desk.aspectProperty().set(new Aspect(what, role.getValue() == null ? "" : role.getValue()));
  }

  private void show() {
    showing = true;
    Roundup now = desk.roundupProperty().get();
    boolean any = now != null;
    empty.setVisible(!any && !desk.runningProperty().get());
    empty.setManaged(empty.isVisible());
    for (Node n : List.of(looking, making, matrix, chosen)) {
      n.setVisible(any);
      n.setManaged(any);
    }
    if (any) {
      fillBoxes();
    }
    matrix.show(now);
    below.getChildren().clear();
    answer.getChildren().clear();
    if (any) {
      List<String> lines = RoundupWords.answer(now, now.all());
      for (int i = 0; i < lines.size(); i++) {
        answer.getChildren().add(Texts.wrapped(lines.get(i), i == 0 ? "answer" : "small"));
      }
      below.getChildren().add(new RoundupCards(now));
    }
    showing = false;
  }

  private void fillBoxes() {
    job.getItems().setAll(desk.jobs());
    job.setValue(desk.jobProperty().get());
    job.setVisible(desk.jobs().size() > 1);
    List<Aspect> aspects = new ArrayList<>(List.of(Aspect.ALL));
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      aspects.add(new Aspect(axis.id(), ""));
    }
    desk.measures().forEach(m -> aspects.add(new Aspect(m, "")));
    Aspect now = new Aspect(desk.aspectProperty().get().what(), "");
    if (!aspects.contains(now)) {
      aspects.add(now);
    }
    aspect.getItems().setAll(aspects);
    aspect.setValue(now);
    List<String> roles = new ArrayList<>(List.of(""));
    roles.addAll(desk.roles());
    by.setValue(desk.byProperty().get());
    role.getItems().setAll(roles);
    role.setValue(desk.aspectProperty().get().role());
    role.setVisible(roles.size() > 1);
    List<String> tags = new ArrayList<>(List.of(""));
    tags.addAll(desk.tags());
    tag.getItems().setAll(tags);
    tag.setValue(desk.tagProperty().get());
    making.fillTools();
  }

  /** What has keys of its own here, and Escape. Others do nothing: the comparison is not seen. */
  public boolean key(KeyEvent event) {
    if (event.getCode() == KeyCode.ESCAPE) {
      desk.showingProperty().set(false);
      return true;
    }
    return getScene().getFocusOwner() instanceof OwnKeys own && own.takes(event);
  }

  /** The focus where work begins. */
  public void enter() {
    matrix.requestFocus();
  }
}
