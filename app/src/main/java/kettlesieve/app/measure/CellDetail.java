package kettlesieve.app.measure;

import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.ShortLabels;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Band;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.ScoreSheet;
import org.kordamp.ikonli.feather.Feather;

/** What lies behind a cell: meaning, trace, spectrum and the worst spots, each with its sound. */
final class CellDetail extends VBox {
  private static final double AROUND_SPOT = 0.25;

  private static final int MOST_LABEL = 30;

  private final Workspace workspace;
  private final HBox below = new HBox(12);
  private final TracePlot trace;
  private final SpectrumPlot spectrum;
  private final VBox words = new VBox(5);
  private final VBox spotList = new VBox(1);
  private final CheckBox inBand = new CheckBox("in its band");
  private final SpotMap map;
  private final ScrollPane spotsScroll = new ScrollPane(spotList);
  private Entry entry;
  private String offender = "";
  private Reading reading;

  CellDetail(Workspace workspace) {
    this.workspace = workspace;
    this.trace = new TracePlot(workspace);
    this.spectrum = new SpectrumPlot();
    this.map = new SpotMap(workspace);
    inBand.setId("spot-band");
    inBand.setSelected(true);
    Hint.set(inBand, "Spots are heard in their own band of frequencies only");
    inBand.setOnAction(
        e -> {
          Spot playing = workspace.selection().spotProperty().get();
          if (playing != null && workspace.listening().playing()) {
            play(playing);
          }
        });
    setSpacing(8);
    trace.setMinHeight(70);
    trace.setPrefHeight(92);
    ScrollPane wordsScroll = new ScrollPane(words);
    wordsScroll.setFitToWidth(true);
    wordsScroll.setPrefWidth(380);
    wordsScroll.setMinWidth(300);
    spotsScroll.setFitToWidth(true);
    spotsScroll.setPrefWidth(290);
    spotsScroll.setMinWidth(270);
    HBox.setHgrow(spectrum, Priority.ALWAYS);
    HBox.setHgrow(wordsScroll, Priority.ALWAYS);
    HBox.setHgrow(map, Priority.SOMETIMES);
    map.setMaxWidth(420);
    spectrum.setMinHeight(90);
    spectrum.setPrefHeight(120);
    wordsScroll.setPrefHeight(120);
    wordsScroll.setMinHeight(0);
    spotsScroll.setPrefHeight(120);
    spotsScroll.setMinHeight(0);
    spectrum.setPrefWidth(320);
    map.setMinHeight(90);
    map.setPrefHeight(120);
    map.setPrefWidth(250);
    map.setMinWidth(190);
    below.getChildren().addAll(wordsScroll, spectrum, map, spotsScroll);
    VBox.setVgrow(below, Priority.ALWAYS);
    VBox.setMargin(below, new Insets(0, 14, 0, 14));
    getChildren().addAll(trace, below);
    workspace.selection().spotProperty().addListener((o, was, is) -> markSpot());
  }

  void show(ScoreSheet scores, Entry shown, Declaration declaration) {
    show(scores, shown, declaration, "");
  }

  /**
   * The same of what one role has in a reading.
   *
   * @param against the role; empty for the reading as a whole
   */
  void show(ScoreSheet scores, Entry shown, Declaration declaration, String against) {
    entry = shown;
    offender = against;
    reading = null;
    words.getChildren().clear();
    spotList.getChildren().clear();
    boolean some = scores != null && shown != null && declaration != null;
    setVisible(some);
    if (!some) {
      return;
    }
    reading = shown.reading(declaration.id()).map(r -> r.of(against)).orElse(null);
    describe(scores, shown, declaration);
    trace.show(scores, shown, declaration, workspace.comparison().versions());
    spectrum.show(scores, shown, declaration, workspace.comparison().versions());
    fillSpots(declaration);
    Spot first = reading == null || reading.spots().isEmpty() ? null : reading.spots().get(0);
    Spot playing = workspace.selection().spotProperty().get();
    map.show(shown, playing != null ? playing : first);
    boolean course = reading != null && reading.trace().values().length > 0;
    give(trace, course);
    give(spectrum, reading != null && reading.spectrum().hz().length > 0);
    give(map, first != null);
    give(spotsScroll, first != null);
  }

