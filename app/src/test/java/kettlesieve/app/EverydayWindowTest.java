package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Step;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.TimeSpan;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** What a person who lives in the window all day takes for granted. */
class EverydayWindowTest extends WindowFixture {
  @Start
  void start(Stage stage) {
    show(stage);
  }

  @Test
  void aPressElsewhereEndsTypingAndEscapeTakesItBack(FxRobot robot) {
    bringIn(robot);
    TextField label = find(robot, "#label-v1", TextField.class);
    String before = label.getText();
    robot.doubleClickOn(label).push(KeyCode.CONTROL, KeyCode.A).write("fog");
    robot.push(KeyCode.ESCAPE);
    assertThat(label.getText()).isEqualTo(before);
    assertThat(label.isFocused()).isFalse();
    robot.doubleClickOn("#name").push(KeyCode.CONTROL, KeyCode.A).write("mist");
    robot.push(KeyCode.ESCAPE);
    assertThat(find(robot, "#name", TextField.class).getText())
        .isEqualTo(workspace.comparison().name())
        .isNotEqualTo("mist");
    // A drag over the overview chooses an excerpt; E is a key of the window then.
    robot.clickOn(label);
    Node overview = robot.lookup(".overview").query();
    robot.drag(overview).moveBy(120, 0).drop();
    robot.push(KeyCode.E);
    assertThat(label.getText()).isEqualTo(before);
    assertThat(robot.lookup("#excerpts").query().isVisible()).isTrue();
    robot.push(KeyCode.E);
  }

  @Test
  void theRingDoesNotStayOnTheOldStep(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-match");
    robot.push(KeyCode.CONTROL, KeyCode.DIGIT4);
    await(() -> workspace.stepProperty().get() == Step.MEASURE);
    assertThat(robot.lookup("#step-match").query().isFocused()).isFalse();
  }

  @Test
  void labelsKeepTheirUnderscores(FxRobot robot) {
    bringIn(robot);
    robot.interact(
        () ->
            workspace.edit(
                c ->
                    c.withVersion(c.versions().get(0).withLabel("rb_r2_x"))
                        .withExcerpts(
                            List.of(
                                new kettlesieve.core.comparison.Excerpt(
                                    "a_b", new TimeSpan(1, 4))))));
    int seen = 0;
    for (Step step : Step.values()) {
      robot.interact(() -> workspace.stepProperty().set(step));
      for (Node node :
          robot.lookup((Node n) -> n instanceof Labeled l && l.getText() != null).queryAll()) {
        Labeled control = (Labeled) node;
        if (control.getText().contains("rb_r2_x") || control.getText().contains("a_b")) {
          seen++;
          assertThat(control.isMnemonicParsing()).as(step + ": " + control).isFalse();
        }
      }
    }
    assertThat(seen).isGreaterThan(4);
  }

  @Test
  void anotherComparisonBeginsWithThePlainSound(FxRobot robot) throws Exception {
    bringIn(robot);
    var listening = workspace.listening();
    robot.interact(
        () -> {
          listening.seek(9);
          listening.bandProperty().set(new kettlesieve.core.listen.Band(200, 800));
          listening.halfSpeedProperty().set(true);
          listening.onlyRemovedProperty().set(true);
          listening.sideProperty().set(kettlesieve.core.listen.Side.LEFT);
        });
    // What is not the plain sound stands out.
    assertThat(robot.lookup("#band").query().getPseudoClassStates())
        .extracting(Object::toString)
        .contains("not-plain");
    robot.interact(workspace::startNew);
    assertThat(listening.positionSeconds()).isZero();
    assertThat(listening.bandProperty().get()).isNull();
    assertThat(listening.halfSpeedProperty().get()).isFalse();
    assertThat(listening.onlyRemovedProperty().get()).isFalse();
    assertThat(listening.sideProperty().get()).isEqualTo(kettlesieve.core.listen.Side.BOTH);
    assertThat(robot.lookup("#band").query().getPseudoClassStates())
        .extracting(Object::toString)
        .doesNotContain("not-plain");
  }

  @Test
  void smallAmountsAreShownAsTheyAre(FxRobot robot) {
    bringIn(robot);
    robot
        .doubleClickOn("#amount-v1")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("0.003")
        .push(KeyCode.ENTER);
    await(() -> workspace.comparison().versions().get(0).amount() == 0.003);
    await(() -> find(robot, "#amount-v1", TextField.class).getText().equals("0.003"));
  }

  @Test
  void aCopiedProfileWithOtherWeightsSaysNothingOfTheOldOnes(FxRobot robot) {
    bringIn(robot);
    robot.interact(() -> workspace.stepProperty().set(Step.DECIDE));
    robot.interact(() -> find(robot, "#profile-copy", Button.class).fire());
    Profile copied = workspace.comparison().profiles().get(0);
    assertThat(copied.description()).contains("count the same");
    robot.interact(
        () -> {
          find(robot, "#profile-weight-missed", TextField.class).setText("2");
          find(robot, "#profile-keep", Button.class).fire();
        });
    assertThat(workspace.comparison().profiles().get(0).weight("missed")).isEqualTo(2);
    assertThat(workspace.comparison().profiles().get(0).description()).isEmpty();
    await(() -> !workspace.busyProperty().get());
  }
}
