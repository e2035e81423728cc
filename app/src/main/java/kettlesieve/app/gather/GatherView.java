package kettlesieve.app.gather;

import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.Clipboard;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Takes;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.report.SweepWords;
import org.kordamp.ikonli.feather.Feather;

/** Gather: source and reference as cards, versions as rows, files dropped anywhere. */
public final class GatherView extends VBox {
  private static final int MOST_FILES = 200;

  /** Jobs whose readings use a clean recording. */
  private static final Set<Job> USES_CLEAN = EnumSet.of(Job.DENOISE, Job.DEREVERB, Job.DECLIP);

  private final Workspace workspace;
  private final Runnable openDemo;
  private final VersionRows rows;
  private final VBox body = new VBox(12);
  private final ScrollPane scroll = new ScrollPane();
  private final SourceCard sourceCard;
  private final SourceCard referenceCard;
  private final MakePanel makePanel;
  private final StemsGrid stemsGrid;
  private final TargetFields target;
  private final TagsField tags;
  private final Label sweeps = Texts.of("", "quiet", "small");
  private SortPanel sorting;
  private Comparison shown;

  public GatherView(Workspace workspace, Runnable openDemo) {
    this.workspace = workspace;
    this.openDemo = openDemo;
    getStyleClass().add("page");
    setId("gather");
    tags = new TagsField(workspace);
    sourceCard =
        new SourceCard(
                workspace,
                "Source",
                "the unprocessed recording",
                () -> chooseOne("The unprocessed recording", ref -> c -> c.withSource(ref)),
                ref -> workspace.edit(c -> c.withSource(ref)),
                workspace.sourceProperty())
            .with(tags);
    referenceCard =
        new SourceCard(
            workspace,
            "Clean recording",
            "if there is one: it adds readings such as SI-SDR",
            () -> chooseOne("The clean recording", ref -> c -> c.withReference(ref)),
            ref -> workspace.edit(c -> c.withReference(ref)),
            workspace.referenceProperty());
    makePanel = new MakePanel(workspace, this::showEnd);
    stemsGrid = new StemsGrid(workspace, this::askForOne);
    rows = new VersionRows(workspace, this::askForOne);
    target = new TargetFields(workspace);
    scroll.setContent(body);
    scroll.setFitToWidth(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    getChildren().addAll(new NewFilesBar(workspace, this::addFiles), scroll);
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
                    rows.fill();
                    if (workspace.comparison().job().inStems()) {
                      stemsGrid.fill();
                    }
                  }
                });
    workspace
        .takes()
        .before()
        .addListener((javafx.collections.MapChangeListener<String, Takes.Take>) c -> rows.fill());
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

  /** Takes in what was copied elsewhere: files, or their paths a line each. */
  public void paste() {
    Clipboard clipboard = Clipboard.getSystemClipboard();
    List<File> files = new ArrayList<>(clipboard.hasFiles() ? clipboard.getFiles() : List.of());
    if (files.isEmpty() && clipboard.hasString()) {
      for (String line : clipboard.getString().split("\\R")) {
        File file = new File(line.strip());
        if (!line.isBlank() && file.exists()) {
          files.add(file);
        }
      }
    }
    if (files.isEmpty()) {
      workspace
          .messageProperty()
          .set(
              "There are no files on the clipboard. Copy some in a file manager, then paste here.");
      return;
    }
    workspace.stepProperty().set(Step.GATHER);
    addFiles(files);
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
    if (paths.size() == 1 && !c.job().inStems()) {
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

  private File askForOne(String title) {
    return Choosers.audio(workspace.lastFolder(), title)
        .open(getScene().getWindow())
        .map(Path::toFile)
        .orElse(null);
  }

  private void chooseOne(String title, Function<MediaRef, UnaryOperator<Comparison>> placing) {
    Choosers.audio(workspace.lastFolder(), title)
        .open(getScene().getWindow())
        .ifPresent(path -> workspace.edit(placing.apply(MediaRef.of(path))));
  }

  private void chooseVersions() {
    List<File> files =
        Choosers.audio(workspace.lastFolder(), "Choose audio files")
            .openSeveral(getScene().getWindow());
    if (!files.isEmpty()) {
      addFiles(files);
    }
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
      body.getChildren().setAll(new EmptyGather(this::chooseVersions, openDemo));
    } else {
      boolean stems = c.job().inStems();
      if (wasEmpty || body.getChildren().isEmpty() || !body.getChildren().contains(makePanel)) {
        HBox cards = new HBox(12, sourceCard, referenceCard);
        HBox.setHgrow(sourceCard, Priority.ALWAYS);
        HBox.setHgrow(referenceCard, Priority.ALWAYS);
        body.getChildren().setAll(cards, versionsHead(), stemsGrid, rows, makePanel);
      }
      stemsGrid.setVisible(stems);
      stemsGrid.setManaged(stems);
      boolean clean = USES_CLEAN.contains(c.job());
      referenceCard.setVisible(clean);
      referenceCard.setManaged(clean);
      target.show(c);
      tags.show(c);
      fillSweeps(c);
      if (stems) {
        stemsGrid.fill();
      }
      makePanel.show();
      sourceCard.show(c.source(), workspace.sourceProblemProperty().get());
      referenceCard.show(c.reference(), null);
      makePanel.setVisible(c.source() != null);
      if (!sameRows || wasEmpty) {
        rows.fill();
      }
    }
  }

  private static boolean empty(Comparison c) {
    return c.source() == null && c.reference() == null && c.versions().isEmpty();
  }

  private Node versionsHead() {
    Button add = new Button("Add versions …", Icons.of(Feather.PLUS));
    add.setId("add-versions");
    add.setOnAction(e -> chooseVersions());
    add.setMinWidth(Region.USE_PREF_SIZE);
    Label title = Texts.of("Versions", "section");
    title.setMinWidth(Region.USE_PREF_SIZE);
    Label hint = Texts.of("or drop files anywhere here", "quiet", "small");
    hint.setMinWidth(0);
    sweeps.setMinWidth(0);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(10, title, sweeps, gap, hint, rows.costs(), add);
    head.setStyle("-fx-alignment: center-left;");
    VBox both = new VBox(2, head, target);
    both.setPadding(new Insets(4, 0, 0, 0));
    return both;
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
                                .map(v -> SweepWords.amount(v.amount()))
                                .distinct()
                                .toList())));
    sweeps.setText(words.isEmpty() ? "" : "sweeps: " + String.join("; ", words));
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