  /** What a reading does not have takes no room: it goes to what it has. */
  private static void give(Region part, boolean there) {
    part.setVisible(there);
    part.setManaged(there);
  }

  private void describe(ScoreSheet scores, Entry shown, Declaration d) {
    Label name = Texts.of(d.title(), "section");
    Label axis = Texts.of(d.axis(scores.job()).title(), d.axis(scores.job()).id() + "-text");
    Label who =
        Texts.of(
            shortLabel(shown)
                + (shown.part().role().isEmpty() ? "" : ", stem " + shown.part().role())
                + (offender.isEmpty() ? "" : ", from " + offender)
                + (shown.part().excerpt().isEmpty() ? "" : ", " + shown.part().excerpt()),
            "quiet");
    name.setMinWidth(Region.USE_PREF_SIZE);
    axis.setMinWidth(Region.USE_PREF_SIZE);
    who.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    Hint.set(who, shown.version().label());
    HBox title = new HBox(8, name, axis, who);
    title.setAlignment(Pos.BASELINE_LEFT);
    words.getChildren().add(title);
    if (reading == null) {
      words
          .getChildren()
          .add(
              Texts.wrapped(
                  "Not measured: " + shown.reasonNotMeasured(d.id()).orElse("no reason is known"),
                  "warning-text"));
    } else {
      String unit = d.unit().isEmpty() ? "" : " " + d.unit();
      String score =
          scores
              .scoring()
              .scale(d, scores.job())
              .map(s -> " · score " + Numbers.fixed(s.score(reading.scored().value()), 0))
              .orElse("");
      Label value =
          Texts.of(
              Numbers.reading(reading)
                  + unit
                  + "   ("
                  + Numbers.reading(reading.estimate().low(), d.unit())
                  + " to "
                  + Numbers.reading(reading.estimate().high(), d.unit())
                  + ")"
                  + score,
              "strong");
      value.setId("detail-value");
      words.getChildren().add(value);
    }
    words.getChildren().add(Texts.wrapped(d.meaning()));
    if (reading != null && !reading.details().isEmpty()) {
      words.getChildren().add(Texts.wrapped(details(), "small"));
    }
    if (reading != null) {
      reading.notes().forEach(n -> words.getChildren().add(Texts.wrapped(n, "small")));
    }
    scores
        .scoring()
        .scale(d, scores.job())
        .ifPresent(s -> words.getChildren().add(Texts.wrapped(scale(s, d), "quiet", "small")));
    words.getChildren().add(Texts.wrapped("How: " + d.formula(), "quiet", "small"));
    words.getChildren().add(Texts.wrapped("Source: " + d.source(), "quiet", "small"));
  }

  /** How the reading becomes a score. */
  private static String scale(Scale s, Declaration d) {
    String unit = Measures.scoredUnit(d.id());
    return "Scale: 100 at "
        + Numbers.fixed(s.full(), 1)
        + ", 0 at "
        + Numbers.fixed(s.zero(), 1)
        + (unit.isEmpty() ? "" : " " + unit)
        + "; weight "
        + Numbers.fixed(s.weight(), 1)
        + " in its question.";
  }

  private String details() {
    StringBuilder text = new StringBuilder();
    for (Detail detail : reading.details()) {
      boolean whole = detail.unit().isEmpty() || detail.unit().equals("Hz");
      text.append(text.isEmpty() ? "" : "   ")
          .append(detail.key())
          .append(' ')
          .append(reading.limit(detail.key()).sign())
          .append(Numbers.fixed(detail.value(), whole ? 0 : 1))
          .append(detail.unit().isEmpty() ? "" : " " + detail.unit());
    }
    return text.toString();
  }

