package kettlesieve.app.measure;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Prepared;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.stretch.StretchedHits;
import kettlesieve.core.measure.stretch.StretchedTraces;
import org.kordamp.ikonli.feather.Feather;

/** Time and attacks: how evenly versions run, and what became of each attack. */
final class TimingView extends VBox {
  private static final double PANEL_WIDTH = 268;
  private static final double ROW_HEIGHT = 208;

  private final Workspace workspace;
  private final DeviationPlot plot;
  private final Label title = Texts.of("", "strong");
  private final FlowPane panels = new FlowPane(12, 10);
  private double attack = Double.NaN;

  TimingView(Workspace workspace) {
    this.workspace = workspace;
    setId("timing");
    setSpacing(8);
    setPadding(new Insets(4, 14, 4, 14));
    plot = new DeviationPlot(workspace, this::nearest);
    title.setId("attack-title");
    Button before = Icons.button(Feather.CHEVRON_LEFT, "The attack before (P)", () -> step(-1));
    before.setId("attack-before");
    Button next = Icons.button(Feather.CHEVRON_RIGHT, "The next attack (N)", () -> step(1));
    next.setId("attack-next");
    HBox bar =
        new HBox(
            6,
            before,
            next,
            title,
            Texts.of(
                "source in ink, the version where the attack ought to be; click to hear it",
                "quiet",
                "small"));
    bar.setAlignment(Pos.CENTER_LEFT);
    ScrollPane scroll = new ScrollPane(panels);
    scroll.setFitToWidth(true);
    // A whole row of attacks is always seen; the plot above gives way first.
    scroll.setMinHeight(ROW_HEIGHT);
    scroll.setPrefHeight(ROW_HEIGHT);
    VBox.setVgrow(plot, Priority.ALWAYS);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    getChildren()
        .addAll(
            Texts.of(
                "Off an even stretch, ms: above the line comes late, below early",
                "quiet",
                "small"),
            plot,
            bar,
            scroll);
    workspace.ownTime().changesProperty().addListener((o, was, is) -> fill());
    sceneProperty().addListener((o, was, is) -> fill());
  }

  /** All attacks that any version was asked for, rising. */
  private List<Double> attacks() {
    TreeSet<Double> all = new TreeSet<>();
    for (Version v : workspace.comparison().versions()) {
      traces(v).ifPresent(t -> t.hits().forEach(h -> all.add(h.source())));
    }
    return List.copyOf(all);
  }

  /** Why no attack is shown. */
  private String nothing() {
    if (workspace.ownTime().timesFailed()) {
      return "The attacks could not be looked for; the program's log says more.";
    }
    return workspace.busyProperty().get() || !workspace.ownTime().timesKnown()
        ? "The attacks appear here as soon as the versions are matched."
        : "No strong attacks were found in the source.";
  }

  private Optional<StretchedTraces> traces(Version version) {
    return workspace.ownTime().times(version.id());
  }

  private void nearest(double seconds) {
    attacks().stream()
        .min(java.util.Comparator.comparingDouble(a -> Math.abs(a - seconds)))
        .ifPresent(
            a -> {
              attack = a;
              fill();
            });
  }

  /** Goes on to another attack. */
  void step(int by) {
    List<Double> all = attacks();
    if (!all.isEmpty()) {
      int now = all.indexOf(attack);
      attack = all.get(Math.floorMod(now < 0 && by < 0 ? by : now + by, all.size()));
      fill();
    }
  }

  /** The attack of which most is lost in any version, to begin with. */
  private void chooseFirst() {
    double worst = Double.POSITIVE_INFINITY;
    for (Version v : workspace.comparison().versions()) {
      for (StretchedHits.Hit hit : traces(v).map(StretchedTraces::hits).orElse(List.of())) {
        double kept = hit.kept() / hit.rise();
        if (kept < worst) {
          worst = kept;
          attack = hit.source();
        }
      }
    }
  }

  /** Fills what is seen: attacks are looked for only where they are looked at. */
  void fill() {
    if (getScene() == null) {
      return;
    }
    List<Double> all = attacks();
    if (!all.contains(attack)) {
      attack = Double.NaN;
      chooseFirst();
    }
    plot.choose(attack);
    panels.getChildren().clear();
    var source = workspace.sourceProperty().get();
    if (Double.isNaN(attack) || source == null) {
      title.setText(nothing());
      return;
    }
    title.setText(
        String.format(
            Locale.ROOT,
            "Attack %d of %d at %s",
            all.indexOf(attack) + 1,
            all.size(),
            workspace.clock().text(attack)));
    int index = 0;
    for (Version v : workspace.comparison().versions()) {
      int sign = index++;
      Prepared prepared = workspace.state(v.id()).prepared();
      Optional<StretchedHits.Hit> hit =
          traces(v).stream()
              .flatMap(t -> t.hits().stream())
              .filter(h -> h.source() == attack)
              .findFirst();
      if (prepared != null) {
        panels.getChildren().add(panel(v, sign, prepared, hit));
      }
    }
  }

  private Node panel(
      Version version, int index, Prepared prepared, Optional<StretchedHits.Hit> hit) {
    double place = prepared.map().at(attack);
    AttackPanel panel =
        new AttackPanel(
            workspace.sourceProperty().get().audio(),
            attack,
            prepared.matched(),
            place,
            VersionSign.color(index));
    panel.setPrefWidth(PANEL_WIDTH);
    panel.setId("attack-of-" + version.id());
    panel.setOnMouseClicked(
        e ->
            workspace
                .listening()
                .playSpot(version.id(), new TimeSpan(Math.max(0, attack - 0.25), attack + 0.35)));
    Label name = VersionName.small(workspace, version.label());
    name.setMaxWidth(120);
    Label words = Texts.of(hit.map(h -> words(h, place)).orElse("not compared"), "quiet", "small");
    words.setId("attack-words-" + version.id());
    HBox head = new HBox(6, VersionSign.of(index, 16), name, words);
    head.setAlignment(Pos.CENTER_LEFT);
    return new VBox(3, head, panel);
  }

  private static String words(StretchedHits.Hit hit, double place) {
    double ms = 1000 * (hit.version() - place);
    String kept =
        hit.lost() ? "lost" : Numbers.fixed(100 * hit.kept() / hit.rise(), 0) + " % of its rise";
    return Math.abs(ms) < 1 ? kept : kept + ", " + Numbers.signed(ms, 0) + " ms";
  }
}
