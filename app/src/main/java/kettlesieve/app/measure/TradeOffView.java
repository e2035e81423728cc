package kettlesieve.app.measure;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.ShortLabels;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.report.SweepWords;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.TradeOff;

/** The trade-off plot, with what it says in words beside it. */
final class TradeOffView extends BorderPane {
  private static final int MOST_LABEL = 34;

  private final Workspace workspace;
  private final TradeOffPlot plot;
  private final VBox words = new VBox(7);
  private final ComboBox<SignSize> sized = new ComboBox<>();
  private ScoreSheet sheet;
  private Part part = Part.ALL;
  private TradeOff shownTradeOff;

  TradeOffView(Workspace workspace) {
    this.workspace = workspace;
    this.plot = new TradeOffPlot(workspace);
    setPadding(new Insets(0, 14, 0, 14));
    sized.setId("trade-off-cost");
    sized.setAccessibleText("What the size of the signs shows");
    sized.setConverter(Words.of(SignSize::words));
    sized.getItems().setAll(SignSize.ALIKE);
    sized.setValue(SignSize.ALIKE);
    sized.setOnAction(e -> plotAgain());
    words.setPadding(new Insets(2, 4, 2, 12));
    ScrollPane scroll = new ScrollPane(words);
    scroll.setFitToWidth(true);
    scroll.setPrefWidth(330);
    setCenter(plot);
    setRight(scroll);
  }

  void show(ScoreSheet shown, Part shownPart) {
    sheet = shown;
    part = shownPart;
    words.getChildren().clear();
    if (shown == null) {
      return;
    }
    TradeOff tradeOff = TradeOff.of(shown, part, workspace.comparison());
    List<SignSize> known = SignSize.known(tradeOff);
    boolean costs = known.size() > 1;
    if (!sized.getItems().equals(known)) {
      SignSize before = sized.getValue();
      sized.getItems().setAll(known);
      sized.setValue(known.contains(before) ? before : SignSize.ALIKE);
    }
    sized.setDisable(!costs);
    shownTradeOff = tradeOff;
    plotAgain();
    words.getChildren().add(Texts.of("Under the profile " + shown.profile().title(), "section"));
    for (Map.Entry<String, TradeOff.Sweep> e : tradeOff.sweeps().entrySet()) {
      TradeOff.Sweep sweep = e.getValue();
      if (sweep.odds().isPresent()) {
        words.getChildren().addAll(odds(e.getKey(), sweep, tradeOff));
      } else {
        sweep.best().ifPresent(best -> words.getChildren().add(sweep(e.getKey(), best)));
      }
    }
    tradeOff.targets().forEach((name, found) -> words.getChildren().add(targets(name, found)));
    if (tradeOff.sweeps().isEmpty() && tradeOff.targets().isEmpty()) {
      words
          .getChildren()
          .add(
              Texts.wrapped(
                  "No tool is here at several amounts. With a sweep, its best amount is shown.",
                  "quiet"));
    }
    List<String> labels = tradeOff.points().stream().map(TradeOff.Point::label).toList();
    List<String> names = ShortLabels.of(labels, MOST_LABEL);
    String unbeaten =
        tradeOff.points().stream()
            .filter(TradeOff.Point::unbeaten)
            .map(p -> names.get(labels.indexOf(p.label())))
            .collect(Collectors.joining(", "));
    if (!unbeaten.isEmpty()) {
      Label label =
          Texts.wrapped("Ringed, because no other version beats them in both: " + unbeaten);
      label.setId("unbeaten");
      words.getChildren().add(label);
    }
    words
        .getChildren()
        .add(
            Texts.wrapped(
                "Up and to the right is better. Bars are 95 % intervals; lines join the amounts of"
                    + " one tool. Click a sign to choose its version.",
                "quiet", "small"));
    words.getChildren().add(sized);
    if (!costs) {
      words
          .getChildren()
          .add(
              Texts.wrapped(
                  "The signs can show what each took, once a time is noted under Gather.",
                  "quiet",
                  "small"));
    }
  }

  private void plotAgain() {
    if (shownTradeOff != null && sized.getValue() != null) {
      plot.show(shownTradeOff, sized.getValue());
    }
  }

  /** A sweep over length or interval: the score at each, and where the tool falls apart. */
  private static Label targets(String name, TradeOff.TargetSweep sweep) {
    StringBuilder text = new StringBuilder(name).append(": ");
    for (int i = 0; i < sweep.targets().size(); i++) {
      text.append(i == 0 ? "" : ", ")
          .append(target(sweep, sweep.targets().get(i)))
          .append(" → ")
          .append(Numbers.fixed(sweep.overall().get(i), 0));
    }
    List<Double> apart = sweep.fallsApartAt();
    text.append(
        apart.isEmpty()
            ? ". It stays above " + Numbers.fixed(TradeOff.APART, 0) + " throughout."
            : ". It falls apart at "
                + String.join(" and ", apart.stream().map(a -> target(sweep, a)).toList())
                + ".");
    Label label = Texts.wrapped(text.toString());
    label.setId("targets-" + id(name));
    return label;
  }

  private static String target(TradeOff.TargetSweep sweep, double target) {
    return sweep.neutral() == 0
        ? Numbers.signed(target, target == Math.rint(target) ? 0 : 1) + " st"
        : "×" + Numbers.fixed(target, 2);
  }

  private static String id(String name) {
    return name.replaceAll("[^A-Za-z0-9]+", "-").toLowerCase(java.util.Locale.ROOT);
  }

  /** A sweep with a plateau: what is as good, and the plot that says so. */
  private static List<Node> odds(String name, TradeOff.Sweep sweep, TradeOff tradeOff) {
    Label label =
        Texts.wrapped(name + ": " + SweepWords.plateau(sweep.odds().orElseThrow()), "strong");
    label.setId("best-" + id(name));
    Hint.set(
        label,
        "Among the shaded amounts one was as good as the best in every trial,\n"
            + "and the best itself in 8 of 10.\n"
            + "Bars: how often each leads when the recording is resampled.");
    List<Estimate> scores =
        sweep.ids().stream()
            .map(
                id ->
                    tradeOff.points().stream()
                        .filter(p -> p.id().equals(id))
                        .findFirst()
                        .orElseThrow()
                        .overall())
            .toList();
    SweepPlot plot = new SweepPlot(sweep.odds().get(), scores);
    plot.setId("sweep-" + id(name));
    return List.of(label, plot);
  }

  private static Label sweep(String name, TradeOff.BestAmount best) {
    boolean sure = best.high() - best.low() < 1e-9;
    Label label =
        Texts.wrapped(
            name
                + ": best at "
                + SweepWords.amount(best.amount())
                + (sure
                    ? " in every resampling"
                    : " (95 %: "
                        + SweepWords.amount(best.low())
                        + " to "
                        + SweepWords.amount(best.high())
                        + ")")
                + ", about "
                + Numbers.fixed(best.score(), 0)
                + " points",
            "strong");
    label.setId("best-" + id(name));
    return label;
  }
}