  private void fillSpots(Declaration d) {
    List<Spot> spots = reading == null ? List.of() : reading.spots();
    HBox head = new HBox(8, Texts.of("Worst spots", "section"));
    if (!spots.isEmpty()) {
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      head.getChildren().addAll(gap, inBand);
    }
    head.setAlignment(Pos.CENTER_LEFT);
    spotList.getChildren().add(head);
    if (!spots.isEmpty()) {
      spotList
          .getChildren()
          .add(Texts.of("N next, P previous, X against the source", "quiet", "small"));
    }
    if (spots.isEmpty()) {
      spotList
          .getChildren()
          .add(
              Texts.wrapped(
                  reading == null ? "" : "No place stands out: there is nothing to point at.",
                  "quiet"));
    }
    int n = 0;
    for (Spot spot : spots) {
      String text =
          workspace.clock().text(spot.at())
              + "   "
              + Numbers.hz(spot.low())
              + " – "
              + Numbers.hz(spot.high())
              + "   "
              + Numbers.reading(spot.value(), d.unit())
              + " "
              + d.unit();
      Button button = new Button(text, Icons.of(Feather.PLAY_CIRCLE));
      button.getStyleClass().setAll("button", "spot-button");
      button.setId("spot-" + n++);
      button.setUserData(spot);
      button.setAccessibleText("Play the spot at " + text);
      button.setOnAction(e -> play(spot));
      spotList.getChildren().add(button);
    }
    markSpot();
  }

  private void play(Spot spot) {
    workspace.selection().spotProperty().set(spot);
    TimeSpan around = new TimeSpan(Math.max(0, spot.from() - AROUND_SPOT), spot.to() + AROUND_SPOT);
    workspace.listening().bandProperty().set(inBand.isSelected() ? band(spot) : null);
    if (!entry.part().role().isEmpty()) {
      workspace.stems().hear(entry.part().role(), entry.version().id());
    }
    workspace.listening().playSpot(entry.version().id(), around);
    map.show(entry, spot);
  }

  /** The spot's own band, widened to at least an octave so that it can be recognised. */
  private Band band(Spot spot) {
    double top = workspace.sourceProperty().get().audio().sampleRate() * 0.45;
    if (spot.low() <= 30 && spot.high() >= 0.9 * top) {
      return null;
    }
    double middle = Math.sqrt(Math.max(20, spot.low()) * spot.high());
    double low = Math.min(Math.max(20, spot.low()), middle / Math.sqrt(2));
    double high = Math.min(top, Math.max(spot.high(), middle * Math.sqrt(2)));
    return high > low * 1.1 ? new Band(low, high) : null;
  }

  private void markSpot() {
    Spot playing = workspace.selection().spotProperty().get();
    for (var node : spotList.getChildren()) {
      if (node instanceof Button button) {
        button.getStyleClass().remove("spot-playing");
        if (button.getUserData().equals(playing)) {
          button.getStyleClass().add("spot-playing");
        }
      }
    }
  }

  /** The selected reading as text, for the clipboard; empty if there is none. */
  String asText() {
    if (reading == null) {
      return "";
    }
    Declaration d = Measures.declaration(reading.measure());
    return entry.version().label()
        + "\t"
        + d.title()
        + "\t"
        + Numbers.reading(reading)
        + " "
        + d.unit();
  }

  /** As short as it can be and still not look like another. */
  private String shortLabel(Entry shown) {
    List<String> labels = workspace.comparison().versions().stream().map(Version::label).toList();
    int index = labels.indexOf(shown.version().label());
    return index < 0 ? shown.version().label() : ShortLabels.of(labels, MOST_LABEL).get(index);
  }

  void stepSpot(int by) {
    if (reading == null || reading.spots().isEmpty()) {
      return;
    }
    List<Spot> spots = reading.spots();
    Spot heard = workspace.selection().spotProperty().get();
    int now = heard == null ? -1 : spots.indexOf(heard);
    play(spots.get(Math.floorMod(now < 0 && by < 0 ? by : now + by, spots.size())));
  }

  void swapWithSource() {
    if (entry != null) {
      Listening listening = workspace.listening();
      boolean onSource = listening.chosenProperty().get().equals(Listening.SOURCE);
      listening.choose(onSource ? entry.version().id() : Listening.SOURCE);
    }
  }
}
