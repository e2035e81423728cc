package kettlesieve.app.frame;

import java.util.EnumMap;
import java.util.Map;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import org.kordamp.ikonli.feather.Feather;

/** The steps of the work; any of them at any time. */
final class StepRail extends VBox {
  private static final Map<Step, Feather> SIGNS =
      new EnumMap<>(
          Map.of(
              Step.GATHER, Feather.INBOX,
              Step.MATCH, Feather.CROSSHAIR,
              Step.LISTEN, Feather.HEADPHONES,
              Step.MEASURE, Feather.GRID,
              Step.DECIDE, Feather.AWARD));

  StepRail(Workspace workspace) {
    getStyleClass().add("rail");
    ToggleGroup group = new ToggleGroup();
    Map<Step, ToggleButton> buttons = new EnumMap<>(Step.class);
    for (Step step : Step.values()) {
      ToggleButton button = new ToggleButton(step.title(), Icons.of(SIGNS.get(step)));
      button.getStyleClass().setAll("toggle-button", "rail-step");
      button.setToggleGroup(group);
      button.setId("step-" + step.name().toLowerCase(java.util.Locale.ROOT));
      Hint.set(button, step.purpose() + " (Ctrl+" + (step.ordinal() + 1) + ")");
      button.setAccessibleText(step.title() + ": " + step.purpose());
      button.setOnAction(
          e -> {
            button.setSelected(true);
            workspace.stepProperty().set(step);
          });
      buttons.put(step, button);
      getChildren().add(button);
    }
    workspace.stepProperty().addListener((o, was, is) -> buttons.get(is).setSelected(true));
    buttons.get(workspace.stepProperty().get()).setSelected(true);
    // A small dot: there is something to look at in Match.
    javafx.beans.value.ChangeListener<Object> dots =
        (o, was, is) -> {
          boolean look =
              workspace.sheetProperty().get() != null
                  && !workspace.sheetProperty().get().allNotices().isEmpty();
          mark(buttons.get(Step.MATCH), Step.MATCH, look);
        };
    workspace.sheetProperty().addListener(dots);
  }

  private static void mark(ToggleButton button, Step step, boolean look) {
    button.setText(look ? step.title() + " •" : step.title());
  }
}
