package kettlesieve.app.measure;

import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;
import kettlesieve.core.work.PreparedExcerpt;
import org.kordamp.ikonli.feather.Feather;

/**
 * The source's clipped passages as a lane and as a list to step through, and source and versions
 * drawn over each other at the longest run of the chosen passage.
 */
final class ClippingView extends BorderPane {
  private final Workspace workspace;
  private final ClippingLane lane;
  private final RunOverlay overlay;
  private final ListView<Clipping.Passage> list = new ListView<>();
  private final VBox words = new VBox(4);
  private Clipping clipping;

  ClippingView(Workspace workspace) {
    this.workspace = workspace;
    this.lane = new ClippingLane(workspace, this::choose);
    this.overlay = new RunOverlay(workspace);
    setPadding(new Insets(0, 14, 0, 14));
    list.setId("passages");
    list.setPrefWidth(290);
    list.setCellFactory(v -> new PassageCell());
    list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> chosen(is));
    Button previous = new Button("Previous", Icons.of(Feather.CHEVRON_UP));
    previous.setOnAction(e -> step(-1));
    Button next = new Button("Next", Icons.of(Feather.CHEVRON_DOWN));
    next.setOnAction(e -> step(1));
    Button play = new Button("Play", Icons.of(Feather.PLAY_CIRCLE));
    play.setId("play-passage");
    play.setOnAction(e -> play());
    HBox buttons = new HBox(6, play, previous, next);
    buttons.setAlignment(Pos.CENTER_LEFT);
    VBox side = new VBox(7, words, list, buttons);
    VBox.setVgrow(list, Priority.ALWAYS);
    side.setPadding(new Insets(0, 0, 0, 12));
    VBox centre = new VBox(8, lane, overlay);
    VBox.setVgrow(overlay, Priority.ALWAYS);
    setCenter(centre);
    setRight(side);
    workspace.preparedExcerptProperty().addListener((o, was, is) -> fill());
    workspace
        .versionStates()
        .addListener((javafx.collections.MapChangeListener<Object, Object>) c -> overlay.renew());
    fill();
  }

  private void fill() {
    PreparedExcerpt preparedExcerpt = workspace.preparedExcerptProperty().get();
    clipping = null;
    words.getChildren().clear();
    list.getItems().clear();
    overlay.show(null, null);
    if (preparedExcerpt == null
        || workspace.comparison().job() != kettlesieve.core.comparison.Job.DECLIP) {
      lane.show(List.of(), 0);
      return;
    }
    clipping = preparedExcerpt.source().clipping();
    double start = preparedExcerpt.source().startSeconds();
    lane.show(clipping.passages(), start);
    if (!clipping.any()) {
      words
          .getChildren()
          .add(Texts.wrapped("No clipping was found in the source: there is nothing to repair."));
      return;
    }
    words
        .getChildren()
        .add(
            Texts.wrapped(
                Numbers.fixed(clipping.percent(), 2)
                    + " % of the samples in "
                    + clipping.runs()
                    + " runs, the longest of "
                    + clipping.longest()
                    + " samples",
                "strong"));
    for (Clipping.Ceiling c : clipping.ceilings()) {
      words
          .getChildren()
          .add(
              Texts.of(
                  (preparedExcerpt.source().channels() > 1
                          ? "channel " + (c.channel() + 1) + ", "
                          : "")
                      + (c.polarity() > 0 ? "upper" : "lower")
                      + " ceiling "
                      + Numbers.fixed(Db.ofAmplitude(c.level()), 2)
                      + " dBFS peak"
                      + (c.soft() ? ", rounded" : ", cut flat"),
                  "small"));
    }
    list.getItems().setAll(clipping.passages());
    clipping.passages().stream()
        .max(java.util.Comparator.comparingInt(Clipping.Passage::longestSamples))
        .ifPresent(p -> list.getSelectionModel().select(p));
  }

  private void choose(Clipping.Passage passage) {
    list.getSelectionModel().select(passage);
    list.scrollTo(passage);
  }

  private void chosen(Clipping.Passage passage) {
    lane.select(passage);
    overlay.show(clipping, passage);
  }

  /** Goes to the next or the previous passage and plays it. */
  void step(int by) {
    int size = list.getItems().size();
    if (size > 0) {
      int now = list.getSelectionModel().getSelectedIndex();
      list.getSelectionModel().select(Math.floorMod(now + by, size));
      list.scrollTo(list.getSelectionModel().getSelectedIndex());
      play();
    }
  }

  private void play() {
    Clipping.Passage passage = list.getSelectionModel().getSelectedItem();
    String version = workspace.selection().versionProperty().get();
    if (passage != null) {
      double start = workspace.preparedExcerptProperty().get().source().startSeconds();
      workspace.listening().bandProperty().set(null);
      workspace
          .listening()
          .playSpot(
              version == null ? kettlesieve.app.model.Listening.SOURCE : version,
              new TimeSpan(
                  Math.max(0, start + passage.from() - 0.25), start + passage.to() + 0.25));
    }
  }

  private final class PassageCell extends ListCell<Clipping.Passage> {
    @Override
    protected void updateItem(Clipping.Passage passage, boolean empty) {
      super.updateItem(passage, empty);
      if (empty || passage == null) {
        setText(null);
        return;
      }
      double start = workspace.preparedExcerptProperty().get().source().startSeconds();
      setText(
          workspace.clock().text(start + passage.from())
              + "   "
              + word(passage.severity())
              + "   "
              + passage.runs()
              + (passage.runs() == 1 ? " run, " : " runs, ")
              + passage.longestSamples()
              + " samples");
    }
  }

  static String word(Clipping.Severity severity) {
    return severity.name().toLowerCase(java.util.Locale.ROOT);
  }
}
