package kettlesieve.app.frame;

import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.animation.AnimationTimer;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.StringExpression;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import kettlesieve.app.decide.DecideView;
import kettlesieve.app.gather.GatherView;
import kettlesieve.app.listen.ListenView;
import kettlesieve.app.listen.RoundView;
import kettlesieve.app.match.MatchView;
import kettlesieve.app.measure.MeasureView;
import kettlesieve.app.model.News;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.roundup.RoundupView;
import kettlesieve.app.shared.Icons;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.demo.Demo;
import org.kordamp.ikonli.feather.Feather;

/** The window: rail, header, overview, the step's own view, listening bar. */
public final class Frame extends BorderPane {
  private static final PseudoClass DONE = PseudoClass.getPseudoClass("done");
  private static final PseudoClass UNDER_WAY = PseudoClass.getPseudoClass("under-way");

  /** What was done goes by itself; what went wrong stays until it is closed. */
  private static final Duration DONE_SHOWN = Duration.seconds(8);

  private final PauseTransition gone = new PauseTransition(DONE_SHOWN);

  private final Workspace workspace;
  private final FileActions files;
  private final Overview overview;
  private final ListeningBar listeningBar;
  private final ListenView listenView;
  private final GatherView gatherView;
  private final MeasureView measureView;
  private final StackPane centre = new StackPane();
  private final Map<Step, Node> views = new EnumMap<>(Step.class);
  private final KeyList keyList = new KeyList();
  private final RoundView round;
  private final RoundupView roundup;
  private final NoticeList notices;
  private final StepRail rail;
  private final HeaderBar header;
  private final ExcerptList excerpts;
  private final PreferencesCard preferencesCard;
  private final TestPieceCard testPiece;
  private final AnimationTimer pulse =
      new AnimationTimer() {
        @Override
        public void handle(long now) {
          double position = workspace.listening().positionSeconds();
          listeningBar.follow(position);
          overview.follow(position);
          listenView.follow(position);
        }
      };

  public Frame(Workspace workspace, Preferences preferences) {
    this.workspace = workspace;
    this.files =
        new FileActions(
            workspace, preferences, () -> getScene() == null ? null : getScene().getWindow());
    this.overview = new Overview(workspace);
    this.listeningBar = new ListeningBar(workspace, preferences);
    this.listenView = new ListenView(workspace);
    this.measureView = new MeasureView(workspace);
    this.notices = new NoticeList(workspace);
    this.excerpts = new ExcerptList(workspace);
    this.preferencesCard = new PreferencesCard(workspace, preferences);
    this.testPiece = new TestPieceCard(workspace, files::openFile);
    workspace.beginWith(c -> c.withTimes(Preferences.told(preferences.times())));
    this.gatherView = new GatherView(workspace, files::openDemo);
    views.put(Step.GATHER, gatherView);
    views.put(Step.MATCH, new MatchView(workspace));
    views.put(Step.LISTEN, listenView);
    views.put(Step.MEASURE, measureView);
    views.put(Step.DECIDE, new DecideView(workspace));
    rail = new StepRail(workspace);
    header =
        new HeaderBar(
            workspace,
            files,
            new HeaderBar.Lists(
                notices::toggle,
                keyList::toggle,
                excerpts::toggle,
                preferencesCard::toggle,
                testPiece::toggle));
    setLeft(rail);
    StackPane body = new StackPane();
    VBox main = new VBox(header, overview, centre);
    VBox.setVgrow(centre, Priority.ALWAYS);
    // Over the view, not above it: nothing may jump away under the mouse when work begins or ends.
    VBox told = new VBox(notice("notice"), activity());
    told.setMaxHeight(Region.USE_PREF_SIZE);
    told.setPickOnBounds(false);
    StackPane.setAlignment(told, Pos.BOTTOM_CENTER);
    body.getChildren().addAll(main, told, notices, excerpts, preferencesCard, testPiece, keyList);
    setCenter(body);
    setBottom(listeningBar);
    this.round = new RoundView(workspace);
    workspace
        .rounds()
        .runningProperty()
        .addListener(
            (o, was, is) -> {
              // Nothing else is in the window while a round runs: what is not there tells nothing.
              boolean on = is != null;
              setLeft(on ? null : rail);
              setCenter(on ? round : body);
              setBottom(on ? null : listeningBar);
              if (on && was == null) {
                round.requestFocus();
              }
            });
    this.roundup =
        new RoundupView(
            workspace,
            this::openRecording,
            new RoundupView.Beginnings(files::openInterviews, this::makeTestPiece));
    StackPane many = new StackPane(roundup, noticeOfRoundup());
    workspace
        .roundups()
        .showingProperty()
        .addListener(
            (o, was, on) -> {
              setLeft(on ? null : rail);
              setCenter(on ? many : body);
              setBottom(on ? null : listeningBar);
              if (on) {
                workspace.listening().stop();
                roundup.enter();
              }
            });
    workspace.stepProperty().addListener((o, was, is) -> showStep(is));
    showStep(workspace.stepProperty().get());
    pulse.start();
  }

