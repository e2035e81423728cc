package kettlesieve.app.measure;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.LostPassages;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.picture.PeakPyramid;
import kettlesieve.core.score.Costliest;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.OddsWords;
import org.kordamp.ikonli.feather.Feather;

/** One role: the stems of all tools under each other, the best first, and the true one on top. */
final class RolePage extends VBox {
  private static final List<Axis> AXES = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);

  private final Workspace workspace;
  private final ScoreSheet sheet;
  private final Part part;
  private final SheetOdds odds;
  private final double seconds;
  private double fullHeight = 1;

  /**
   * @param allRoles goes back to all of them
   */
  RolePage(Workspace workspace, ScoreSheet sheet, Part part, Runnable allRoles) {
    this.workspace = workspace;
    this.sheet = sheet;
    this.part = part;
    this.odds = SheetOdds.of(sheet, part);
    setSpacing(8);
    var source = workspace.sourceProperty().get();
    seconds = source == null ? 1 : source.audio().seconds();
    Map<Entry, Audio> stems = new LinkedHashMap<>();
    for (Entry entry : sheet.ranked(part)) {
      stems.put(entry, workspace.stems().of(entry.version().id(), part.role()).orElse(null));
    }
    Optional<Audio> truth = Optional.ofNullable(workspace.trueStems().get(part.role()));
    if (source != null) {
      PeakPyramid peaks = Drawing.peaksIfKnown(source.audio());
      if (peaks != null) {
        float[] range = peaks.range(0, source.audio().frames());
        fullHeight = Math.max(0.02, Math.max(-range[0], range[1]));
      }
    }
    GridPane grid = new GridPane();
    grid.setId("role-page");
    grid.setHgap(12);
    grid.setVgap(6);
    ColumnConstraints wide = new ColumnConstraints();
    wide.setHgrow(Priority.ALWAYS);
    ColumnConstraints own = new ColumnConstraints();
    grid.getColumnConstraints().setAll(own, own, own, wide);
    String[] heads = {
      "Place", Sentences.begun(part.role()), "Overall · M A L", "Its stem over time"
    };
    for (int i = 0; i < heads.length; i++) {
      Label head = Texts.of(heads[i], "column-head");
      head.setMinWidth(USE_PREF_SIZE);
      grid.add(head, i, 0);
    }
    int row = 1;
    if (truth.isPresent()) {
      Label name = Texts.of("True stem", "strong");
      HBox who = new HBox(8, Icons.of(Feather.STAR), name);
      who.setAlignment(Pos.CENTER_LEFT);
      grid.add(who, 1, row);
      grid.add(lane(truth.get(), List.of(), Listening.REFERENCE), 3, row++);
    }
    for (var stem : stems.entrySet()) {
      addRow(grid, stem.getKey(), stem.getValue(), row++);
    }
    Label words =
        Texts.wrapped(
            "Hatched: the role sounds in the mix and is missing here. Click a lane to hear it"
                + " from there.",
            "quiet",
            "small");
    Button back = new Button("All roles", Icons.of(Feather.ARROW_LEFT));
    back.getStyleClass().add("tool-toggle");
    back.setId("all-roles");
    back.setOnAction(e -> allRoles.run());
    HBox foot = new HBox(12, back, words);
    foot.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(grid, foot);
  }

  private void addRow(GridPane grid, Entry entry, Audio stem, int row) {
    boolean scored = entry.scored();
    Label place =
        Texts.of(
            !scored
                ? "–"
                : entry.rank() == entry.rankTo()
                    ? Integer.toString(entry.rank())
                    : entry.rank() + "–" + entry.rankTo(),
            "strong");
    VBox first = new VBox(1, place);
    first.setAlignment(Pos.CENTER);
    odds.of(entry.version().id())
        .ifPresent(
            o -> {
              Label chance = Texts.of(OddsWords.ofTen(o.best()), "quiet", "small");
              chance.setMinWidth(USE_PREF_SIZE);
              Hint.set(chance, "Truly the best stem of its role in " + OddsWords.tenths(o.best()));
              first.getChildren().add(chance);
            });
    grid.add(first, 0, row);
    grid.add(who(entry), 1, row);
    grid.add(scores(entry), 2, row);
    List<TimeSpan> lost = LostPassages.of(sheet, part.role(), entry.version().id());
    Node lane = lane(stem, lost, entry.version().id());
    lane.setAccessibleText(
        part.role() + " of " + entry.version().label() + ", " + lost.size() + " passages missing");
    grid.add(lane, 3, row);
  }

  private Node lane(Audio stem, List<TimeSpan> lost, String versionId) {
    StemLane lane =
        new StemLane(
            stem,
            seconds,
            lost,
            fullHeight,
            at -> {
              workspace.stems().hear(part.role(), versionId);
              workspace.listening().choose(versionId);
              workspace.listening().seek(at);
              workspace.listening().play();
            });
    lane.setId("stem-lane-" + versionId);
    return lane;
  }

  private Node who(Entry entry) {
    VBox box = new VBox(1, new EntryLabel(workspace, entry, 190));
    box.setAlignment(Pos.CENTER_LEFT);
    if (!entry.version().stems().containsKey(part.role())) {
      box.getChildren().add(Texts.of("formed of its stems", "quiet", "small"));
    }
    return box;
  }

  private Node scores(Entry entry) {
    HBox line = new HBox(8);
    line.setAlignment(Pos.CENTER_LEFT);
    Label overall =
        Texts.of(
            entry.card().overall().map(Estimate::value).map(v -> Numbers.fixed(v, 0)).orElse("–"),
            "strong");
    overall.setMinWidth(26);
    line.getChildren().add(overall);
    for (Axis axis : AXES) {
      String value =
          Optional.ofNullable(entry.card().axes().get(axis))
              .map(Estimate::value)
              .map(v -> Numbers.fixed(v, 0))
              .orElse("–");
      line.getChildren().add(Texts.of(value, axis.id() + "-text"));
    }
    VBox box = new VBox(1, line);
    box.setAlignment(Pos.CENTER_LEFT);
    if (entry.scored()) {
      Costliest.of(entry, sheet.profile())
          .ifPresent(
              r -> {
                var d = Measures.declaration(r.measure());
                String words = d.title() + " " + Numbers.reading(r) + " " + d.unit();
                box.getChildren().add(Texts.of(words, "quiet", "small"));
              });
    } else {
      Label why =
          Texts.wrapped(
              Sentences.begun(entry.reasonNotMeasured("bleed").orElse("it has no score")),
              "quiet",
              "small");
      why.setMaxWidth(200);
      box.getChildren().add(why);
    }
    return box;
  }
}
