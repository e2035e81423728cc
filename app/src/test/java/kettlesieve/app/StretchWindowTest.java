package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.event.ActionEvent;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Step;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.Demo;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/** Stretched versions in the real window: targets, sweeps, attacks, pitch and formants. */
class StretchWindowTest extends WindowFixture {
  @BeforeAll
  static void makeDemos() throws Exception {
    for (Demo demo : Demo.ALL.subList(4, 5)) {
      demo.make(demo(), Progress.SILENT);
    }
  }

  @Start
  void start(Stage stage) {
    show(stage);
  }

  @Test
  void theTargetIsTypedAndNonsenseIsAnswered(FxRobot robot) throws Exception {
    open(robot, "tide-table");
    goTo(robot, Step.GATHER);
    robot
        .doubleClickOn("#target")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("short")
        .push(KeyCode.ENTER);
    await(() -> workspace.messageProperty().get().contains("is not a length"));
    robot
        .doubleClickOn("#target")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("0.75")
        .push(KeyCode.ENTER);
    await(() -> workspace.comparison().ratio() == 0.75);
    assertThat(text(robot, "tempo 100 → 133.3")).isTrue();
    robot
        .doubleClickOn("#target")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("90 %")
        .push(KeyCode.ENTER);
    await(() -> workspace.comparison().ratio() == 0.9);
  }

  @Test
  void aStretchedVersionShowsItsRatioAndWhatWasUnfair(FxRobot robot) throws Exception {
    open(robot, "tide-table");
    goTo(robot, Step.MATCH);
    await(() -> text(robot, "× 0.8000"));
    assertThat(text(robot, "played through its time map")).isTrue();
    robot.clickOn("#match-v4").clickOn("#hand-ratio-1");
    await(
        () ->
            Math.abs(
                    workspace.state("v4").prepared().match().ratio()
                        - workspace.comparison().version("v4").orElseThrow().match().ratio())
                < 1e-12);
    assertThat(workspace.comparison().version("v4").orElseThrow().match().ratio())
        .isCloseTo(0.801, within(0.001));
  }

  @Test
  void stretchedVersionsSwitchToTheSameWordInTheWindow(FxRobot robot) throws Exception {
    open(robot, "tide-table");
    goTo(robot, Step.LISTEN);
    robot.interact(() -> workspace.listening().seek(5));
    robot.push(KeyCode.SPACE);
    await(() -> workspace.listening().positionSeconds() > 5.3);
    double before = workspace.listening().positionSeconds();
    int played = outputs.get(0).heardLeft().length;
    robot.push(KeyCode.DIGIT4);
    await(() -> workspace.listening().positionSeconds() > before + 0.1);
    double after = workspace.listening().positionSeconds();
    // However long that took: the place went on with the sound, and did not jump by the ratio.
    double heard = (outputs.get(0).heardLeft().length - played) / 48_000.0;
    assertThat(after - before).isLessThan(1.3 * heard + 0.5);
    robot.push(KeyCode.SPACE);
    robot.clickOn("#own-time");
    robot.clickOn("#own-time");
  }

  @Test
  void aToolIsSweptOverLengthsAndBroughtBack(FxRobot robot) throws Exception {
    open(robot, "tide-table");
    goTo(robot, Step.GATHER);
    TextField lengths = find(robot, "#make-targets", TextField.class);
    Button make = find(robot, "#make", Button.class);
    robot.interact(
        () -> {
          lengths.setText("loud");
          make.fire();
        });
    assertThat(text(robot, "Lengths are numbers from 0.1 to 10")).isTrue();
    CheckBox back = find(robot, "#make-back", CheckBox.class);
    robot.interact(
        () -> {
          lengths.setText("1.25");
          back.setSelected(true);
          make.fire();
        });
    await(() -> workspace.comparison().versions().size() == 5);
    Version made = workspace.comparison().versions().get(4);
    assertThat(made.label()).endsWith("× 1.25, there and back");
    assertThat(made.ratio()).isEqualTo(1.25);
    assertThat(made.back()).isTrue();
    await(() -> workspace.sheetProperty().get().entries().size() == 5);
    // It lies on the source's time, and what only such a version can tell has a column.
    assertThat(workspace.state(made.id()).prepared().map().identity()).isTrue();
    assertThat(workspace.sheetProperty().get().columns())
        .anyMatch(d -> d.id().equals("detail-loss"));
    assertThat(workspace.sheetProperty().get().entry(Part.ALL, made.id()).orElseThrow().scored())
        .isTrue();
    // One that was made elsewhere is told so under Gather.
    goTo(robot, Step.GATHER);
    TextField asked = find(robot, "#asked-v2", TextField.class);
    robot.interact(() -> asked.setText("80 %"));
    robot.interact(() -> asked.fireEvent(new ActionEvent()));
    await(() -> workspace.comparison().version("v2").orElseThrow().ratio() != null);
    assertThat(workspace.comparison().version("v2").orElseThrow().ratio()).isEqualTo(0.8);
  }