  private Node noticeOfRoundup() {
    Node strip = notice("roundup-notice");
    StackPane.setAlignment(strip, Pos.BOTTOM_CENTER);
    return strip;
  }

  private void makeTestPiece() {
    workspace.roundups().showingProperty().set(false);
    testPiece.hide();
    testPiece.toggle();
  }

  /** A cell of the round-up: its comparison, at the version and the reading. */
  private void openRecording(Path file, String label) {
    Aspect aspect = workspace.roundups().aspectProperty().get();
    if (!files.openFile(file)) {
      return;
    }
    workspace.roundups().showingProperty().set(false);
    workspace.stepProperty().set(Step.MEASURE);
    workspace.comparison().versions().stream()
        .filter(v -> v.label().equals(label))
        .findFirst()
        .ifPresent(
            v -> {
              workspace.listening().choose(v.id());
              if (!aspect.score() && aspect.role().isEmpty()) {
                workspace.selection().reading(v.id(), aspect.what());
              }
            });
  }

  private void showStep(Step step) {
    centre.getChildren().setAll(views.get(step));
  }

  private Node notice(String id) {
    Label text = new Label();
    text.setWrapText(true);
    text.setId(id.equals("notice") ? "message" : id + "-text");
    text.textProperty().bind(workspace.messageProperty());
    HBox.setHgrow(text, Priority.ALWAYS);
    text.setMaxWidth(Double.MAX_VALUE);
    Button close =
        Icons.button(Feather.X, "Close this message", () -> workspace.messageProperty().set(""));
    HBox strip = new HBox(text, close);
    strip.setId(id);
    strip.getStyleClass().add("notice");
    strip.setMaxHeight(Region.USE_PREF_SIZE);
    gone.setOnFinished(e -> workspace.messageProperty().set(""));
    InvalidationListener look =
        o -> {
          News.Kind kind = workspace.news().kindProperty().get();
          strip.pseudoClassStateChanged(DONE, kind == News.Kind.DONE);
          strip.pseudoClassStateChanged(UNDER_WAY, kind == News.Kind.UNDER_WAY);
          gone.stop();
          if (kind == News.Kind.DONE && !workspace.messageProperty().get().isEmpty()) {
            gone.playFromStart();
          }
        };
    workspace.news().kindProperty().addListener(look);
    workspace.messageProperty().addListener(look);
    strip.visibleProperty().bind(workspace.messageProperty().isNotEmpty());
    strip.managedProperty().bind(strip.visibleProperty());
    return strip;
  }

  private Node activity() {
    ProgressBar bar = new ProgressBar(-1);
    bar.setPrefWidth(160);
    bar.progressProperty().bind(workspace.activityShareProperty());
    Label text = new Label();
    text.setId("activity");
    text.textProperty().bind(Bindings.concat("Working: ", workspace.activityProperty(), " …"));
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button cancel = new Button("Cancel");
    cancel.setId("cancel-work");
    cancel.getStyleClass().add("tool-toggle");
    cancel.setOnAction(e -> workspace.cancelWork());
    HBox strip = new HBox(bar, text, gap, cancel);
    strip.getStyleClass().add("activity");
    strip.setMaxHeight(Region.USE_PREF_SIZE);
    strip.visibleProperty().bind(workspace.busyProperty());
    strip.managedProperty().bind(strip.visibleProperty());
    return strip;
  }

