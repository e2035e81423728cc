package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.List;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBar;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ButtonType;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Dialogs;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Tiles;
import kettlesieve.app.shared.TimeView;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.picture.FrequencyScale;
import org.kordamp.ikonli.feather.Feather;

/**
 * Listen: source and versions as lanes on one time axis.
 *
 * <p>Over 400 lines because lanes, rulers and what is drawn over them scroll and zoom as one: each
 * lane is a class of its own, what keeps them together is this one.
 */
public final class ListenView extends VBox {
  private static final double LEAST_LANE = 56;

  /** About 75 MB of pictures: 900 pieces of the lowest lanes. */
  private static final int MOST_TILES = 900 * 16;

  private final Workspace workspace;
  private final TimeView view = new TimeView();
  private final LaneStyle style = new LaneStyle();
  private final VBox lanes = new VBox();
  private final ScrollBar scrollBar = new ScrollBar();
  private final List<Lane> laneList = new ArrayList<>();
  private final Tiles<LaneTile.Key, LaneTile> tiles =
      new Tiles<>(MOST_TILES, LaneTile::of, LaneTile::weight, () -> laneList.forEach(Lane::renew));
  private final LaneSources sources;
  private final MarkList marks;
  private final CheckBox ownTime = new CheckBox("Own time");
  private final CheckBox left = new CheckBox("What is left");
  private final CheckBox ties = new CheckBox("Tie attacks");
  private static final ButtonType BEGIN = new ButtonType("Begin", ButtonBar.ButtonData.OK_DONE);

  private final Label hint = Texts.of("", "quiet", "small");
  private final List<ToggleButton> pictureButtons = new ArrayList<>();
  private List<String> shown = List.of();
  private boolean scrolling;

  public ListenView(Workspace workspace) {
    this.workspace = workspace;
    this.sources = new LaneSources(workspace, style);
    getStyleClass().add("page");
    setStyle("-fx-spacing: 6; -fx-padding: 8 0 0 0;");
    setId("listen");
    ScrollPane scroll = new ScrollPane(lanes);
    scroll.setFitToWidth(true);
    scroll.setFitToHeight(true);
    scrollBar.setMin(0);
    scrollBar.setAccessibleText("Time");
    scrollBar
        .valueProperty()
        .addListener(
            (o, was, is) -> {
              if (!scrolling) {
                double length = view.seconds();
                view.show(is.doubleValue(), is.doubleValue() + length);
              }
            });
    view.fromProperty().addListener((o, was, is) -> viewChanged());
    view.toProperty().addListener((o, was, is) -> viewChanged());
    marks = new MarkList(workspace);
    HBox body = new HBox(scroll, marks);
    HBox.setHgrow(scroll, Priority.ALWAYS);
    VBox.setVgrow(body, Priority.ALWAYS);
    getChildren().addAll(tools(), body, scrollBar);
    workspace.sourceProperty().addListener((o, was, is) -> sourceChanged());
    workspace.comparisonProperty().addListener((o, was, is) -> rebuild());
    workspace
        .versionStates()
        .addListener((javafx.collections.MapChangeListener<String, VersionState>) c -> rebuild());
    workspace.listening().changesProperty().addListener((o, was, is) -> rebuild());
    workspace.listening().chosenProperty().addListener((o, was, is) -> markChosen());
    workspace.listening().rolesProperty().addListener((o, was, is) -> rebuild());
    workspace.listening().bandProperty().addListener((o, was, is) -> laneList.forEach(Lane::renew));
    workspace
        .ownTime()
        .changesProperty()
        .addListener((o, was, is) -> laneList.forEach(Lane::renew));
    sourceChanged();
  }

