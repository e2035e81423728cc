package kettlesieve.app.measure;

import java.util.List;
import javafx.geometry.Side;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.KeyEvent;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.model.sheet.SheetModel;
import kettlesieve.core.comparison.Decision;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Address;

/** The keys of the sheet: through its readings, to a spot, to a verdict. */
final class SheetKeys {
  private static final int MANY = 100_000;

  private final Workspace workspace;
  private final SheetTable table;

  SheetKeys(Workspace workspace, SheetTable table) {
    this.workspace = workspace;
    this.table = table;
  }

  /** Does what a key asks for; false if it asks for nothing here. */
  boolean takes(KeyEvent key) {
    if (table.model() == null || table.model().rows().isEmpty()) {
      return false;
    }
    boolean far = key.isShortcutDown();
    switch (key.getCode()) {
      case LEFT -> go(0, -1);
      case RIGHT -> go(0, 1);
      case UP -> go(-1, 0);
      case DOWN -> go(1, 0);
      case PAGE_UP -> go(-table.page(), 0);
      case PAGE_DOWN -> go(table.page(), 0);
      case HOME -> go(far ? -MANY : 0, far ? 0 : -MANY);
      case END -> go(far ? MANY : 0, far ? 0 : MANY);
      case ENTER -> table.open();
      case Q -> verdict();
      default -> {
        return false;
      }
    }
    return true;
  }

  /** Selects the reading so many rows and columns on, as far as there are any. */
  void go(int rows, int across) {
    SheetModel model = table.model();
    if (model == null || model.rows().isEmpty()) {
      return;
    }
    List<SheetModel.Column> readings =
        model.columns().stream().filter(c -> c.measure() != null).toList();
    if (readings.isEmpty()) {
      return;
    }
    int[] now = place(model, readings);
    int row = Math.max(0, Math.min(model.rows().size() - 1, now[0] + rows));
    int column = Math.max(0, Math.min(readings.size() - 1, now[1] + across));
    SheetModel.Row chosen = model.rows().get(row);
    SheetModel.Column reading = readings.get(column);
    table.reveal(row, model.columns().indexOf(reading));
    workspace.selection().reading(SheetModel.address(chosen, reading));
    table.setAccessibleText(
        "Sheet: " + chosen.entry().version().label() + ", " + model.cell(chosen, reading).spoken());
  }

  /** Row and column of what is selected; the first of each if nothing is. */
  private int[] place(SheetModel model, List<SheetModel.Column> readings) {
    Address now = workspace.selection().addressProperty().get();
    for (int r = 0; now != null && r < model.rows().size(); r++) {
      for (int c = 0; c < readings.size(); c++) {
        if (SheetModel.address(model.rows().get(r), readings.get(c)).equals(now)) {
          return new int[] {r, c};
        }
      }
    }
    return new int[2];
  }

  /** What is decided of the selected version, to be chosen by keys. */
  private void verdict() {
    String id = workspace.selection().versionProperty().get();
    Version version = id == null ? null : workspace.comparison().version(id).orElse(null);
    if (version == null) {
      return;
    }
    ContextMenu menu = new ContextMenu();
    menu.setId("verdict-menu");
    ToggleGroup group = new ToggleGroup();
    menu.getItems().add(verdict(group, id, null, "Open", version.decision()));
    for (Decision d : Decision.values()) {
      menu.getItems().add(verdict(group, id, d, d.title(), version.decision()));
    }
    menu.show(table, Side.TOP, 40, 40);
  }

  private RadioMenuItem verdict(
      ToggleGroup group, String id, Decision decision, String words, Decision now) {
    RadioMenuItem item = new RadioMenuItem(words);
    item.setToggleGroup(group);
    item.setSelected(decision == now);
    item.setOnAction(
        e ->
            workspace.edit(
                c -> c.version(id).map(v -> c.withVersion(v.withDecision(decision))).orElse(c)));
    return item;
  }
}
