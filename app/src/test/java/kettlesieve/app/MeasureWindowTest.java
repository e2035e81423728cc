package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.stage.Stage;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.Hint;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.Entry;
import kettlesieve.core.signal.Clipping;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** The Measure step on a real window. */
class MeasureWindowTest extends WindowFixture {
  @Start
  void start(Stage stage) {
    show(stage);
  }

  private void measure(FxRobot robot) {
    bringIn(robot);
    robot.interact(() -> workspace.stepProperty().set(Step.MEASURE));
    await(() -> robot.lookup("#cell-v1-pause-noise").tryQuery().isPresent());
  }

  private static void fire(FxRobot robot, String query) {
    robot.interact(() -> robot.lookup(query).queryAs(javafx.scene.control.ButtonBase.class).fire());
  }

  @Test
  void versionsAreSortedByAHead(FxRobot robot) {
    measure(robot);
    fire(robot, "#sort-pause-noise");
    double best = value("v1") < value("v2") ? y(robot, "v1") : y(robot, "v2");
    double worst = value("v1") < value("v2") ? y(robot, "v2") : y(robot, "v1");
    assertThat(best).isLessThan(worst);
    fire(robot, "#sort-pause-noise");
    best = value("v1") < value("v2") ? y(robot, "v1") : y(robot, "v2");
    worst = value("v1") < value("v2") ? y(robot, "v2") : y(robot, "v1");
    assertThat(best).isGreaterThan(worst);
  }

  private double value(String version) {
    return workspace.sheetProperty().get().entries().stream()
        .filter(e -> e.version().id().equals(version))
        .findFirst()
        .orElseThrow()
        .reading("pause-noise")
        .orElseThrow()
        .value();
  }

  private static double y(FxRobot robot, String version) {
    return robot
        .interact(() -> {})
        .lookup("#cell-" + version + "-pause-noise")
        .query()
        .getBoundsInParent()
        .getMinY();
  }

  @Test
  void questionsFoldAndTheSheetRemembers(FxRobot robot) {
    measure(robot);
    fire(robot, "#fold-lost");
    assertThat(robot.lookup("#cell-v1-dropouts").tryQuery()).isEmpty();
    assertThat(robot.lookup("#sort-lost").tryQuery()).isPresent();
    robot.interact(() -> workspace.sheetLayout().show("flutter", false));
    assertThat(robot.lookup("#cell-v1-flutter").tryQuery()).isEmpty();
    assertThat(folder.resolve("state/sheet.properties")).content().contains("flutter", "lost");
    fire(robot, "#fold-lost");
    assertThat(robot.lookup("#cell-v1-dropouts").tryQuery()).isPresent();
  }

  @Test
  void aSpotLoopsInItsBandAndTheNextByKey(FxRobot robot) {
    measure(robot);
    robot.interact(() -> workspace.selection().reading("v1", "musical-noise"));
    await(() -> robot.lookup("#spot-0").tryQuery().isPresent());
    fire(robot, "#spot-0");
    Listening listening = workspace.listening();
    await(listening::playing);
    assertThat(listening.chosenProperty().get()).isEqualTo("v1");
    assertThat(listening.bandProperty().get()).isNotNull();
    assertThat(listening.spotLoopProperty().get()).isNotNull();
    var first = workspace.selection().spotProperty().get();
    robot.interact(() -> find(robot, "#spot-band", CheckBox.class).fire());
    assertThat(listening.bandProperty().get()).isNull();
    robot.push(javafx.scene.input.KeyCode.N);
    assertThat(workspace.selection().spotProperty().get()).isNotEqualTo(first);
    robot.push(javafx.scene.input.KeyCode.X);
    assertThat(listening.chosenProperty().get()).isEqualTo(Listening.SOURCE);
    robot.interact(listening::stop);
  }

