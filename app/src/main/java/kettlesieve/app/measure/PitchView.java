package kettlesieve.app.measure;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import kettlesieve.app.model.OwnTime;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Drawing;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.stretch.Envelope;
import kettlesieve.core.measure.stretch.StretchedVoices;
import kettlesieve.core.measure.stretch.VoiceTraces;

/** Pitch and formants: how the voice runs in source and versions, and its envelope at a moment. */
final class PitchView extends VBox {
  private final Workspace workspace;
  private final PitchPlot plot;
  private final EnvelopePlot envelopes = new EnvelopePlot();
  private final VBox words = new VBox(6);
  private final Drawing drawing = Drawing.first();
  private double moment = Double.NaN;

  /** What is drawn of one version. */
  private record Shown(Version version, int index, OwnTime.Envelopes envelopes) {}

  PitchView(Workspace workspace) {
    this.workspace = workspace;
    setId("pitch");
    setSpacing(8);
    setPadding(new Insets(4, 14, 4, 14));
    plot =
        new PitchPlot(
            workspace,
            at -> {
              moment = at;
              fill();
            });
    ScrollPane beside = new ScrollPane(words);
    beside.setFitToWidth(true);
    beside.setPrefWidth(330);
    beside.setMinWidth(300);
    beside.setMinHeight(0);
    beside.setPrefHeight(120);
    HBox below = new HBox(12, envelopes, beside);
    HBox.setHgrow(envelopes, Priority.ALWAYS);
    VBox.setVgrow(below, Priority.ALWAYS);
    getChildren()
        .addAll(
            Texts.of(
                "Pitch of the voice: what was asked for broad in ink, versions in their colours."
                    + " Click a moment to see its envelope and formants.",
                "quiet",
                "small"),
            plot,
            below);
    workspace.sourceProperty().addListener((o, was, is) -> moment = Double.NaN);
    workspace.ownTime().changesProperty().addListener((o, was, is) -> fill());
    sceneProperty().addListener((o, was, is) -> fill());
    workspace.selection().versionProperty().addListener((o, was, is) -> fill());
  }

  private Optional<VoiceTraces> traces(Version v) {
    return workspace.ownTime().voices(v.id());
  }

  /** The middle of the longest voiced stretch, to begin with. */
  private double longestVoiced() {
    double best = Double.NaN;
    int longest = 0;
    for (Version v : workspace.comparison().versions()) {
      List<StretchedVoices.Frame> frames = traces(v).map(VoiceTraces::frames).orElse(List.of());
      int first = 0;
      for (int i = 1; i <= frames.size(); i++) {
        boolean ends =
            i == frames.size() || frames.get(i).source() - frames.get(i - 1).source() > 0.03;
        if (ends) {
          if (i - first > longest) {
            longest = i - first;
            best = frames.get((first + i) / 2).source();
          }
          first = i;
        }
      }
    }
    return best;
  }

  /** Fills what is seen: the voice is followed only where it is looked at. */
  void fill() {
    if (getScene() == null) {
      return;
    }
    if (Double.isNaN(moment)) {
      moment = longestVoiced();
    }
    plot.choose(moment);
    var source = workspace.sourceProperty().get();
    if (Double.isNaN(moment) || source == null) {
      words.getChildren().clear();
      envelopes.show(new double[0], Map.of(), null);
      return;
    }
    Audio audio = source.audio();
    double at = moment;
    List<Version> versions = workspace.comparison().versions();
    Map<Version, VoiceTraces> known = new LinkedHashMap<>();
    Map<Version, Prepared> ready = new LinkedHashMap<>();
    for (Version v : versions) {
      traces(v).ifPresent(t -> known.put(v, t));
      ready.put(v, workspace.state(v.id()).prepared());
    }
    drawing.request(
        () -> {
          List<Shown> all = new java.util.ArrayList<>();
          known.forEach(
              (v, t) ->
                  OwnTime.envelopes(t, audio, ready.get(v).matched(), at)
                      .ifPresent(e -> all.add(new Shown(v, versions.indexOf(v), e))));
          return all;
        },
        this::show);
  }

  private void show(List<Shown> all) {
    words.getChildren().clear();
    words.getChildren().add(Texts.of("At " + workspace.clock().text(moment), "section"));
    if (all.isEmpty()) {
      words
          .getChildren()
          .add(Texts.wrapped("No voice is heard here in source and version alike.", "quiet"));
      envelopes.show(new double[0], Map.of(), null);
      return;
    }
    Map<Color, double[]> curves = new LinkedHashMap<>();
    String chosen = workspace.selection().versionProperty().get();
    Shown strong =
        all.stream().filter(s -> s.version().id().equals(chosen)).findFirst().orElse(all.get(0));
    all.forEach(s -> curves.put(VersionSign.color(s.index()), s.envelopes().version()));
    envelopes.show(strong.envelopes().source(), curves, VersionSign.color(strong.index()));
    Label own =
        Texts.wrapped(
            "Source: formants at "
                + EnvelopePlot.words(Envelope.formants(strong.envelopes().source()))
                + within(strong.envelopes().sourceHz()));
    own.setId("formants-source");
    words.getChildren().add(own);
    for (Shown s : all) {
      Label name =
          Texts.wrapped(
              s.version().label()
                  + ": "
                  + EnvelopePlot.words(Envelope.formants(s.envelopes().version()))
                  + within(s.envelopes().versionHz()),
              s == strong ? "strong" : "quiet");
      name.setId("formants-" + s.version().id());
      HBox line = new HBox(6, VersionSign.of(s.index(), 16), name);
      HBox.setHgrow(name, Priority.ALWAYS);
      line.setOnMouseClicked(e -> workspace.selection().version(s.version().id()));
      words.getChildren().add(line);
    }
  }

  /**
   * An envelope is known at the overtones only: a peak between two of them is seen at the nearer.
   */
  private static String within(double fundamental) {
    return String.format(Locale.ROOT, ", each ±%.0f Hz", fundamental / 2);
  }
}
