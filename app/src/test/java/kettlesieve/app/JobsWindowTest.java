package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Step;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.listen.Band;
import kettlesieve.core.listen.Side;
import kettlesieve.core.listen.Turns;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.Demo;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** The other kinds of job in the real window: gathering, matching, listening. */
class JobsWindowTest extends WindowFixture {
  @BeforeAll
  static void makeDemos() throws Exception {
    for (Demo demo : Demo.ALL.subList(3, 5)) {
      demo.make(demo(), Progress.SILENT);
    }
  }

  @Start
  void start(Stage stage) {
    show(stage);
  }

  // --- gather ---

  @Test
  void aFolderIsSortedShownForCorrectionAndTaken(FxRobot robot) throws Exception {
    Path waltz = demo().resolve("boathouse-waltz");
    Path dropped = Files.createDirectories(folder.resolve("dropped"));
    for (String name :
        List.of(
            "waltz-mix.wav",
            "waltz-centre-split-60-vocals.wav",
            "waltz-centre-split-60-everything-but-vocals.wav")) {
      Files.copy(waltz.resolve(name), dropped.resolve(name));
    }
    robot.interact(() -> workspace.setJob(Job.STEMS));
    robot.interact(() -> gather().addFiles(List.of(dropped.toFile())));
    await(() -> robot.lookup("#sort-panel").tryQuery().isPresent());
    assertThat(text(robot, "Are these what their names say?")).isTrue();
    ComboBox<FileNames.Kind> first = robot.lookup("#sort-kind-2").queryComboBox();
    assertThat(first.getValue()).isEqualTo(FileNames.Kind.SOURCE);
    assertThat(workspace.comparison().versions()).isEmpty();
    robot.doubleClickOn("#sort-tool-0").push(KeyCode.CONTROL, KeyCode.A).write("Middle");
    robot.doubleClickOn("#sort-tool-1").push(KeyCode.CONTROL, KeyCode.A).write("Middle");
    robot.clickOn("#sort-take");
    await(() -> workspace.comparison().versions().size() == 1);
    assertThat(workspace.comparison().versions().get(0).tool()).isEqualTo("Middle");
    assertThat(workspace.comparison().versions().get(0).stems()).hasSize(2);
    assertThat(robot.lookup("#stems-grid").tryQuery()).isPresent();
  }

  @Test
  void costsAreNotedForAVersionAndForATool(FxRobot robot) {
    bringIn(robot);
    assertThat(robot.lookup("#cost-time-v1").tryQuery()).isEmpty();
    robot.clickOn("#show-costs");
    robot.clickOn("#cost-time-v1").write("12.5").push(KeyCode.ENTER);
    await(() -> Double.valueOf(12.5).equals(cost("v1").seconds()));
    robot.clickOn("#cost-price-v1").write("40 crowns").push(KeyCode.ENTER);
    await(() -> "40 crowns".equals(cost("v1").price()));
    robot.clickOn("#cost-time-v2").write("soon").push(KeyCode.ENTER);
    await(() -> workspace.messageProperty().get().contains("number of seconds"));
    goTo(robot, Step.DECIDE);
    await(() -> text(robot, "40 crowns"));
  }

  @Test
  void tagsAreTypedAndTakenBack(FxRobot robot) {
    bringIn(robot);
    TextField tags = robot.lookup("#tags").query();
    robot.clickOn(tags).write("tape, harbour, tape ,").push(KeyCode.ENTER);
    await(() -> workspace.comparison().tags().equals(List.of("tape", "harbour")));
    assertThat(tags.getText()).isEqualTo("tape, harbour");
    // What was typed and not finished is taken back by Escape; too much is refused and said.
    robot.clickOn(tags).write("wind").push(KeyCode.ESCAPE);
    assertThat(tags.getText()).isEqualTo("tape, harbour");
    robot.interact(() -> tags.setText("x".repeat(61)));
    robot.clickOn(tags).push(KeyCode.ENTER);
    await(() -> workspace.messageProperty().get().contains("at most 60 letters"));
    assertThat(workspace.comparison().tags()).containsExactly("tape", "harbour");
    robot.push(KeyCode.ESCAPE);
    robot.interact(() -> workspace.document().undo());
    assertThat(workspace.comparison().tags()).isEmpty();
    await(() -> tags.getText().isEmpty());
  }

  private kettlesieve.core.comparison.Cost cost(String id) {
    return workspace.comparison().version(id).orElseThrow().cost();
  }

  @Test
  void aVersionIsMadeHereAndAnOutsideToolIsSetUp(FxRobot robot) throws Exception {
    open(robot, "tide-table");
    goTo(robot, Step.GATHER);
    assertThat(robot.lookup("#target").queryTextInputControl().getText()).isEqualTo("0.800");
    int before = workspace.comparison().versions().size();
    robot.clickOn("#make");
    await(() -> workspace.comparison().versions().size() == before + 1);
    await(() -> text(robot, "done in"));
    robot.clickOn("#make-own");
    robot.clickOn("#tool-name").write("Mine");
    robot.clickOn("#tool-command").write("mine {input}");
    robot.clickOn("#tool-keep");
    await(() -> text(robot, "need {output}"));
    robot.clickOn("#tool-command").push(KeyCode.END).write(" {output} -t {tempo}");
    robot.clickOn("#tool-keep");
    await(() -> workspace.workshop().tools().size() == 1);
    assertThat(workspace.workshop().tools().get(0).arguments())
        .containsExactly("mine", "{input}", "{output}", "-t", "{tempo}");
  }

