package kettlesieve.app.gather;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.rig.CommandTool;

/** Sets up an outside tool: its command with places, range of amounts, time limit, cost. */
final class ToolEditor extends VBox {
  private final Workspace workspace;
  private final Consumer<String> kept;
  private final TextField name = field("tool-name", "what it is called");
  private final TextField command =
      field("tool-command", "program {input} {output} and what else it wants, such as -a {amount}");
  private final TextField settings = field("tool-settings", "place=value, place=value");
  private final TextField range = field("tool-range", "0 – 100");
  private final TextField limit = field("tool-limit", "600");
  private final TextField price = field("tool-price", "");
  private final Label problem = Texts.wrapped("", "warning-text", "small");
  private CommandTool edited;

  ToolEditor(Workspace workspace, Consumer<String> kept) {
    super(6);
    this.workspace = workspace;
    this.kept = kept;
    setVisible(false);
    managedProperty().bind(visibleProperty());
    setStyle("-fx-padding: 8 0 4 0;");
    GridPane grid = new GridPane();
    grid.setHgap(10);
    grid.setVgap(5);
    ColumnConstraints label = new ColumnConstraints(Region.USE_PREF_SIZE);
    ColumnConstraints wide = new ColumnConstraints();
    wide.setHgrow(Priority.ALWAYS);
    label.setMinWidth(90);
    grid.getColumnConstraints().addAll(label, wide, label, new ColumnConstraints(130));
    grid.addRow(0, Texts.of("Name"), name, Texts.of("Amount is"), range);
    grid.addRow(1, Texts.of("Command"), command, Texts.of("Time limit, s"), limit);
    grid.addRow(2, Texts.of("Settings"), settings, Texts.of("Price"), price);
    Button keep = new Button("Keep this tool");
    keep.getStyleClass().add("primary");
    keep.setId("tool-keep");
    keep.setOnAction(e -> keep());
    Button forget = new Button("Forget it");
    forget.setOnAction(
        e -> {
          if (edited != null) {
            workspace.workshop().forget(edited);
            setVisible(false);
          }
        });
    Button export = new Button("Export all …");
    export.setOnAction(e -> export());
    Button bring = new Button("Import …");
    bring.setOnAction(e -> bring());
    HBox buttons = new HBox(8, keep, forget, bring, export, problem);
    buttons.setStyle("-fx-alignment: center-left;");
    getChildren()
        .addAll(
            Texts.wrapped(
                "The command is run as it stands, never through a shell. Places: {input}, {output}"
                    + " (or {folder} for several files), {amount}, {ratio}, {percent}, {tempo},"
                    + " {semitones}, and settings by their names.",
                "quiet",
                "small"),
            grid,
            buttons);
  }

  private static TextField field(String id, String prompt) {
    TextField field = new TextField();
    field.setId(id);
    field.setPromptText(prompt);
    return field;
  }

  /** Opens on a tool, or on an empty form; closes when open. */
  void toggle(CommandTool tool) {
    setVisible(!isVisible());
    edited = tool;
    problem.setText("");
    name.setText(tool == null ? "" : tool.name());
    command.setText(tool == null ? "" : tool.line());
    settings.setText(
        tool == null
            ? ""
            : String.join(
                ", ",
                tool.settings().entrySet().stream()
                    .map(e -> e.getKey() + "=" + e.getValue())
                    .toList()));
    range.setText(tool == null ? "" : number(tool.lowest()) + " – " + number(tool.highest()));
    limit.setText(tool == null ? "" : number(tool.timeLimitSeconds()));
    price.setText(tool == null || tool.price() == null ? "" : tool.price());
  }

  private static String number(double value) {
    return Numbers.fixed(value, value == Math.rint(value) ? 0 : 2).replace('−', '-');
  }

  private void keep() {
    try {
      double[] ends = ends(range.getText());
      CommandTool tool =
          new CommandTool(
              name.getText(),
              workspace.comparison().job(),
              CommandTool.words(command.getText()),
              settings(settings.getText()),
              ends[0],
              ends[1],
              limit.getText().isBlank() ? null : Double.valueOf(limit.getText().trim()),
              price.getText().isBlank() ? null : price.getText().trim(),
              null);
      workspace.workshop().keep(tool);
      setVisible(false);
      kept.accept(tool.name());
    } catch (NumberFormatException e) {
      problem.setText("Range and time limit are numbers, such as 0 – 100 and 600.");
    } catch (IllegalArgumentException e) {
      problem.setText(e.getMessage());
    }
  }

  private static double[] ends(String text) {
    if (text.isBlank()) {
      return new double[] {0, 100};
    }
    String[] parts = text.trim().split("\\s*[–…]\\s*|\\s+-\\s+|(?<=\\d)-");
    if (parts.length != 2) {
      throw new NumberFormatException(text);
    }
    return new double[] {Double.parseDouble(parts[0]), Double.parseDouble(parts[1])};
  }

  private static Map<String, String> settings(String text) {
    Map<String, String> map = new LinkedHashMap<>();
    for (String part : text.isBlank() ? new String[0] : text.split(",")) {
      int equals = part.indexOf('=');
      if (equals < 1) {
        throw new IllegalArgumentException("Settings are written place=value, place=value.");
      }
      map.put(part.substring(0, equals).trim(), part.substring(equals + 1).trim());
    }
    return map;
  }

  private Choosers chooser(String title) {
    return Choosers.of(
        workspace.lastFolder(), title, new FileChooser.ExtensionFilter("JSON", "*.json"));
  }

  private void export() {
    chooser("Export the outside tools")
        .save(getScene().getWindow(), "tools.json", null)
        .ifPresent(workspace.workshop()::exportTo);
  }

  private void bring() {
    chooser("Import outside tools")
        .openSeveral(getScene().getWindow())
        .forEach(f -> workspace.workshop().importFrom(f.toPath()));
  }
}