  @Test
  void attacksPitchAndFormantsAreSetSideBySide(FxRobot robot) throws Exception {
    open(robot, "tide-table");
    await(() -> WaitForAsyncUtils.waitForAsyncFx(5_000, () -> workspace.ownTime().timesKnown()));
    var traces = WaitForAsyncUtils.waitForAsyncFx(5_000, () -> workspace.ownTime().times("v1"));
    // Attacks go where an even stretch by 0.8 puts them.
    assertThat(traces.orElseThrow().hits()).hasSizeGreaterThan(10);
    assertThat(traces.orElseThrow().hits())
        .allSatisfy(h -> assertThat(h.version()).isCloseTo(0.8 * h.source(), within(0.05)));
    goTo(robot, Step.LISTEN);
    robot.clickOn("#tie-attacks");
    robot.clickOn("#tie-attacks");
    goTo(robot, Step.MEASURE);
    robot.clickOn("#face-timing");
    Label title = find(robot, "#attack-title", Label.class);
    String first = title.getText();
    assertThat(first).startsWith("Attack ");
    // The one of which most is lost comes first.
    assertThat(find(robot, "#attack-words-v3", Label.class).getText()).isEqualTo("lost");
    assertThat(find(robot, "#attack-words-v2", Label.class).getText()).contains("of its rise");
    robot.push(KeyCode.N);
    assertThat(title.getText()).isNotEqualTo(first);
    robot.push(KeyCode.P);
    assertThat(title.getText()).isEqualTo(first);
    robot.clickOn("#attack-of-v2");
    await(() -> workspace.listening().playing());
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo("v2");
    robot.interact(() -> workspace.listening().stop());
    robot.clickOn("#face-pitch");
    await(() -> robot.lookup("#formants-source").tryQuery().isPresent());
    assertThat(find(robot, "#formants-source", Label.class).getText()).contains("Hz");
    // The one played faster carries its formants up with it.
    for (String version : List.of("v1", "v2")) {
      await(() -> robot.lookup("#formants-" + version).tryQuery().isPresent());
    }
    List<Double> source = formants(robot, "source");
    assertThat(shared(source, formants(robot, "v2"), 1)).isGreaterThanOrEqualTo(2);
    assertThat(shared(source, formants(robot, "v1"), 1.25)).isGreaterThanOrEqualTo(2);
    // Some fall on one another by chance; on the whole they lie nearer where they were moved to.
    assertThat(apart(source, formants(robot, "v1"), 1.25))
        .isLessThan(apart(source, formants(robot, "v1"), 1));
  }

  private static List<Double> formants(FxRobot robot, String of) {
    List<Double> all = new ArrayList<>();
    Matcher each =
        Pattern.compile("(?<![±0-9.])([0-9.]+) (k?)Hz")
            .matcher(find(robot, "#formants-" + of, Label.class).getText());
    while (each.find()) {
      all.add(Double.parseDouble(each.group(1)) * (each.group(2).isEmpty() ? 1 : 1000));
    }
    return all;
  }

  /** How many formants of a voice another has, so many times as high. */
  private static long shared(List<Double> of, List<Double> in, double factor) {
    return of.stream()
        .filter(f -> in.stream().anyMatch(x -> Math.abs(x / (factor * f) - 1) < 0.06))
        .count();
  }

  /** Mean distance, in logarithms, from the formants of a voice to the nearest of another. */
  private static double apart(List<Double> of, List<Double> in, double factor) {
    return of.stream()
        .mapToDouble(
            f ->
                in.stream()
                    .mapToDouble(x -> Math.abs(Math.log(x / (factor * f))))
                    .min()
                    .orElse(Double.NaN))
        .average()
        .orElse(Double.NaN);
  }
}
