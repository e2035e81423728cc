package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Band;
import kettlesieve.core.measure.Axis;
import org.kordamp.ikonli.feather.Feather;

/** The marks: a note, an axis and a version for a place; each a door to its sound. */
final class MarkList extends VBox {
  private static final double AROUND_SECONDS = 0.75;

  private final Workspace workspace;
  private final VBox rows = new VBox(6);

  MarkList(Workspace workspace) {
    this.workspace = workspace;
    setPrefWidth(268);
    setMinWidth(268);
    setStyle("-fx-padding: 2 12 6 10; -fx-spacing: 6;");
    setId("marks");
    ScrollPane scroll = new ScrollPane(rows);
    scroll.setFitToWidth(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    HBox head = new HBox(8, Texts.of("Marks", "section"));
    head.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(head, scroll);
    workspace.comparisonProperty().addListener((o, was, is) -> changed(was.marks(), is.marks()));
    fill();
  }

  private void changed(List<Mark> before, List<Mark> now) {
    if (!before.equals(now)) {
      fill();
    }
  }

  /** Marks the looped place with its band, or the moment that is heard now. */
  void mark() {
    if (workspace.sourceProperty().get() == null) {
      return;
    }
    Listening listening = workspace.listening();
    String chosen = listening.chosenProperty().get();
    boolean version = workspace.comparison().version(chosen).isPresent();
    Mark mark = Mark.at(listening.positionSeconds(), version ? chosen : null);
    TimeSpan loop = listening.spotLoopProperty().get();
    if (loop != null) {
      mark = mark.withSpan(loop.from(), loop.to());
    }
    Band band = listening.bandProperty().get();
    if (band != null) {
      mark = mark.withBand(band.low(), band.high());
    }
    Mark made = mark;
    workspace.edit(c -> c.plus(made));
  }

  /** Goes to the next or the previous mark and plays around it. */
  void step(int by) {
    List<Mark> marks = sorted();
    if (marks.isEmpty()) {
      return;
    }
    double now = workspace.listening().positionSeconds();
    TimeSpan loop = workspace.listening().spotLoopProperty().get();
    int at = -1;
    for (int i = 0; i < marks.size(); i++) {
      if (loop != null && span(marks.get(i)).equals(loop)) {
        at = i;
      }
    }
    if (at < 0) {
      while (at + 1 < marks.size() && marks.get(at + 1).from() <= now) {
        at++;
      }
      at = by < 0 ? at + 1 : at;
    }
    play(marks.get(Math.floorMod(at + by, marks.size())));
  }

  private List<Mark> sorted() {
    List<Mark> marks = new ArrayList<>(workspace.comparison().marks());
    marks.sort(Comparator.comparingDouble(Mark::from));
    return marks;
  }

  private TimeSpan span(Mark mark) {
    double end = workspace.sourceProperty().get().audio().seconds();
    boolean moment = mark.to() - mark.from() < 0.05;
    double from = moment ? Math.max(0, mark.from() - AROUND_SECONDS) : mark.from();
    double to = moment ? mark.from() + AROUND_SECONDS : mark.to();
    return new TimeSpan(Math.min(from, end - 0.1), Math.min(Math.max(to, from + 0.1), end));
  }

  private void play(Mark mark) {
    Listening listening = workspace.listening();
    boolean banded = mark.high() != null;
    listening
        .bandProperty()
        .set(banded ? new Band(mark.low() == null ? 0 : mark.low(), mark.high()) : null);
    String track = mark.version() == null ? listening.chosenProperty().get() : mark.version();
    listening.playSpot(track, span(mark));
  }

  private void fill() {
    rows.getChildren().clear();
    for (Mark mark : sorted()) {
      rows.getChildren().add(row(mark));
    }
    if (rows.getChildren().isEmpty()) {
      rows.getChildren()
          .add(
              Texts.wrapped(
                  "No marks yet. Press K while you listen, or loop a place first: drag over a lane,"
                      + " with Shift to take in a band.",
                  "quiet",
                  "small"));
    }
  }

  private VBox row(Mark mark) {
    Button play = new Button(where(mark), Icons.of(Feather.PLAY));
    play.getStyleClass().setAll("button", "spot-button");
    play.setId("play-" + mark.id());
    play.setAccessibleText("Hear the mark at " + workspace.clock().text(mark.from()));
    play.setOnAction(e -> play(mark));
    HBox.setHgrow(play, Priority.ALWAYS);
    HBox head = new HBox(2);
    head.setAlignment(Pos.CENTER_LEFT);
    Version version = workspace.comparison().version(String.valueOf(mark.version())).orElse(null);
    if (version != null) {
      head.getChildren()
          .add(VersionSign.of(workspace.comparison().versions().indexOf(version), 18));
    }
    head.getChildren()
        .addAll(
            play,
            Icons.button(
                Feather.TRASH_2,
                "Take this mark away",
                () ->
                    workspace.edit(
                        c ->
                            c.withMarks(
                                c.marks().stream()
                                    .filter(m -> !m.id().equals(mark.id()))
                                    .toList()))));
    TextField note = new TextField(mark.note());
    note.setPromptText("what is heard here");
    note.setId("note-" + mark.id());
    note.setAccessibleText("Note");
    Fields.whenDone(note, text -> change(mark, mark.withNote(text)));
    HBox.setHgrow(note, Priority.ALWAYS);
    VBox box = new VBox(2, head, new HBox(4, axes(mark), note));
    box.getStyleClass().add("row-line");
    box.setStyle("-fx-padding: 0 0 6 0;");
    return box;
  }

  private String where(Mark mark) {
    String time = workspace.clock().text(mark.from());
    if (mark.to() - mark.from() >= 0.05) {
      time += "–" + workspace.clock().text(mark.to());
    }
    return mark.high() == null
        ? time
        : time
            + "\n"
            + Numbers.hz(mark.low() == null ? 0 : mark.low())
            + "–"
            + Numbers.hz(mark.high());
  }

  private ComboBox<Axis> axes(Mark mark) {
    ComboBox<Axis> axes = new ComboBox<>();
    axes.getItems().setAll(Axis.INFO, Axis.MISSED, Axis.ADDED, Axis.LOST);
    axes.setConverter(Words.of(axis -> axis == Axis.INFO ? "–" : axis.title()));
    Axis now = Axis.INFO;
    for (Axis axis : Axis.values()) {
      now = axis.id().equals(mark.axis()) ? axis : now;
    }
    axes.setValue(now);
    axes.setAccessibleText("Axis");
    axes.setPrefWidth(92);
    axes.setMinWidth(92);
    axes.setOnAction(
        e -> {
          Axis axis = axes.getValue();
          change(mark, mark.withAxis(axis == Axis.INFO ? null : axis.id()));
        });
    return axes;
  }

  private void change(Mark before, Mark after) {
    workspace.edit(
        c ->
            c.withMarks(
                c.marks().stream().map(m -> m.id().equals(before.id()) ? after : m).toList()));
  }
}