  /** The window's title. */
  public StringExpression titleProperty() {
    return Bindings.createStringBinding(
        () ->
            workspace.rounds().runningProperty().get() != null
                ? "Blind round – Kettle Sieve"
                : workspace.comparison().name()
                    + (workspace.document().unsavedProperty().get() ? " (not saved)" : "")
                    + " – Kettle Sieve",
        workspace.rounds().runningProperty(),
        workspace.comparisonProperty(),
        workspace.document().unsavedProperty());
  }

  /** Whether the window may be closed. */
  public boolean mayClose() {
    return files.mayLeave();
  }

  /** Stops following the playhead; a frame that is still followed would never be let go. */
  public void dispose() {
    pulse.stop();
    gone.stop();
  }

  /** Opens the demo comparison. */
  public void openDemo() {
    files.openDemo();
  }

  /** Makes a demo comparison if it is not there yet, and opens it. */
  public void openDemo(Demo demo) {
    files.openDemo(demo);
  }

  /** Turns to one of the faces of the Measure step, by its id. */
  public void showMeasureFace(String id) {
    if (measureView.lookup("#" + id) instanceof javafx.scene.control.ToggleButton face) {
      face.fire();
    }
  }

  /** Chooses what the lanes show: 0 waveform, 1 spectrogram, 2 change map. */
  public void showPicture(int which) {
    listenView.showPicture(which);
  }

  /** The Gather step, where files are brought in. */
  public GatherView gather() {
    return gatherView;
  }

  /** Opens or closes the preferences. */
  public void showPreferences() {
    preferencesCard.toggle();
  }

  /** Brings the demo's interviews into the round-up, and shows it. */
  public void openInterviews() {
    files.openInterviews();
  }

  /** Opens or closes what makes test pieces. */
  public void showTestPiece() {
    testPiece.toggle();
  }

  /** Opens or closes the list of excerpts. */
  public void showExcerpts() {
    excerpts.toggle();
  }

  /** Keys that work in every step. */
  public void installKeys(Scene scene) {
    Keys.Cards cards =
        new Keys.Cards(
            excerpts::toggle,
            listeningBar::askPlace,
            overview::zoom,
            preferencesCard::toggle,
            gatherView::paste);
    new Keys(workspace, files, keyList, measureView, listenView, cards)
        .install(scene, round::key, roundup::key, this::moveFocus, this::hideLists);
    notices.hideOnPress(scene);
  }

  /** From rail to head, view and bar and round again; each is entered at its first control. */
  private void moveFocus(int by) {
    List<Node> areas = List.of(rail, header, centre, listeningBar);
    Node owner = getScene().getFocusOwner();
    int now = -1;
    for (Node n = owner; n != null; n = n.getParent()) {
      now = areas.contains(n) ? areas.indexOf(n) : now;
    }
    for (int i = 1; i <= areas.size(); i++) {
      int next = Math.floorMod((now < 0 && by < 0 ? 0 : now) + i * by, areas.size());
      Optional<Node> first = firstOf(areas.get(next));
      if (first.isPresent()) {
        first.get().requestFocus();
        return;
      }
    }
  }

  private static Optional<Node> firstOf(Node area) {
    if (!area.isVisible() || area.isDisabled()) {
      return Optional.empty();
    }
    if (area.isFocusTraversable()) {
      return Optional.of(area);
    }
    return area instanceof Parent parent
        ? parent.getChildrenUnmodifiable().stream()
            .map(Frame::firstOf)
            .flatMap(Optional::stream)
            .findFirst()
        : Optional.empty();
  }

  private void hideLists() {
    keyList.hide();
    notices.hide();
    excerpts.hide();
    preferencesCard.hide();
    testPiece.hide();
  }
}
