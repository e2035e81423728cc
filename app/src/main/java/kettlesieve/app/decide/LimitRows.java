package kettlesieve.app.decide;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.report.LimitWords;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import org.kordamp.ikonli.feather.Feather;

/** The hard limits of a profile of one's own: a row each, put together from menus. */
final class LimitRows extends VBox {
  private final Workspace workspace;
  private final Consumer<List<Requirement>> changed;

  /**
   * @param changed told all limits after each change
   */
  LimitRows(Workspace workspace, Consumer<List<Requirement>> changed) {
    super(4);
    this.workspace = workspace;
    this.changed = changed;
    setId("limit-rows");
  }

  void show(List<Requirement> limits) {
    Node owner = getScene() == null ? null : getScene().getFocusOwner();
    String focused = owner == null || !within(owner) ? null : owner.getId();
    getChildren().setAll(Texts.of("Limits of the delivery", "column-head"));
    for (int i = 0; i < limits.size(); i++) {
      getChildren().add(row(limits, i));
    }
    Button add = new Button("Add a limit", Icons.of(Feather.PLUS));
    add.setId("limit-add");
    add.getStyleClass().add("tool-toggle");
    add.setOnAction(
        e -> {
          List<Requirement> more = new ArrayList<>(limits);
          more.add(first());
          changed.accept(more);
        });
    getChildren().add(add);
    if (focused != null && lookup("#" + focused) != null) {
      // The rows are made anew; whoever goes through them by keys stays where they were.
      lookup("#" + focused).requestFocus();
    }
  }

  private boolean within(Node node) {
    Node n = node;
    while (n != null && n != this) {
      n = n.getParent();
    }
    return n == this;
  }

  /** A limit to begin with: the first reading of the sheet, at what the leader has. */
  private Requirement first() {
    Declaration d = declarations().get(0);
    double value = reading(d.id()).map(Reading::value).filter(Double::isFinite).orElse(0.0);
    return new Requirement(d.id(), "", "<=", Math.rint(value));
  }

  private List<Declaration> declarations() {
    return Measures.of(workspace.comparison().job()).stream()
        .map(m -> m.declaration())
        .sorted(Comparator.comparing(Declaration::title))
        .toList();
  }

  /** The reading of the first version that has it: it tells details and units. */
  private Optional<Reading> reading(String id) {
    ScoreSheet sheet = workspace.sheetProperty().get();
    return sheet == null
        ? Optional.empty()
        : sheet.entries().stream()
            .map((Entry e) -> e.reading(id))
            .flatMap(Optional::stream)
            .findFirst();
  }

  private Node row(List<Requirement> limits, int index) {
    Requirement now = limits.get(index);
    ComboBox<String> what = new ComboBox<>();
    Map<String, String> titles = new LinkedHashMap<>();
    declarations().forEach(d -> titles.put(d.id(), d.title()));
    titles.putIfAbsent(now.reading(), LimitWords.what(now));
    what.getItems().setAll(titles.keySet());
    what.setConverter(Words.of(titles::get));
    what.setValue(now.reading());
    named(what, "limit-reading-" + index, "Reading of the limit", 190);
    what.setOnAction(
        e ->
            replace(
                limits,
                index,
                new Requirement(what.getValue(), "", now.comparison(), now.limit())));

    ComboBox<String> detail = new ComboBox<>();
    detail.getItems().add("");
    reading(now.reading()).ifPresent(r -> r.details().forEach(d -> addDetail(detail, d)));
    if (!detail.getItems().contains(now.detail())) {
      detail.getItems().add(now.detail());
    }
    detail.setConverter(Words.of(d -> d.isEmpty() ? "the reading" : d));
    detail.setValue(now.detail());
    named(detail, "limit-detail-" + index, "Detail of the reading", 120);
    detail.setOnAction(
        e ->
            replace(
                limits,
                index,
                new Requirement(now.reading(), detail.getValue(), now.comparison(), now.limit())));

    ComboBox<String> way = new ComboBox<>();
    way.getItems().setAll("<=", ">=");
    way.setConverter(Words.of(w -> w.equals("<=") ? "at most" : "at least"));
    way.setValue(now.comparison());
    named(way, "limit-way-" + index, "At most or at least", 96);
    way.setOnAction(
        e ->
            replace(
                limits,
                index,
                new Requirement(now.reading(), now.detail(), way.getValue(), now.limit())));

    TextField number = new TextField(text(now.limit()));
    number.setId("limit-value-" + index);
    number.setAccessibleText("Value of the limit");
    number.setPrefColumnCount(6);
    number.setMinWidth(66);
    Fields.whenDone(number, typed -> take(limits, index, typed));
    Label unit = Texts.of(LimitWords.unit(now, reading(now.reading())), "quiet", "small");
    unit.setMinWidth(Region.USE_PREF_SIZE);
    HBox row =
        new HBox(
            4,
            what,
            detail,
            way,
            number,
            unit,
            Icons.button(
                Feather.X,
                "Take away the limit of " + LimitWords.what(now),
                () -> {
                  List<Requirement> fewer = new ArrayList<>(limits);
                  fewer.remove(index);
                  changed.accept(fewer);
                }));
    row.setAlignment(Pos.CENTER_LEFT);
    return row;
  }

  private static void addDetail(ComboBox<String> box, Detail d) {
    if (Double.isFinite(d.value())) {
      box.getItems().add(d.key());
    }
  }

  private static void named(ComboBox<String> box, String id, String name, double width) {
    box.setId(id);
    box.setAccessibleText(name);
    box.setPrefWidth(width);
    box.setMinWidth(width);
  }

  private static String text(double value) {
    return value == Math.rint(value) ? Numbers.fixed(value, 0) : Numbers.plain(value);
  }

  private void take(List<Requirement> limits, int index, String typed) {
    Requirement now = limits.get(index);
    try {
      double value = Double.parseDouble(typed.replace('−', '-').replace(',', '.'));
      replace(limits, index, new Requirement(now.reading(), now.detail(), now.comparison(), value));
    } catch (IllegalArgumentException e) {
      workspace
          .messageProperty()
          .set("The limit of " + LimitWords.what(now) + " was not changed: it is a number.");
      show(limits);
    }
  }

  private void replace(List<Requirement> limits, int index, Requirement one) {
    if (!one.equals(limits.get(index))) {
      List<Requirement> other = new ArrayList<>(limits);
      other.set(index, one);
      changed.accept(other);
    }
  }
}