  @Test
  @SuppressWarnings("unchecked")
  void twoVersionsAreSetAgainstEachOther(FxRobot robot) {
    measure(robot);
    fire(robot, "#face-contrast");
    ComboBox<Entry> first = robot.lookup("#contrast-first").queryAs(ComboBox.class);
    ComboBox<Entry> second = robot.lookup("#contrast-second").queryAs(ComboBox.class);
    // Nobody chose yet: the first two of the ranking.
    List<Entry> ranked = workspace.sheetProperty().get().ranked(Part.ALL);
    assertThat(first.getValue().version().id()).isEqualTo(ranked.get(0).version().id());
    assertThat(second.getValue().version().id()).isEqualTo(ranked.get(1).version().id());
    assertThat(find(robot, "#contrast-odds", Label.class).getText())
        .startsWith("As a whole ")
        .containsPattern("\\d (in|of) 10");
    assertThat(find(robot, "#contrast-verdict", Label.class).getText())
        .containsAnyOf("They differ most on", "The two are tied");
    robot.interact(() -> second.setValue(first.getValue()));
    assertThat(robot.lookup("#contrast-verdict").tryQuery()).isEmpty();
  }

  @Test
  void theBestAmountOfASweepIsNamed(FxRobot robot) throws Exception {
    robot.interact(
        () ->
            workspace.addFiles(
                List.of(
                    file("tape.wav"),
                    file("smoothed-wiener-30.wav"),
                    file("smoothed-wiener-60.wav"),
                    file("smoothed-wiener-90.wav"))));
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().entries().size() == 3
                && !workspace.busyProperty().get());
    robot.interact(() -> workspace.stepProperty().set(Step.MEASURE));
    fire(robot, "#face-trade-off");
    await(() -> robot.lookup("#best-smoothed-wiener").tryQuery().isPresent());
    assertThat(find(robot, "#best-smoothed-wiener", Label.class).getText())
        .matches("Smoothed wiener: best at [\\d.]+ .*points");
    assertThat(find(robot, "#unbeaten", Label.class).getText()).contains("no other version");
    // With four amounts there is a curve, and a plateau of what is as good.
    Path fourth = folder.resolve("smoothed-wiener-75.wav");
    Files.copy(file("smoothed-wiener-60.wav"), fourth);
    robot.interact(() -> workspace.addFiles(List.of(fourth)));
    await(() -> robot.lookup("#sweep-smoothed-wiener").tryQuery().isPresent());
    assertThat(robot.lookup("#sweep-smoothed-wiener").query().getAccessibleText())
        .containsAnyOf("is as good", "best at", "no amount");
  }

  @Test
  @SuppressWarnings("unchecked")
  void excerptsAreShownTogetherOrSideBySide(FxRobot robot) {
    measure(robot);
    robot.interact(
        () ->
            workspace.edit(
                c ->
                    c.withExcerpts(
                            List.of(
                                new Excerpt("opening", new TimeSpan(0, 8)),
                                new Excerpt("squall", new TimeSpan(3, 11)),
                                new Excerpt("last words", new TimeSpan(6, 13.9))))
                        .withTogether(true)));
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().excerpts().size() == 3
                && workspace.sheetProperty().get().entries().size() == 2
                && !workspace.busyProperty().get());
    ComboBox<String> box = robot.lookup("#measure-excerpt").queryAs(ComboBox.class);
    assertThat(box.getItems()).contains("opening", "squall", "last words");
    robot.interact(() -> box.setValue(box.getItems().get(1)));
    assertThat(robot.lookup("#cell-v1-pause-noise@squall").tryQuery()).isPresent();
    robot.interact(() -> box.setValue("squall"));
    assertThat(robot.lookup("#cell-v1-pause-noise@squall").tryQuery()).isEmpty();
    assertThat(robot.lookup("#cell-v1-pause-noise").tryQuery()).isPresent();
  }

  @Test
  void aProfileIsCopiedChangedAndTakenBack(FxRobot robot) {
    bringIn(robot);
    robot.interact(() -> workspace.stepProperty().set(Step.DECIDE));
    fire(robot, "#profile-copy");
    assertThat(workspace.comparison().profiles()).hasSize(1);
    assertThat(workspace.comparison().profile()).isEqualTo("even-own");
    TextField weight = find(robot, "#profile-weight-missed", TextField.class);
    robot.interact(() -> weight.setText("9"));
    fire(robot, "#profile-keep");
    assertThat(workspace.comparison().profiles().get(0).weight("missed")).isEqualTo(9);
    assertThat(workspace.sheetProperty().get().profile().weight("missed")).isEqualTo(9);
    robot.interact(() -> weight.setText("heavy"));
    fire(robot, "#profile-keep");
    assertThat(workspace.comparison().profiles().get(0).weight("missed")).isEqualTo(9);
    robot.interact(workspace.document()::undo);
    assertThat(workspace.comparison().profiles().get(0).weight("missed")).isEqualTo(1);
    // Limits, a row each, put together from menus: kept and not kept stand under each version.
    robot.interact(() -> weight.setText("2"));
    fire(robot, "#limit-add");
    // What was typed and not kept yet is not lost over it.
    assertThat(workspace.comparison().profiles().get(0).weight("missed")).isEqualTo(2);
    choose(robot, "#limit-reading-0", "bandwidth");
    choose(robot, "#limit-way-0", ">=");
    type(robot, "#limit-value-0", "90");
    fire(robot, "#limit-add");
    choose(robot, "#limit-reading-1", "pause-noise");
    choose(robot, "#limit-detail-1", "dBFS");
    type(robot, "#limit-value-1", "−119");
    assertThat(workspace.comparison().profiles().get(0).requirements())
        .extracting(Requirement::words)
        .containsExactly("bandwidth >= 90", "pause-noise.dBFS <= -119");
    Label kept = find(robot, "#limits-v1", Label.class);
    assertThat(kept.getText()).matches("Noise in pauses [0-9.]+ dB over");
    assertThat(Hint.of(kept))
        .contains("Bandwidth at least 90 Hz: kept, ")
        .contains("Noise in pauses at most −119 dBFS")
        .contains(": not kept, ")
        .contains("off by");
    // Where it is broken is heard at a click, and the headline says it too.
    fire(robot, "#limit-hear-v1");
    assertThat(workspace.listening().spotLoopProperty().get()).isNotNull();
    assertThat(find(robot, "#answer", Label.class).getText()).contains("1 limit not kept.");
    type(robot, "#limit-value-1", "loud");
    assertThat(workspace.comparison().profiles().get(0).requirements().get(1).limit())
        .isEqualTo(-119);
    assertThat(workspace.messageProperty().get()).contains("it is a number");
    // Who leads where is drawn along the source; a click hears the leader there.
    Node lane = find(robot, "#passage-lane", Node.class);
    assertThat(lane.getAccessibleText()).contains("leader");
    fire(robot, "#profile-delete");
    assertThat(workspace.comparison().profiles()).isEmpty();
    assertThat(workspace.sheetProperty().get().profile().name()).isEqualTo("even");
  }

  @Test
  @SuppressWarnings("unchecked")
  void clippedPassagesAreListedAndSteppedThrough(FxRobot robot) {
    robot.interact(() -> frame().openDemo(kettlesieve.demo.Demo.ALL.get(2)));
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().job() == Job.DECLIP
                && !workspace.busyProperty().get());
    robot.interact(() -> workspace.stepProperty().set(Step.MEASURE));
    fire(robot, "#face-clipping");
    ListView<Clipping.Passage> list = robot.lookup("#passages").queryAs(ListView.class);
    assertThat(list.getItems().size()).isGreaterThan(3);
    int before = list.getSelectionModel().getSelectedIndex();
    robot.interact(() -> frame().requestFocus());
    robot.push(javafx.scene.input.KeyCode.N);
    assertThat(list.getSelectionModel().getSelectedIndex()).isNotEqualTo(before);
    await(() -> workspace.listening().playing());
    robot.interact(() -> workspace.listening().stop());
    assertThat(find(robot, "#face-clipping", ToggleButton.class).isVisible()).isTrue();
    robot.interact(() -> workspace.setJob(Job.DENOISE));
    assertThat(robot.lookup("#face-clipping").queryAs(ToggleButton.class).isVisible()).isFalse();
    assertThat(robot.lookup("#undo").queryAs(Button.class).isDisabled()).isFalse();
  }
}
