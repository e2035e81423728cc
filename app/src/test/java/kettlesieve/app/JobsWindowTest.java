package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.event.ActionEvent;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Step;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Band;
import kettlesieve.core.listen.Side;
import kettlesieve.core.listen.Turns;
import kettlesieve.core.measure.Part;
import kettlesieve.core.signal.Progress;
import kettlesieve.demo.Demo;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

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

  private void open(FxRobot robot, String name) throws Exception {
    // A copy, so that what a test changes stays its own.
    Comparison c = ComparisonFile.load(demo().resolve(name).resolve(name + ".sieve"));
    Path copy = folder.resolve(name + ".sieve");
    ComparisonFile.save(c, copy);
    robot.interact(
        () -> {
          try {
            workspace.open(copy);
          } catch (Exception e) {
            throw new AssertionError(e);
          }
        });
    await(
        () ->
            workspace.sheetProperty().get() != null
                && workspace.sheetProperty().get().entries().size() == c.versions().size()
                && !workspace.busyProperty().get());
  }

  private void goTo(FxRobot robot, Step step) {
    robot.interact(() -> workspace.stepProperty().set(step));
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
    Button floor = find(robot, "#bleed-v3-vocals-concertina", Button.class);
    assertThat(floor.getText()).startsWith("≤");
    robot.clickOn(cell);
    assertThat(workspace.selection().addressProperty().get().against()).isEqualTo("bass");
    assertThat(text(robot, "stem vocals, from bass")).isTrue();
    robot.clickOn("#bleed #spot-0");
    await(() -> workspace.listening().playing());
    assertThat(workspace.listening().rolesProperty().get()).containsExactly("vocals");
    robot.interact(() -> workspace.listening().stop());
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

  // --- listen ---

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
    await(
        () ->
            WaitForAsyncUtils.waitForAsyncFx(
                5_000, () -> workspace.ownTime().of("v4").isPresent()));
    var traces = WaitForAsyncUtils.waitForAsyncFx(5_000, () -> workspace.ownTime().of("v1"));
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
    assertThat(find(robot, "#attack-words-v3", Label.class).getText()).contains("of its rise");
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
    await(() -> robot.lookup("#formants-v1").tryQuery().isPresent());
    List<Double> source = formants(robot, "source");
    assertThat(shared(source, formants(robot, "v2"), 1)).isGreaterThanOrEqualTo(2);
    assertThat(shared(source, formants(robot, "v1"), 1.25))
        .isGreaterThanOrEqualTo(2)
        .isGreaterThan(shared(source, formants(robot, "v1"), 1));
  }

  private static List<Double> formants(FxRobot robot, String of) {
    List<Double> all = new ArrayList<>();
    Matcher each =
        Pattern.compile("([0-9.]+) (k?)Hz")
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
