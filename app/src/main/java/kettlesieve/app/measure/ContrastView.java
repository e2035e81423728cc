package kettlesieve.app.measure;

import java.util.List;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.Contrast;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.OddsWords;
import org.kordamp.ikonli.feather.Feather;

/** Two versions set against each other: on which question, in which reading and where. */
final class ContrastView extends VBox {
  private static final int MOST_ROWS = 10;

  private final Workspace workspace;
  private final ComboBox<Entry> first = choice("contrast-first");
  private final ComboBox<Entry> second = choice("contrast-second");
  private final VBox body = new VBox(10);
  private ScoreSheet sheet;
  private boolean filling;
  private boolean chosen;

  ContrastView(Workspace workspace) {
    this.workspace = workspace;
    setSpacing(8);
    setPadding(new Insets(0, 14, 0, 14));
    HBox head = new HBox(10, first, Texts.of("against"), second);
    head.setAlignment(Pos.CENTER_LEFT);
    ScrollPane scroll = new ScrollPane(body);
    scroll.setFitToWidth(true);
    setVgrow(scroll, Priority.ALWAYS);
    getChildren().addAll(head, scroll);
  }

  private ComboBox<Entry> choice(String id) {
    ComboBox<Entry> box = new ComboBox<>();
    box.setId(id);
    box.setAccessibleText(
        id.endsWith("first") ? "The version that is compared" : "With which it is compared");
    box.setPrefWidth(260);
    box.setConverter(
        new StringConverter<>() {
          @Override
          public String toString(Entry entry) {
            return entry == null ? "" : entry.version().label();
          }

          @Override
          public Entry fromString(String text) {
            return null;
          }
        });
    box.setOnAction(
        e -> {
          if (!filling) {
            chosen = true;
            fill();
          }
        });
    return box;
  }

  void show(ScoreSheet shown, Part part) {
    sheet = shown;
    filling = true;
    List<Entry> entries = shown == null ? List.of() : shown.ranked(part);
    chosen &= known(entries, first) && known(entries, second);
    if (!chosen) {
      // Until somebody chooses, the first two are shown, also while more are being measured.
      first.setValue(null);
      second.setValue(null);
    }
    keep(first, entries, null);
    keep(second, entries, first.getValue());
    filling = false;
    fill();
  }

  private static boolean known(List<Entry> entries, ComboBox<Entry> box) {
    return box.getValue() != null
        && entries.stream().anyMatch(e -> e.version().id().equals(box.getValue().version().id()));
  }

  /** Keeps the choice, or takes the best version that the other box does not show. */
  private static void keep(ComboBox<Entry> box, List<Entry> entries, Entry other) {
    String id = box.getValue() == null ? null : box.getValue().version().id();
    box.getItems().setAll(entries);
    box.setValue(
        entries.stream()
            .filter(e -> e.version().id().equals(id) && e != other)
            .findFirst()
            .orElse(entries.stream().filter(e -> e != other).findFirst().orElse(null)));
  }

  private void fill() {
    body.getChildren().clear();
    Entry a = first.getValue();
    Entry b = second.getValue();
    if (sheet == null || a == null || b == null || a == b) {
      body.getChildren().add(Texts.of("Choose two different versions.", "quiet"));
      return;
    }
    Contrast contrast = Contrast.of(sheet, a, b);
    Label verdict = Texts.wrapped(sentence(contrast, a, b), "strong");
    verdict.setId("contrast-verdict");
    body.getChildren().add(verdict);
    odds(a, b)
        .ifPresent(
            words -> {
              Label label = Texts.wrapped(words);
              label.setId("contrast-odds");
              Hint.set(
                  label,
                  "The difference in score, against what this recording leaves open\n"
                      + "and by how much such scores missed the truth in trials");
              body.getChildren().add(label);
            });
    HBox axes = new HBox(26);
    for (Contrast.AxisDifference d : contrast.axes()) {
      axes.getChildren()
          .add(
              new VBox(
                  1,
                  Texts.of(d.axis().title(), d.axis().id() + "-text", "strong"),
                  Texts.of(points(d.points(), d.low(), d.high()), d.sure() ? "strong" : "quiet")));
    }
    body.getChildren().add(axes);
    body.getChildren().add(table(contrast, a, b));
  }

