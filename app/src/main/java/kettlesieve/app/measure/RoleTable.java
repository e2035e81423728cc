package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.geometry.HPos;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Costs;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.report.BestSetWords;
import kettlesieve.core.score.BestSet;
import kettlesieve.core.score.Costliest;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.odds.OddsWords;

/** All roles: who leads in each, how surely, at what cost; how much each counts; the best set. */
final class RoleTable extends VBox {
  private static final List<Double> WEIGHTS = List.of(0.0, 0.5, 1.0, 2.0, 3.0, 5.0);

  private final Workspace workspace;
  private final ScoreSheet sheet;
  private final String excerpt;
  private final GridPane grid = new GridPane();

  RoleTable(Workspace workspace, ScoreSheet sheet, String excerpt, Consumer<String> chooseRole) {
    this.workspace = workspace;
    this.sheet = sheet;
    this.excerpt = excerpt;
    setSpacing(12);
    grid.setId("role-table");
    grid.setHgap(18);
    grid.setVgap(6);
    String[] heads = {
      "Role", "Leads", "Overall", "Best in", "Not told apart", "Costs it most", "Took", "Counts"
    };
    for (int i = 0; i < heads.length; i++) {
      Label head = Texts.of(heads[i], "column-head");
      head.setMinWidth(USE_PREF_SIZE);
      grid.add(head, i, 0);
    }
    int row = 1;
    List<String> roles =
        Roles.sorted(
            sheet.ranks().keySet().stream()
                .filter(p -> p.excerpt().equals(excerpt) && !p.role().isEmpty())
                .map(Part::role)
                .toList());
    for (boolean composite : new boolean[] {false, true}) {
      for (String role : roles) {
        if (Roles.composite(role) == composite && scored(role)) {
          addRow(role, row++, chooseRole);
        }
      }
    }
    getChildren().add(grid);
    BestSet.of(sheet).ifPresent(set -> getChildren().add(bestSet(set)));
    List<String> others = roles.stream().filter(r -> !scored(r)).toList();
    if (!others.isEmpty()) {
      getChildren().add(notTold(others, chooseRole));
    }
    getChildren()
        .add(
            Texts.wrapped(
                "What counts 0 is left out of the scores over all stems. A sum, or a mix without a"
                    + " role, counts 0 unless you say otherwise: it is made of the others.",
                "quiet",
                "small"));
  }

  private void addRow(String role, int row, Consumer<String> chooseRole) {
    grid.add(name(role, chooseRole), 0, row);
    List<Entry> ranked = sheet.ranked(new Part(role, excerpt));
    Entry first = ranked.get(0);
    grid.add(new EntryLabel(workspace, first, 230), 1, row);
    Label score = Texts.of(Numbers.fixed(first.card().overall().orElseThrow().value(), 0));
    GridPane.setHalignment(score, HPos.RIGHT);
    grid.add(score, 2, row);
    grid.add(chance(first), 3, row);
    grid.add(tied(first), 4, row);
    grid.add(costliest(first), 5, row);
    Label took = Texts.of(Costs.words(first.version().cost()), "quiet", "small");
    took.setMinWidth(USE_PREF_SIZE);
    grid.add(took, 6, row);
    grid.add(weight(role), 7, row);
  }

  private static Button name(String role, Consumer<String> chooseRole) {
    Button name = new Button(Sentences.begun(role));
    name.setMnemonicParsing(false);
    name.getStyleClass().setAll("button", "spot-button");
    name.setId("lead-" + role.replace(' ', '-'));
    Hint.set(name, "Every tool's stem " + role + " side by side");
    name.setMaxWidth(220);
    name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
    name.setOnAction(e -> chooseRole.accept(role));
    return name;
  }

  private boolean scored(String role) {
    return sheet.entries(new Part(role, excerpt)).stream().anyMatch(Entry::scored);
  }

  /** The roles that cannot be judged, each reason once. */
  private Node notTold(List<String> roles, Consumer<String> chooseRole) {
    Map<String, List<String>> byReason = new LinkedHashMap<>();
    for (String role : roles) {
      Entry entry = sheet.ranked(new Part(role, excerpt)).get(0);
      String reason = entry.reasonNotMeasured("bleed").orElse("it has no score");
      byReason.computeIfAbsent(reason, r -> new ArrayList<>()).add(role);
    }
    VBox box = new VBox(4, Texts.of("Not judged", "section"));
    box.setId("roles-not-judged");
    byReason.forEach(
        (reason, of) -> {
          HBox line = new HBox(2);
          line.setAlignment(Pos.CENTER_LEFT);
          of.forEach(role -> line.getChildren().add(name(role, chooseRole)));
          Label why = Texts.wrapped(Sentences.begun(reason) + ".", "quiet", "small");
          why.setPadding(new Insets(0, 0, 0, 7));
          box.getChildren().addAll(line, why);
        });
    return box;
  }

  /** How often it would truly be the best stem of its role. */
  private Node chance(Entry entry) {
    Label label =
        Texts.of(
            SheetOdds.of(sheet, entry.part())
                .of(entry.version().id())
                .map(o -> OddsWords.ofTen(o.best()))
                .orElse("–"));
    label.setMinWidth(USE_PREF_SIZE);
    label.setId("best-in-" + entry.part().role().replace(' ', '-'));
    Hint.set(label, "The chance that it is truly the best stem of its role");
    return label;
  }

  private static Node tied(Entry entry) {
    String text = String.join(", ", entry.tiedWith());
    Label label = Texts.of(text.isEmpty() ? "–" : Texts.shortened(text, 34), "quiet", "small");
    if (!text.isEmpty()) {
      Hint.set(label, text);
    }
    return label;
  }

  private Node costliest(Entry entry) {
    Optional<Reading> worst = Costliest.of(entry, sheet.profile());
    return Texts.of(
        worst
            .map(
                r -> {
                  var d = Measures.declaration(r.measure());
                  return d.title() + " " + Numbers.reading(r) + " " + d.unit();
                })
            .orElse("–"),
        "small");
  }

  private Node weight(String role) {
    double now =
        workspace.comparison().roleWeights().getOrDefault(role, Roles.composite(role) ? 0.0 : 1.0);
    ComboBox<Double> box = new ComboBox<>();
    box.getItems().setAll(WEIGHTS);
    if (!WEIGHTS.contains(now)) {
      box.getItems().add(now);
    }
    box.setConverter(Words.of(w -> Numbers.fixed(w, w == Math.rint(w) ? 0 : 1) + " ×"));
    box.setValue(now);
    box.setId("weight-" + role.replace(' ', '-'));
    box.setAccessibleText("How much " + role + " counts");
    box.setOnAction(e -> workspace.edit(c -> c.withRoleWeight(role, box.getValue())));
    return box;
  }

  private static Node bestSet(BestSet set) {
    Label head = Texts.of("The best set", "section");
    Label of =
        Texts.wrapped(
            set.roles().stream()
                .map(r -> r + " from " + set.leaders().get(r).label())
                .collect(Collectors.joining(", ")));
    of.setId("best-set-of");
    Label words = Texts.wrapped(BestSetWords.of(set));
    words.setId("best-set-words");
    VBox box = new VBox(3, head, of, words);
    box.setPadding(new Insets(6, 0, 0, 0));
    return box;
  }
}
