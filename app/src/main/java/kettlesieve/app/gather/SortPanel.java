package kettlesieve.app.gather;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.FileNames.Kind;
import kettlesieve.core.comparison.FileNames.Proposal;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.report.SweepWords;
import org.kordamp.ikonli.feather.Feather;

/** What the names of new files tell, shown for correction before they are taken. */
final class SortPanel extends VBox {
  private final List<Proposal> proposals;
  private final boolean stems;
  private final Label problem = Texts.of("", "warning-text", "small");

  /**
   * @param taken given the corrected list
   * @param left called when nothing is to be taken
   */
  SortPanel(List<Proposal> list, Job job, Consumer<List<Proposal>> taken, Runnable left) {
    this.proposals = new ArrayList<>(list);
    this.stems = job.inStems();
    getStyleClass().add("card");
    setId("sort-panel");
    GridPane grid = new GridPane();
    grid.setHgap(8);
    grid.setVgap(3);
    double[] widths = {250, 140, 190, 150, 70, 170};
    for (int i = 0; i < (stems ? 6 : 5); i++) {
      ColumnConstraints column = new ColumnConstraints(widths[i] * 0.7, widths[i], 500);
      column.setHgrow(i == 0 ? Priority.ALWAYS : Priority.SOMETIMES);
      grid.getColumnConstraints().add(column);
    }
    String[] heads = {"File", "Taken for", "Tool", "Setting", "Amount", "Role"};
    for (int i = 0; i < (stems ? 6 : 5); i++) {
      grid.add(Texts.of(heads[i], "column-head"), i, 0);
    }
    for (int i = 0; i < proposals.size(); i++) {
      addRow(grid, i);
    }
    ScrollPane scroll = new ScrollPane(grid);
    scroll.setFitToWidth(true);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    Button take = new Button("Take " + proposals.size() + " files", Icons.of(Feather.CHECK));
    take.getStyleClass().add("primary");
    take.setId("sort-take");
    take.setOnAction(e -> taken.accept(List.copyOf(proposals)));
    Button leave = new Button("Take none");
    leave.setId("sort-leave");
    leave.setOnAction(e -> left.run());
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    // Above the list: however long it is, the way on is in sight.
    HBox head =
        new HBox(
            8, Texts.of("Are these what their names say?", "section"), gap, problem, leave, take);
    head.setAlignment(Pos.CENTER_LEFT);
    getChildren()
        .addAll(
            head,
            Texts.wrapped(
                "Correct what is wrong; nothing is in the comparison yet."
                    + (stems ? " Stems of one tool, setting and amount go together." : ""),
                "quiet"),
            scroll);
  }

  private void addRow(GridPane grid, int index) {
    Proposal p = proposals.get(index);
    Label file = Texts.of(p.file().getFileName().toString(), "small");
    Hint.set(file, p.file().toString());
    grid.add(file, 0, index + 1);
    ComboBox<Kind> kind = new ComboBox<>();
    kind.getItems().setAll(Kind.values());
    if (!stems) {
      kind.getItems().remove(Kind.TRUE_STEM);
    }
    kind.setConverter(Words.of(Kind::title));
    kind.setValue(p.kind());
    kind.setMaxWidth(Double.MAX_VALUE);
    kind.setId("sort-kind-" + index);
    kind.setAccessibleText("What this file is");
    grid.add(kind, 1, index + 1);
    TextField tool = field(index, "tool", p.tool(), text -> x -> x.withTool(text));
    TextField setting = field(index, "setting", p.setting(), text -> x -> x.withSetting(text));
    String amountText = p.amount() == null ? "" : SweepWords.amount(p.amount());
    TextField amount = field(index, "amount", amountText, this::amount);
    grid.add(tool, 2, index + 1);
    grid.add(setting, 3, index + 1);
    grid.add(amount, 4, index + 1);
    List<Node> ofVersion = List.of(tool, setting, amount);
    List<Node> withRole = new ArrayList<>();
    if (stems) {
      ComboBox<String> role = new ComboBox<>();
      role.getItems().setAll(Roles.USUAL);
      role.setEditable(true);
      role.setValue(p.role() == null ? "other" : p.role());
      role.setMaxWidth(Double.MAX_VALUE);
      role.setId("sort-role-" + index);
      role.setAccessibleText("Role");
      proposals.set(index, p.withRole(role.getValue()));
      role.valueProperty().addListener((o, was, is) -> change(index, x -> x.withRole(is)));
      grid.add(role, 5, index + 1);
      withRole.add(role);
    }
    Runnable enable = () -> ofVersion.forEach(n -> n.setDisable(kind.getValue() != Kind.VERSION));
    enable.run();
    kind.setOnAction(
        e -> {
          change(index, x -> x.withKind(kind.getValue()));
          enable.run();
        });
  }

  private interface Reading {
    UnaryOperator<Proposal> of(String text);
  }

  private TextField field(int index, String name, String text, Reading reading) {
    TextField field = new TextField(text);
    field.setPromptText("–");
    field.setId("sort-" + name + "-" + index);
    field.setAccessibleText(name);
    field.textProperty().addListener((o, was, is) -> change(index, reading.of(is.trim())));
    return field;
  }

  private UnaryOperator<Proposal> amount(String text) {
    problem.setText("");
    if (text.isEmpty()) {
      return p -> p.withAmount(null);
    }
    try {
      double value = Double.parseDouble(text.replace(',', '.').replace("%", "").trim());
      if (value >= 0 && value <= 100) {
        return p -> p.withAmount(value);
      }
    } catch (NumberFormatException e) {
      // Said below.
    }
    problem.setText("An amount is a number from 0 to 100, not \"" + text + "\".");
    return p -> p;
  }

  private void change(int index, UnaryOperator<Proposal> change) {
    proposals.set(index, change.apply(proposals.get(index)));
  }
}