  /** As a whole, which of the two is better and how surely. */
  private Optional<String> odds(Entry a, Entry b) {
    SheetOdds odds = SheetOdds.of(sheet, a.part());
    return odds.better(a.version().id(), b.version().id())
        .map(
            chance -> {
              boolean ahead = chance >= 0.5;
              int order =
                  ScoreSheet.compare(
                      a.card().overall().orElseThrow(), b.card().overall().orElseThrow());
              String words = OddsWords.better(Math.max(chance, 1 - chance), order != 0);
              String label = (ahead ? a : b).version().label();
              return words.equals("open")
                  ? "As a whole it is open which of them is truly better: "
                      + label
                      + " in "
                      + OddsWords.ofTen(Math.max(chance, 1 - chance))
                      + "."
                  : "As a whole " + label + " is " + words + " the better one.";
            });
  }

  private static String points(double points, double low, double high) {
    return Numbers.signed(points, 1)
        + " points ("
        + Numbers.signed(low, 1)
        + " to "
        + Numbers.signed(high, 1)
        + ")";
  }

  private static String sentence(Contrast contrast, Entry a, Entry b) {
    if (contrast.axes().isEmpty()) {
      return "The two have no question in common that could be scored.";
    }
    Contrast.AxisDifference most = contrast.axes().get(0);
    if (!most.sure()) {
      return "The two are tied: no difference is larger than its uncertainty.";
    }
    String better = (most.points() > 0 ? a : b).version().label();
    return "They differ most on "
        + most.axis().title()
        + ": "
        + better
        + " is better by "
        + Numbers.fixed(Math.abs(most.points()), 1)
        + " points.";
  }

  private Node table(Contrast contrast, Entry a, Entry b) {
    GridPane grid = new GridPane();
    grid.setHgap(18);
    grid.setVgap(5);
    String[] heads = {
      "Reading", a.version().label(), b.version().label(), "Difference in points", "Where"
    };
    for (int i = 0; i < heads.length; i++) {
      Label head = Texts.of(heads[i], "column-head");
      GridPane.setHalignment(
          head, i == 1 || i == 2 ? javafx.geometry.HPos.RIGHT : javafx.geometry.HPos.LEFT);
      grid.add(head, i, 0);
    }
    int row = 1;
    for (Contrast.Difference d : contrast.readings()) {
      if (row > MOST_ROWS) {
        break;
      }
      Declaration declaration = Measures.declaration(d.measure());
      String unit = declaration.unit().isEmpty() ? "" : " " + declaration.unit();
      grid.add(Texts.of(declaration.title(), declaration.axis(sheet.job()).id() + "-text"), 0, row);
      grid.add(figure(d.first(), declaration, unit), 1, row);
      grid.add(figure(d.second(), declaration, unit), 2, row);
      grid.add(
          Texts.of(
              points(d.points(), d.low(), d.high()) + (d.sure() ? "" : ", tied"),
              d.sure() ? "strong" : "quiet"),
          3,
          row);
      HBox places = new HBox(4);
      List<Spot> worth = d.sure() ? d.places() : List.of();
      for (Spot spot : worth.subList(0, Math.min(3, worth.size()))) {
        places.getChildren().add(place(spot, d, a, b));
      }
      grid.add(places, 4, row);
      row++;
    }
    return grid;
  }

  private static Label figure(double value, Declaration d, String unit) {
    Label label = Texts.of(Numbers.reading(value, d.unit()) + unit);
    GridPane.setHalignment(label, javafx.geometry.HPos.RIGHT);
    return label;
  }

  /** Loops the place, the two versions in turn by their keys. */
  private Button place(Spot spot, Contrast.Difference d, Entry a, Entry b) {
    Button button = new Button(workspace.clock().text(spot.at()), Icons.of(Feather.PLAY_CIRCLE));
    button.getStyleClass().setAll("button", "spot-button");
    String worse = (d.points() > 0 ? b : a).version().id();
    button.setAccessibleText(
        "Play where the two differ most in "
            + d.measure()
            + ", at "
            + workspace.clock().text(spot.at()));
    button.setOnAction(
        e -> {
          workspace.listening().bandProperty().set(null);
          workspace
              .listening()
              .playSpot(worse, new TimeSpan(Math.max(0, spot.from()), Math.max(0.1, spot.to())));
        });
    return button;
  }
}