  private HBox tools() {
    ToggleGroup pictures = new ToggleGroup();
    HBox box = new HBox(6);
    box.setStyle("-fx-padding: 0 18 0 18;");
    box.setAlignment(Pos.CENTER_LEFT);
    for (LaneStyle.Picture picture : LaneStyle.Picture.values()) {
      ToggleButton button = new ToggleButton(picture.title());
      button.getStyleClass().add("tool-toggle");
      button.setToggleGroup(pictures);
      button.setId("picture-" + picture.name().toLowerCase(java.util.Locale.ROOT));
      button.setSelected(picture == style.picture());
      button.setOnAction(
          e -> {
            button.setSelected(true);
            style.setPicture(picture);
            laneList.forEach(Lane::renew);
          });
      pictureButtons.add(button);
      box.getChildren().add(button);
    }
    ComboBox<FrequencyScale> scale = new ComboBox<>();
    scale.getItems().setAll(FrequencyScale.values());
    scale.setValue(style.scale());
    scale.setConverter(Words.of(FrequencyScale::title));
    scale.setAccessibleText("Frequency axis");
    scale.setMinWidth(96);
    scale.setPrefWidth(110);
    scale.setOnAction(
        e -> {
          style.setScale(scale.getValue());
          laneList.forEach(Lane::renew);
        });
    ownTime.setId("own-time");
    Hint.set(ownTime, "Draw stretched versions in their own time, not under the source's");
    ownTime.setOnAction(
        e -> {
          style.setOwnTime(ownTime.isSelected());
          rebuild();
          total();
        });
    ties.setId("tie-attacks");
    ties.setSelected(style.ties());
    Hint.set(
        ties,
        "A line from each strong attack of the source to where it went; a cross where it was"
            + " lost");
    ties.setOnAction(
        e -> {
          style.setTies(ties.isSelected());
          laneList.forEach(Lane::renew);
        });
    ties.setMinWidth(USE_PREF_SIZE);
    left.setId("null-lanes");
    Hint.set(
        left,
        "The null test: draw what is left of the mix when all stems of a version are taken from"
            + " it. Hear it with Removed, all parts on.");
    left.setOnAction(
        e -> {
          style.setLeft(left.isSelected());
          rebuild();
        });
    left.setMinWidth(USE_PREF_SIZE);
    Hint.set(scale, "Frequency axis");
    ownTime.setMinWidth(USE_PREF_SIZE);
    hint.setMinWidth(0);
    hint.setId("read-out");
    readOut("");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button all = new Button("All");
    all.getStyleClass().add("tool-toggle");
    Hint.set(all, "Show the whole source (F)");
    all.setOnAction(e -> fit());
    Button excerpt = new Button("Excerpt");
    excerpt.getStyleClass().add("tool-toggle");
    Hint.set(excerpt, "Show the excerpt alone");
    excerpt.setOnAction(e -> showExcerpt());
    ToggleButton showMarks = new ToggleButton("Marks", Icons.of(Feather.LIST));
    showMarks.getStyleClass().add("tool-toggle");
    showMarks.setId("show-marks");
    showMarks.setSelected(true);
    // Marks that are not there take no room.
    BooleanBinding some =
        Bindings.createBooleanBinding(
            () -> !workspace.comparison().marks().isEmpty(), workspace.comparisonProperty());
    showMarks.visibleProperty().bind(some);
    showMarks.managedProperty().bind(some);
    marks.visibleProperty().bind(showMarks.selectedProperty().and(some));
    marks.managedProperty().bind(marks.visibleProperty());
    Button add = new Button("Mark", Icons.of(Feather.MAP_PIN));
    add.setId("add-mark");
    add.getStyleClass().add("tool-toggle");
    Hint.set(add, "Mark the looped place, or the moment that is heard (K)");
    add.setOnAction(e -> marks.mark());
    Button blind = new Button("Blind round …", Icons.of(Feather.EYE_OFF));
    blind.getStyleClass().add("tool-toggle");
    blind.setId("blind-round");
    Hint.set(blind, "Hear the versions without knowing which is which, and say what you hear.");
    blind.setOnAction(e -> blindRound());
    box.getChildren()
        .addAll(
            scale,
            new PictureSettings(style, this::restyled),
            ownTime,
            ties,
            left,
            hint,
            gap,
            blind,
            Icons.button(Feather.ZOOM_OUT, "Zoom out (−)", () -> zoom(2)),
            Icons.button(Feather.ZOOM_IN, "Zoom in (+)", () -> zoom(0.5)),
            excerpt,
            all,
            add,
            showMarks);
    // What can be pressed is never cut short; the hint gives way first.
    box.getChildren().stream()
        .filter(n -> n instanceof ButtonBase)
        .forEach(n -> ((ButtonBase) n).setMinWidth(USE_PREF_SIZE));
    return box;
  }

  /** Says what lies under the pointer, or what a hand can do here. */
  private void readOut(String words) {
    hint.setText(words.isEmpty() ? "drag: loop; with Shift: a band of it" : words);
  }

  /** Lanes are drawn another way. */
  private void restyled() {
    for (Lane lane : laneList) {
      lane.setMinHeight(style.laneHeight() > 0 ? style.laneHeight() : LEAST_LANE);
      lane.renew();
    }
  }

  private void blindRound() {
    var usual = workspace.rounds().usual();
    if (usual.isEmpty()) {
      workspace
          .messageProperty()
          .set("A blind round needs two versions that can be heard. Bring them in under Gather.");
      return;
    }
    RoundPanel panel = new RoundPanel(workspace, usual.get());
    ButtonType answer =
        Dialogs.panel(
            getScene().getWindow(),
            "A blind round",
            panel,
            panel.readyProperty(),
            BEGIN,
            ButtonType.CANCEL);
    if (answer == BEGIN) {
      try {
        workspace.rounds().begin(panel.plan());
      } catch (IllegalArgumentException e) {
        workspace.messageProperty().set("The round did not begin: " + e.getMessage() + ".");
      }
    }
  }

  private void sourceChanged() {
    var source = workspace.sourceProperty().get();
    if (source != null) {
      total();
    }
    sources.forget();
    shown = List.of();
    rebuild();
  }

  /** In their own time, stretched versions may be longer than the source. */
  private void total() {
    var source = workspace.sourceProperty().get();
    if (source == null) {
      return;
    }
    double longest = source.audio().seconds();
    if (style.ownTime()) {
      for (var state : workspace.versionStates().values()) {
        if (state.prepared() != null) {
          longest = Math.max(longest, state.prepared().matched().seconds());
        }
      }
    }
    if (view.total() != longest) {
      view.setTotal(longest);
    }
  }

