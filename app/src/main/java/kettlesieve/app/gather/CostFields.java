package kettlesieve.app.gather;

import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Costs;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.Hint;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Version;

/**
 * What a version cost to make: time, price, offline or real time. Grey figures come from its tool;
 * a menu sets what is typed for all versions of the tool.
 */
final class CostFields extends HBox {
  private final Workspace workspace;
  private final Version version;

  CostFields(Workspace workspace, Version version) {
    super(2);
    this.workspace = workspace;
    this.version = version;
    setStyle("-fx-alignment: center-left;");
    Cost own = version.cost();
    Cost all = workspace.comparison().costOf(version);
    TextField time =
        field(
            "time",
            "Processing time in seconds",
            own.seconds() == null ? "" : seconds(own.seconds()),
            all.seconds() == null ? "s" : seconds(all.seconds()),
            62);
    Fields.whenDone(time, this::takeTime);
    if (!all.none()) {
      var source = workspace.sourceProperty().get();
      double length = source == null ? 0 : source.audio().seconds();
      Hint.set(time, "Processing time in seconds: " + Costs.words(all, length));
    }
    TextField price =
        field(
            "price",
            "Price",
            own.price() == null ? "" : own.price(),
            all.price() == null ? "price" : all.price(),
            72);
    Fields.whenDone(price, text -> set(own().withPrice(text)));
    getChildren().addAll(time, price, mode(all));
  }

  private static String seconds(double value) {
    return Numbers.fixed(value, value < 10 ? 1 : 0);
  }

  private TextField field(String id, String name, String text, String prompt, double width) {
    TextField field = new TextField(text);
    field.getStyleClass().add("plain-field");
    field.setId("cost-" + id + "-" + version.id());
    field.setAccessibleText(name);
    Hint.set(field, name);
    field.setPromptText(prompt);
    field.setPrefWidth(width);
    field.setMinWidth(width * 0.8);
    return field;
  }

  private MenuButton mode(Cost cost) {
    MenuButton menu =
        new MenuButton(cost.realTime() == null ? "–" : cost.realTime() ? "real time" : "offline");
    menu.getStyleClass().addAll("how-menu", "small");
    menu.setId("cost-mode-" + version.id());
    menu.setAccessibleText("Offline or real time");
    Hint.set(menu, "Offline or real time");
    menu.setMinWidth(92);
    menu.setPrefWidth(92);
    menu.getItems()
        .addAll(
            choice("real time", true, cost),
            choice("offline", false, cost),
            choice("not known", null, cost));
    if (!version.tool().isEmpty()) {
      MenuItem forTool = new MenuItem("Price and mode for all of " + version.tool());
      forTool.setOnAction(
          e -> {
            Cost now = own();
            workspace.edit(
                c -> c.withCost(version.tool(), new Cost(null, null, now.price(), now.realTime())));
          });
      menu.getItems().add(forTool);
    }
    return menu;
  }

  private RadioMenuItem choice(String words, Boolean value, Cost cost) {
    RadioMenuItem item = new RadioMenuItem(words);
    item.setSelected(java.util.Objects.equals(cost.realTime(), value));
    item.setOnAction(e -> set(own().withRealTime(value)));
    return item;
  }

  private Cost own() {
    return workspace.comparison().version(version.id()).map(Version::cost).orElse(Cost.NONE);
  }

  private void takeTime(String text) {
    if (text.isEmpty()) {
      set(own().withSeconds(null));
      return;
    }
    try {
      set(own().withSeconds(Double.valueOf(text.replace(',', '.').replace("s", "").trim())));
    } catch (IllegalArgumentException e) {
      workspace.messageProperty().set("A time is a number of seconds, not \"" + text + "\".");
    }
  }

  private void set(Cost cost) {
    workspace.edit(
        c -> c.version(version.id()).map(v -> c.withVersion(v.withCost(cost))).orElse(c));
  }
}