  @Test
  void excerptsAreKeptNamedAndHeardTogether(FxRobot robot) {
    bringIn(robot);
    robot.interact(() -> workspace.edit(c -> c.withExcerpt(new TimeSpan(2, 6))));
    robot.interact(() -> frame().showExcerpts());
    robot.clickOn("#keep-excerpt");
    robot.interact(() -> workspace.edit(c -> c.withExcerpt(new TimeSpan(10, 15))));
    robot.clickOn("#keep-excerpt");
    await(() -> workspace.comparison().excerpts().size() == 2);
    robot
        .doubleClickOn("#excerpt-name-0")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("hail")
        .push(KeyCode.ENTER);
    await(() -> workspace.comparison().excerpt("hail").isPresent());
    robot.interact(() -> workspace.edit(c -> c.withTogether(true)));
    await(() -> text(robot, "2 excerpts together"));
    awaitSheet();
    assertThat(workspace.sheetProperty().get().entries()).hasSize(2);
  }

  // --- match ---

  @Test
  void levelsAreMatchedAsChosenAndTheOverlayIsLive(FxRobot robot) {
    bringIn(robot);
    goTo(robot, Step.MATCH);
    ComboBox<LevelMode> mode = robot.lookup("#level-mode").queryComboBox();
    robot.interact(() -> mode.setValue(LevelMode.OFF));
    await(() -> workspace.state("v2").prepared().match().levelBasis().equals("left as delivered"));
    await(() -> text(robot, "level matching is off"));
    double before = workspace.state("v1").prepared().match().delaySamples();
    robot.clickOn("#match-v1").clickOn("#hand-delay-2");
    await(() -> Double.valueOf(1153).equals(byHand("v1").delaySamples()));
    // The next nudge comes while matching goes on: it must not be lost.
    robot.clickOn("#hand-delay-2");
    await(() -> Double.valueOf(1154).equals(byHand("v1").delaySamples()));
    assertThat(robot.lookup("#hand-delay").queryTextInputControl().getText()).isEqualTo("1154.00");
    await(() -> workspace.state("v1").prepared().match().delaySamples() == before + 2);
    robot.clickOn("#reset-match");
    await(() -> workspace.state("v1").prepared().match().delaySamples() == before);
  }

  private kettlesieve.core.comparison.MatchOverride byHand(String id) {
    return workspace.comparison().version(id).orElseThrow().match();
  }

  @Test
  void everyWayOfListeningHasItsKey(FxRobot robot) {
    bringIn(robot);
    Listening listening = workspace.listening();
    robot.push(KeyCode.T);
    assertThat(listening.turnsProperty().get()).isEqualTo(Turns.NEXT);
    robot.push(KeyCode.T).push(KeyCode.T);
    assertThat(listening.turnsProperty().get()).isEqualTo(Turns.STAY);
    robot.push(KeyCode.B);
    assertThat(listening.bandProperty().get()).isEqualTo(new Band(80, 300));
    for (int i = 0; i < 4; i++) {
      robot.push(KeyCode.B);
    }
    assertThat(listening.bandProperty().get()).isNull();
    robot.push(KeyCode.V);
    assertThat(listening.sideProperty().get()).isEqualTo(Side.LEFT);
    robot.push(KeyCode.H);
    assertThat(listening.halfSpeedProperty().get()).isTrue();
    assertThat(find(robot, "#side", MenuButton.class).getText()).isEqualTo("Left");
    robot.push(KeyCode.F1);
    await(() -> text(robot, "half speed"));
  }

  @Test
  void marksAreSetWhilePlayingListedAndJumpedTo(FxRobot robot) {
    bringIn(robot);
    goTo(robot, Step.LISTEN);
    robot.interact(
        () -> {
          workspace.listening().seek(6);
          workspace.listening().choose("v1");
        });
    robot.push(KeyCode.SPACE).push(KeyCode.K);
    await(() -> workspace.comparison().marks().size() == 1);
    robot.push(KeyCode.SPACE);
    Mark mark = workspace.comparison().marks().get(0);
    assertThat(mark.version()).isEqualTo("v1");
    assertThat(mark.from()).isBetween(5.9, 9.0);
    robot.clickOn("#note-" + mark.id()).write("gurgle").push(KeyCode.ENTER);
    await(() -> workspace.comparison().marks().get(0).note().equals("gurgle"));
    robot.interact(() -> workspace.listening().choose(Listening.SOURCE));
    robot.clickOn("#play-" + mark.id());
    await(() -> workspace.listening().playing());
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo("v1");
    assertThat(workspace.listening().spotLoopProperty().get().holds(mark.from())).isTrue();
    robot.interact(() -> workspace.listening().stop());
  }

  @Test
  void aBandIsDraggedOnTheSpectrogramAndThePicturesChange(FxRobot robot) {
    bringIn(robot);
    goTo(robot, Step.LISTEN);
    robot.clickOn("#picture-change");
    robot.clickOn("#picture-spectrogram");
    await(() -> robot.lookup(".row-line").queryAll().size() >= 3);
    Node lane = robot.lookup(".row-line").nth(1).query();
    robot.press(KeyCode.SHIFT);
    robot.drag(robot.offset(lane, -100, -20).query()).dropTo(robot.offset(lane, 40, 20).query());
    robot.release(KeyCode.SHIFT);
    await(() -> workspace.listening().bandProperty().get() != null);
    assertThat(workspace.listening().spotLoopProperty().get().seconds()).isBetween(1.0, 12.0);
    robot.interact(() -> workspace.listening().stop());
  }
}
