package kettlesieve.app.gather;

import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaFacts;
import org.kordamp.ikonli.feather.Feather;

/** Gather: source and reference as cards, versions as rows, files dropped anywhere. */
public final class GatherView extends VBox {
  private static final int MOST_FILES = 200;

  private final Workspace workspace;
  private final Runnable openDemo;
  private final GridPane rows = new GridPane();
  private final VBox body = new VBox(12);
  private final ScrollPane scroll = new ScrollPane();
  private final SourceCard sourceCard;
  private final SourceCard referenceCard;
  private final MakePanel makePanel;
  private final StemsGrid stemsGrid;
  private final HBox target = new HBox(8);
  private final Label sweeps = Texts.of("", "quiet", "small");
  private SortPanel sorting;
  private Comparison shown;

  public GatherView(Workspace workspace, Runnable openDemo) {
    this.workspace = workspace;
    this.openDemo = openDemo;
    getStyleClass().add("page");
    setId("gather");
    sourceCard =
        new SourceCard(
            workspace,
            "Source",
            "the unprocessed recording",
            () -> chooseOne(path -> c -> c.withSource(MediaRef.of(path))),
            workspace.sourceProperty());
    referenceCard =
        new SourceCard(
            workspace,
            "Clean recording",
            "if there is one: it adds readings such as SI-SDR",
            () -> chooseOne(path -> c -> c.withReference(MediaRef.of(path))),
            workspace.referenceProperty());
    makePanel = new MakePanel(workspace, this::showEnd);
    stemsGrid = new StemsGrid(workspace, GatherView::askForOne);
    target.setStyle("-fx-alignment: center-left;");
    rows.setHgap(6);
    rows.setVgap(2);
    scroll.setContent(body);
    scroll.setFitToWidth(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    getChildren().add(scroll);
    setOnDragOver(this::dragOver);
    setOnDragExited(e -> getStyleClass().remove("drop-over"));
    setOnDragDropped(this::drop);
    workspace.comparisonProperty().addListener((o, was, is) -> show());
    workspace
        .versionStates()
        .addListener(
            (javafx.collections.MapChangeListener<String, VersionState>)
                c -> {
                  // Matching changes nothing here, and a new row would disturb who is typing.
                  if (!facts(c.getValueRemoved()).equals(facts(c.getValueAdded()))) {
                    fillRows();
                  }
                });
    workspace.sourceProblemProperty().addListener((o, was, is) -> show());
    show();
  }

  private static List<Object> facts(VersionState state) {
    VersionState known = state == null ? VersionState.UNREAD : state;
    return java.util.Arrays.asList(known.recordings(), known.problem());
  }

  private void dragOver(DragEvent e) {
    if (e.getDragboard().hasFiles()) {
      e.acceptTransferModes(TransferMode.COPY);
      if (!getStyleClass().contains("drop-over")) {
        getStyleClass().add("drop-over");
      }
    }
    e.consume();
  }

  private void drop(DragEvent e) {
    getStyleClass().remove("drop-over");
    if (e.getDragboard().hasFiles()) {
      addFiles(e.getDragboard().getFiles());
      e.setDropCompleted(true);
    }
    e.consume();
  }

  /** One file whose place is plain is taken at once; several are shown for correction first. */
  public void addFiles(List<File> files) {
    List<Path> paths = new ArrayList<>();
    for (File file : files) {
      if (file.isDirectory()) {
        paths.addAll(audioIn(file.toPath()));
      } else {
        paths.add(file.toPath());
      }
    }
    if (paths.isEmpty()) {
      workspace.messageProperty().set("There is no audio file in what was dropped.");
      return;
    }
    if (paths.size() > MOST_FILES) {
      workspace
          .messageProperty()
          .set(
              paths.size()
                  + " files are too many at once. Drop "
                  + MOST_FILES
                  + " or fewer; a comparison is of one source.");
      return;
    }
    Comparison c = workspace.comparison();
    if (paths.size() == 1 && c.job() != Job.STEMS) {
      workspace.addFiles(paths);
      return;
    }
    Path known = c.source() == null ? null : c.source().file();
    sorting =
        new SortPanel(
            FileNames.sort(paths, c.job(), known),
            c.job(),
            list -> {
              sorting = null;
              workspace.take(list);
              show();
            },
            () -> {
              sorting = null;
              show();
            });
    show();
  }

  private List<Path> audioIn(Path folder) {
    try (Stream<Path> all = Files.walk(folder, 3)) {
      return all.filter(Files::isRegularFile).filter(FileNames::audio).sorted().toList();
    } catch (IOException | UncheckedIOException e) {
      workspace
          .messageProperty()
          .set(folder + ": the folder could not be read. Check that reading it is allowed.");
      return List.of();
    }
  }

  /** Scrolls to the end as soon as what has just opened there has its place. */
  private void showEnd() {
    javafx.application.Platform.runLater(
        () -> {
          applyCss();
          layout();
          scroll.setVvalue(scroll.getVmax());
        });
  }

  private static File askForOne(String title) {
    FileChooser chooser = chooser();
    chooser.setTitle(title);
    return chooser.showOpenDialog(null);
  }

  private interface Placing {
    java.util.function.UnaryOperator<Comparison> of(Path path);
  }

  private void chooseOne(Placing placing) {
    File file = chooser().showOpenDialog(getScene().getWindow());
    if (file != null) {
      workspace.edit(placing.of(file.toPath()));
    }
  }

  private void chooseVersions() {
    List<File> files = chooser().showOpenMultipleDialog(getScene().getWindow());
    if (files != null) {
      addFiles(files);
    }
  }

  private static FileChooser chooser() {
    FileChooser chooser = new FileChooser();
    chooser.setTitle("Choose audio files");
    chooser
        .getExtensionFilters()
        .addAll(
            new FileChooser.ExtensionFilter(
                "Audio", "*.wav", "*.aif", "*.aiff", "*.flac", "*.ogg", "*.opus", "*.mp3", "*.m4a"),
            new FileChooser.ExtensionFilter("All files", "*"));
    return chooser;
  }

  private void show() {
    Comparison c = workspace.comparison();
    boolean sameRows = shown != null && shown.versions().equals(c.versions());
    boolean wasEmpty = shown == null || empty(shown);
    shown = c;
    if (sorting != null) {
      body.getChildren().setAll(sorting);
      return;
    }
    if (empty(c)) {
      body.getChildren().setAll(teaching());
    } else {
      boolean stems = c.job() == Job.STEMS;
      if (wasEmpty || body.getChildren().isEmpty() || !body.getChildren().contains(makePanel)) {
        HBox cards = new HBox(12, sourceCard, referenceCard);
        HBox.setHgrow(sourceCard, Priority.ALWAYS);
        HBox.setHgrow(referenceCard, Priority.ALWAYS);
        body.getChildren().setAll(cards, versionsHead(), stemsGrid, rows, makePanel);
      }
      stemsGrid.setVisible(stems);
      stemsGrid.setManaged(stems);
      referenceCard.setVisible(!stems);
      referenceCard.setManaged(!stems);
      fillTarget(c);
      fillSweeps(c);
      if (stems) {
        stemsGrid.fill();
      }
      makePanel.show();
      sourceCard.show(c.source(), workspace.sourceProblemProperty().get());
      referenceCard.show(c.reference(), null);
      makePanel.setVisible(c.source() != null);
      if (!sameRows || wasEmpty) {
        fillRows();
      }
    }
  }

  private static boolean empty(Comparison c) {
    return c.source() == null && c.reference() == null && c.versions().isEmpty();
  }

  private Node teaching() {
    Button choose = new Button("Choose audio files …", Icons.of(Feather.PLUS));
    choose.getStyleClass().add("primary");
    choose.setId("choose-files");
    choose.setOnAction(e -> chooseVersions());
    Button demo = new Button("Open the demo");
    demo.setId("open-demo");
    demo.setOnAction(e -> openDemo.run());
    HBox buttons = new HBox(10, choose, demo);
    buttons.setStyle("-fx-alignment: center;");
    VBox zone =
        new VBox(
            Texts.of("Drop the unprocessed recording here", "title"),
            Texts.wrapped(
                "The first file becomes the source. Then drop what the tools made of it:"
                    + " one file a version.",
                "quiet"),
            buttons);
    zone.getStyleClass().add("drop-zone");
    zone.setMinHeight(330);
    HBox steps = new HBox(12);
    String[][] words = {
      {"1  Gather", "Source and versions: WAV, AIFF, FLAC, Ogg, MP3; any rate, 1 to 8 channels."},
      {"2  Match", "Delay, polarity, level, rate: what was unfair is found and put right."},
      {"3  Listen", "Switch in the middle of a word; loop; hear what was taken out."},
      {"4  Measure", "What was missed, added, lost – in units, with its place in time."},
      {"5  Decide", "Rank for the delivery at hand; export the figures."}
    };
    for (String[] word : words) {
      VBox card = new VBox(Texts.of(word[0], "section"), Texts.wrapped(word[1], "quiet", "small"));
      card.getStyleClass().add("card");
      card.setPrefWidth(220);
      HBox.setHgrow(card, Priority.ALWAYS);
      steps.getChildren().add(card);
    }
    return new VBox(16, zone, steps);
  }

  private Node versionsHead() {
    Button add = new Button("Add versions …", Icons.of(Feather.PLUS));
    add.setId("add-versions");
    add.setOnAction(e -> chooseVersions());
    Label hint = Texts.of("or drop files anywhere here", "quiet", "small");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(10, Texts.of("Versions", "section"), target, sweeps, gap, hint, add);
    head.setStyle("-fx-alignment: center-left;");
    head.setPadding(new Insets(4, 0, 0, 0));
    return head;
  }

  /** Stretch and pitch: what was asked of the tools. */
  private void fillTarget(Comparison c) {
    target.getChildren().clear();
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
    field.setPrefWidth(84);
    field.setAccessibleText(stretch ? "New length over old" : "Shift in semitones");
    Fields.whenDone(field, text -> takeTarget(stretch, text));
    target
        .getChildren()
        .setAll(
            Texts.of(stretch ? "asked for: new length over old" : "asked for: semitones", "quiet"),
            field);
  }

  private void takeTarget(boolean stretch, String text) {
    try {
      String plain = text.replace(',', '.').replace('−', '-').replace("+", "").trim();
      Double value = plain.isEmpty() ? null : Double.valueOf(plain);
      workspace.edit(c -> stretch ? c.withRatio(value) : c.withSemitones(value));
    } catch (NumberFormatException e) {
      workspace
          .messageProperty()
          .set("\"" + text + "\" is not a number" + (stretch ? " such as 0.8." : " such as +3."));
    } catch (IllegalArgumentException e) {
      workspace.messageProperty().set("That cannot be: " + e.getMessage() + ".");
    }
    fillTarget(workspace.comparison());
  }

  private void fillSweeps(Comparison c) {
    List<String> words = new ArrayList<>();
    c.sweeps()
        .forEach(
            (tool, versions) ->
                words.add(
                    tool
                        + " at "
                        + String.join(
                            ", ",
                            versions.stream()
                                .map(v -> Numbers.fixed(v.amount(), 0))
                                .distinct()
                                .toList())));
    sweeps.setText(words.isEmpty() ? "" : "sweeps: " + String.join("; ", words));
  }

  private void fillRows() {
    rows.getChildren().clear();
    rows.getColumnConstraints()
        .setAll(column(30), column(216), column(164), column(130), column(64), column(240));
    ColumnConstraints facts = new ColumnConstraints();
    facts.setHgrow(Priority.ALWAYS);
    rows.getColumnConstraints().addAll(facts, column(104));
    if (workspace.comparison().versions().isEmpty()) {
      rows.add(
          Texts.wrapped(
              "No versions yet: drop the files that the tools made, or make one below.", "quiet"),
          0,
          0,
          7,
          1);
      return;
    }
    String[] heads = {"", "Label", "Tool", "Setting", "Amount", "Time, price, mode", "File"};
    for (int i = 0; i < heads.length; i++) {
      Label head = Texts.of(heads[i], "column-head");
      head.setPadding(new Insets(0, 0, 0, 7));
      rows.add(head, i, 0);
    }
    int row = 1;
    for (Version v : workspace.comparison().versions()) {
      rows.add(VersionSign.of(row - 1, 20), 0, row);
      rows.add(field("label-" + v.id(), "Label", v.label(), t -> relabelled(v.id(), t)), 1, row);
      rows.add(
          field("tool-" + v.id(), "Tool", v.tool(), t -> edit(v.id(), x -> x.withTool(t))), 2, row);
      rows.add(
          field(
              "setting-" + v.id(),
              "Setting",
              v.setting(),
              t -> edit(v.id(), x -> x.withSetting(t))),
          3,
          row);
      rows.add(
          field(
              "amount-" + v.id(),
              "Amount, 0 to 100",
              v.amount() == null ? "" : Numbers.fixed(v.amount(), 0),
              t -> amount(v.id(), t)),
          4,
          row);
      rows.add(new CostFields(workspace, v), 5, row);
      rows.add(facts(v), 6, row);
      rows.add(rowButtons(v, row), 7, row);
      row++;
    }
  }

  private static ColumnConstraints column(double width) {
    ColumnConstraints c = new ColumnConstraints(width);
    c.setFillWidth(true);
    return c;
  }

  private Node rowButtons(Version v, int row) {
    HBox buttons = new HBox(0);
    buttons.setStyle("-fx-alignment: center-right;");
    buttons
        .getChildren()
        .addAll(
            Icons.button(
                Feather.CHEVRON_UP, "Move " + v.label() + " up", () -> workspace.move(v.id(), -1)),
            Icons.button(
                Feather.CHEVRON_DOWN,
                "Move " + v.label() + " down",
                () -> workspace.move(v.id(), 1)),
            Icons.button(
                Feather.TRASH_2,
                "Take " + v.label() + " out of the comparison",
                () -> workspace.edit(c -> c.minus(v.id()))));
    return buttons;
  }

  private TextField field(
      String id, String name, String text, java.util.function.Consumer<String> taken) {
    TextField field = new TextField(text);
    field.getStyleClass().add("plain-field");
    field.setId(id);
    field.setAccessibleText(name);
    field.setPromptText(name.equals("Label") ? "" : "–");
    Fields.whenDone(field, taken);
    return field;
  }

  private void edit(String id, java.util.function.UnaryOperator<Version> change) {
    workspace.edit(c -> c.version(id).map(v -> c.withVersion(change.apply(v))).orElse(c));
  }

  private void relabelled(String id, String text) {
    boolean taken =
        workspace.comparison().versions().stream()
            .anyMatch(v -> !v.id().equals(id) && v.label().equals(text));
    if (text.isEmpty() || taken) {
      workspace
          .messageProperty()
          .set(
              taken
                  ? "Another version is already called \"" + text + "\"."
                  : "A version needs a label.");
      fillRows();
    } else {
      edit(id, v -> v.withLabel(text));
    }
  }

  private void amount(String id, String text) {
    if (text.isEmpty()) {
      edit(id, v -> v.withAmount(null));
      return;
    }
    try {
      double amount = Double.parseDouble(text.replace(',', '.').replace("%", "").trim());
      if (amount >= 0 && amount <= 100) {
        edit(id, v -> v.withAmount(amount));
        return;
      }
    } catch (NumberFormatException e) {
      // Said below.
    }
    workspace.messageProperty().set("An amount is a number from 0 to 100, not \"" + text + "\".");
    fillRows();
  }

  private Node facts(Version v) {
    VersionState state = workspace.state(v.id());
    if (state.problem() != null) {
      Label problem = Texts.wrapped(state.problem(), "warning-text", "small");
      problem.setTooltip(new Tooltip(v.files().get(0).path()));
      if (v.media() == null) {
        return problem;
      }
      Button point = new Button("Point to it …");
      point.setOnAction(e -> chooseOne(path -> c -> c.withVersion(v.withMedia(MediaRef.of(path)))));
      HBox box = new HBox(8, problem, point);
      HBox.setHgrow(problem, Priority.ALWAYS);
      point.setMinWidth(Region.USE_PREF_SIZE);
      box.setStyle("-fx-alignment: center-left;");
      return box;
    }
    Label label =
        Texts.of(
            state.recording() == null
                ? "reading …"
                : (state.recordings().size() > 1 ? state.recordings().size() + " stems, " : "")
                    + describe(state.recording().facts()),
            "quiet",
            "small");
    label.setTooltip(new Tooltip(v.files().get(0).path()));
    label.setPadding(new Insets(0, 0, 0, 7));
    return label;
  }

  /** The facts of a file in one line. */
  static String describe(MediaFacts facts) {
    String bits = facts.bits() > 0 ? ", " + facts.bits() + " bit" : "";
    return Numbers.clock(facts.seconds())
        + ", "
        + Numbers.fixed(facts.sampleRate() / 1000.0, facts.sampleRate() % 1000 == 0 ? 0 : 1)
        + " kHz, "
        + (facts.channels() == 1
            ? "mono"
            : facts.channels() == 2 ? "stereo" : facts.channels() + " ch")
        + bits
        + (facts.lossy() ? ", lossy " + facts.codec() : "");
  }
}