  private void rebuild() {
    boolean stretched = workspace.comparison().job().ownTime();
    ownTime.setVisible(stretched);
    ownTime.setManaged(stretched);
    ties.setVisible(stretched);
    ties.setManaged(stretched);
    boolean stems = workspace.comparison().job().inStems();
    left.setVisible(stems);
    left.setManaged(stems);
    if (!stems && style.left()) {
      left.setSelected(false);
      style.setLeft(false);
    }
    if (!stretched && style.ownTime()) {
      ownTime.setSelected(false);
      style.setOwnTime(false);
    }
    var source = workspace.sourceProperty().get();
    if (source == null) {
      laneList.clear();
      shown = List.of();
      lanes
          .getChildren()
          .setAll(
              Texts.of(
                  "Bring in a source under Gather; it and its versions are drawn here.", "quiet"));
      lanes.setStyle("-fx-padding: 24;");
      return;
    }
    lanes.setStyle("");
    List<String> now = new ArrayList<>();
    now.add(Listening.SOURCE);
    workspace.comparison().versions().forEach(v -> now.add(v.id() + v.label()));
    if (workspace.listening().hasReference()) {
      now.add(Listening.REFERENCE);
    }
    if (!now.equals(shown)) {
      shown = now;
      laneList.clear();
      laneList.add(
          new Lane(
              workspace,
              view,
              style,
              tiles,
              Listening.SOURCE,
              "Source",
              VersionSign.ofSource(18),
              this::readOut));
      int index = 0;
      for (Version v : workspace.comparison().versions()) {
        laneList.add(
            new Lane(
                workspace,
                view,
                style,
                tiles,
                v.id(),
                v.label(),
                VersionSign.of(index++, 18),
                this::readOut));
      }
      if (workspace.listening().hasReference()) {
        String words = workspace.comparison().job().inStems() ? "True stems" : "Clean recording";
        laneList.add(
            new Lane(
                workspace,
                view,
                style,
                tiles,
                Listening.REFERENCE,
                words,
                Icons.of(Feather.STAR),
                this::readOut));
      }
      for (Lane lane : laneList) {
        VBox.setVgrow(lane, Priority.ALWAYS);
        lane.setMinHeight(style.laneHeight() > 0 ? style.laneHeight() : LEAST_LANE);
      }
      lanes.getChildren().setAll(laneList);
      lanes.getChildren().add(new LaneRuler(workspace, view, style));
    }
    for (Lane lane : laneList) {
      LaneSource drawnNow = sources.of(lane.versionId());
      if (drawnNow == null) {
        lane.showMissing(sources.whyMissing(lane.versionId()));
      } else {
        lane.show(drawnNow);
      }
      lane.renew();
    }
    markChosen();
  }

  private void markChosen() {
    String chosen = workspace.listening().chosenProperty().get();
    laneList.forEach(l -> l.setChosen(l.versionId().equals(chosen)));
  }

  private void viewChanged() {
    scrolling = true;
    scrollBar.setMax(Math.max(0, view.total() - view.seconds()));
    scrollBar.setVisibleAmount(view.seconds() / view.total() * scrollBar.getMax());
    scrollBar.setBlockIncrement(view.seconds() * 0.8);
    scrollBar.setUnitIncrement(view.seconds() * 0.1);
    scrollBar.setValue(view.from());
    scrolling = false;
    laneList.forEach(Lane::renew);
    lanes.getChildren().stream()
        .filter(LaneRuler.class::isInstance)
        .forEach(n -> ((LaneRuler) n).repaint());
  }

  /** Zooms around the playhead if it is in view, else around the middle. */
  public void zoom(double factor) {
    double position = workspace.listening().positionSeconds();
    boolean inView = position >= view.from() && position <= view.to();
    view.zoom(factor, inView ? position : (view.from() + view.to()) / 2);
  }

  /** Shows everything. */
  public void fit() {
    view.show(0, view.total());
  }

  private void showExcerpt() {
    TimeSpan excerpt = workspace.comparison().excerpt();
    if (excerpt == null) {
      fit();
    } else {
      double margin = 0.05 * excerpt.seconds();
      view.show(excerpt.from() - margin, excerpt.to() + margin);
    }
  }

  /** Called with every frame of the window. */
  public void follow(double position) {
    laneList.forEach(l -> l.follow(position));
  }

  /** Marks the place that is heard. */
  public void mark() {
    marks.mark();
  }

  /** Plays the next or the previous mark. */
  public void stepMark(int by) {
    marks.step(by);
  }

  /** Moves the view by a share of what is shown. */
  public void scroll(double share) {
    view.scroll(share);
  }

  /** The next kind of picture. */
  public void nextPicture() {
    showPicture((style.picture().ordinal() + 1) % pictureButtons.size());
  }

  /** Chooses a kind of picture: 0 waveform, 1 spectrogram, 2 change map. */
  public void showPicture(int which) {
    pictureButtons.get(which).fire();
  }
}
