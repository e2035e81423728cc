package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.VersionState;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.TimeView;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.FrequencyScale;
import org.kordamp.ikonli.feather.Feather;

/** Listen: source and versions as lanes on one time axis. */
public final class ListenView extends VBox {
  private static final double LEAST_LANE = 64;

  private final Workspace workspace;
  private final TimeView view = new TimeView();
  private final LaneStyle style = new LaneStyle();
  private final VBox lanes = new VBox();
  private final ScrollBar scrollBar = new ScrollBar();
  private final List<Lane> laneList = new ArrayList<>();
  private List<String> shown = List.of();
  private boolean scrolling;

  public ListenView(Workspace workspace) {
    this.workspace = workspace;
    getStyleClass().add("page");
    setStyle("-fx-spacing: 6; -fx-padding: 8 0 0 0;");
    setId("listen");
    ScrollPane scroll = new ScrollPane(lanes);
    scroll.setFitToWidth(true);
    scroll.setFitToHeight(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
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
    getChildren().addAll(tools(), scroll, scrollBar);
    workspace.sourceProperty().addListener((o, was, is) -> sourceChanged());
    workspace.comparisonProperty().addListener((o, was, is) -> rebuild());
    workspace
        .versionStates()
        .addListener((javafx.collections.MapChangeListener<String, VersionState>) c -> rebuild());
    workspace.listening().chosenProperty().addListener((o, was, is) -> markChosen());
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
      box.getChildren().add(button);
    }
    ComboBox<FrequencyScale> scale = new ComboBox<>();
    scale.getItems().setAll(FrequencyScale.values());
    scale.setValue(style.scale());
    scale.setConverter(
        new StringConverter<>() {
          @Override
          public String toString(FrequencyScale value) {
            return value == null ? "" : value.title();
          }

          @Override
          public FrequencyScale fromString(String text) {
            throw new UnsupportedOperationException();
          }
        });
    scale.setAccessibleText("Frequency axis");
    scale.setOnAction(
        e -> {
          style.setScale(scale.getValue());
          laneList.forEach(Lane::renew);
        });
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button all = new Button("Show all");
    all.getStyleClass().add("tool-toggle");
    all.setOnAction(e -> fit());
    Button excerpt = new Button("Show the excerpt");
    excerpt.getStyleClass().add("tool-toggle");
    excerpt.setOnAction(e -> showExcerpt());
    box.getChildren()
        .addAll(
            Texts.of("Frequency axis", "quiet", "small"),
            scale,
            gap,
            Texts.of("drag over a lane to loop a stretch", "quiet", "small"),
            Icons.button(Feather.ZOOM_OUT, "Zoom out (−)", () -> zoom(2)),
            Icons.button(Feather.ZOOM_IN, "Zoom in (+)", () -> zoom(0.5)),
            excerpt,
            all);
    return box;
  }

  private void sourceChanged() {
    var source = workspace.sourceProperty().get();
    if (source != null && view.total() != source.audio().seconds()) {
      view.setTotal(source.audio().seconds());
    }
    shown = List.of();
    rebuild();
  }

  private void rebuild() {
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
    if (!now.equals(shown)) {
      shown = now;
      laneList.clear();
      laneList.add(new Lane(workspace, view, style, Listening.SOURCE, "Source", -1));
      int index = 0;
      for (Version v : workspace.comparison().versions()) {
        laneList.add(new Lane(workspace, view, style, v.id(), v.label(), index++));
      }
      for (Lane lane : laneList) {
        VBox.setVgrow(lane, Priority.ALWAYS);
        lane.setMinHeight(LEAST_LANE);
      }
      lanes.getChildren().setAll(laneList);
      lanes.getChildren().add(new LaneRuler(view));
    }
    for (Lane lane : laneList) {
      lane.setAudio(audio(lane.versionId()));
    }
    markChosen();
  }

  private Audio audio(String id) {
    if (id.equals(Listening.SOURCE)) {
      return workspace.sourceProperty().get().audio();
    }
    var prepared = workspace.state(id).prepared();
    return prepared == null ? null : prepared.matched();
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
}
