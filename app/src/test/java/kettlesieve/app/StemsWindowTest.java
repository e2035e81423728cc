package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Step;
import kettlesieve.core.measure.Part;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.Demo;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** Stems in the real window: grid of bleed, roles side by side, sums, parts in the bar. */
class StemsWindowTest extends WindowFixture {
  @BeforeAll
  static void makeDemos() throws Exception {
    for (Demo demo : Demo.ALL.subList(3, 4)) {
      demo.make(demo(), Progress.SILENT);
    }
  }

  @Start
  void start(Stage stage) {
    show(stage);
  }

  @Test
  void whoIsInWhomIsShownExplainedAndPlayed(FxRobot robot) throws Exception {
    open(robot, "boathouse-waltz");
    goTo(robot, Step.MEASURE);
    ComboBox<String> stem = robot.lookup("#measure-role").queryComboBox();
    assertThat(stem.getItems()).contains("All stems together", "vocals", "drums");
    robot.interact(() -> stem.setValue("vocals"));
    // Two of the four tools give the voice.
    assertThat(robot.lookup("#cell-v3-bleed").tryQuery()).isPresent();
    assertThat(robot.lookup("#cell-v1-bleed").tryQuery()).isEmpty();
    robot.clickOn("#face-bleed");
    Button cell = find(robot, "#bleed-v3-vocals-bass", Button.class);
    assertThat(cell.getText()).startsWith("−");
    // By the true stems the bass is heard most in what was taken from the middle.
    for (String softer : new String[] {"drums", "concertina"}) {
      Button other = find(robot, "#bleed-v3-vocals-" + softer, Button.class);
      assertThat(decibels(other)).as(softer).isLessThan(decibels(cell) - 3);
    }
    robot.clickOn(cell);
    assertThat(workspace.selection().addressProperty().get().against()).isEqualTo("bass");
    assertThat(text(robot, "stem vocals, from bass")).isTrue();
    robot.clickOn("#bleed #spot-0");
    await(() -> workspace.listening().playing());
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("vocals");
    robot.interact(() -> workspace.listening().stop());
  }

  private static double decibels(Button cell) {
    return Double.parseDouble(cell.getText().replace('−', '-'));
  }

  @Test
  void rolesAreSetSideBySideWeightedAndHeard(FxRobot robot) throws Exception {
    open(robot, "boathouse-waltz");
    goTo(robot, Step.MEASURE);
    robot.clickOn("#face-roles");
    assertThat(robot.lookup("#lead-vocals").tryQuery()).isPresent();
    // Bass and concertina are in no tool's stems, tonal and noise in one tool's alone.
    assertThat(robot.lookup("#roles-not-judged #lead-noise").tryQuery()).isPresent();
    assertThat(find(robot, "#best-set-words", Label.class).getText())
        .contains("Together they leave −");
    double even = overall("v4");
    ComboBox<Double> weight = robot.lookup("#weight-drums").queryComboBox();
    robot.interact(() -> weight.setValue(5.0));
    assertThat(workspace.comparison().roleWeights()).containsEntry("drums", 5.0);
    assertThat(overall("v4")).isNotCloseTo(even, within(0.1));
    robot.interact(() -> workspace.document().undo());
    assertThat(overall("v4")).isCloseTo(even, within(1e-9));
    robot.clickOn("#lead-everything-but-drums");
    assertThat(text(robot, "formed of its stems")).isTrue();
    robot.clickOn("#stem-lane-v4");
    await(() -> workspace.listening().playing());
    // The mix without its drums is what is heard of the one that gives no such stem.
    assertThat(workspace.listening().onlyRemovedProperty().get()).isTrue();
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("drums");
    robot.clickOn("#stem-lane-v1");
    assertThat(workspace.listening().onlyRemovedProperty().get()).isFalse();
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("everything but drums");
    robot.interact(() -> workspace.listening().stop());
    goTo(robot, Step.LISTEN);
    robot.clickOn("#null-lanes");
    assertThat(workspace.stems().leftWords("v1")).endsWith("the stems add up");
    assertThat(workspace.stems().left("v1").orElseThrow().wholeChannel(0))
        .satisfies(left -> assertThat(peak(left)).isLessThan(1e-4));
  }

  private double overall(String id) {
    return workspace
        .sheetProperty()
        .get()
        .entry(Part.ALL, id)
        .orElseThrow()
        .card()
        .overall()
        .orElseThrow()
        .value();
  }

  private static double peak(float[] x) {
    double peak = 0;
    for (float v : x) {
      peak = Math.max(peak, Math.abs(v));
    }
    return peak;
  }

  @Test
  void aStemGetsAnotherRoleByAClickAndASumIsAdded(FxRobot robot) throws Exception {
    open(robot, "boathouse-waltz");
    goTo(robot, Step.GATHER);
    MenuButton cell = find(robot, "#stem-v2-transient", MenuButton.class);
    robot.interact(
        () ->
            cell.getItems().stream()
                .filter(i -> i.getText().startsWith("Give it"))
                .map(i -> (javafx.scene.control.Menu) i)
                .flatMap(m -> m.getItems().stream())
                .filter(i -> i.getText().equals("drums"))
                .findFirst()
                .orElseThrow()
                .fire());
    assertThat(workspace.comparison().version("v2").orElseThrow().stems()).containsKey("drums");
    int before = workspace.comparison().roleSums().size();
    MenuButton sums = find(robot, "#add-sum", MenuButton.class);
    robot.interact(sums::show);
    robot.interact(
        () ->
            sums.getItems().stream()
                .filter(i -> i.getText().equals("The mix without bass"))
                .findFirst()
                .orElseThrow()
                .fire());
    assertThat(workspace.comparison().roleSums()).hasSize(before + 1);
    assertThat(text(robot, "from everything but drums of Median split 50")).isTrue();
  }

  @Test
  void rolesAreSoloedInTheListeningBar(FxRobot robot) throws Exception {
    open(robot, "boathouse-waltz");
    goTo(robot, Step.LISTEN);
    robot.clickOn("#role-drums");
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("drums");
    robot.clickOn("#role-drums");
    assertThat(workspace.listening().rolesProperty().get()).isEmpty();
    robot.push(KeyCode.S);
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("vocals");
    robot.push(KeyCode.S);
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("drums");
    robot.push(KeyCode.C);
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo(Listening.REFERENCE);
  }
}
