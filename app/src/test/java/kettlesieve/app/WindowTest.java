package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Step;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Decision;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Part;
import kettlesieve.core.signal.Loudness;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** The real window, driven by mouse and keys, with the simulated output. */
class WindowTest extends WindowFixture {
  @Start
  void start(Stage stage) {
    show(stage);
  }

  @Test
  void anEmptyComparisonTeaches(FxRobot robot) {
    assertThat(find(robot, "#choose-files", Labeled.class).getText()).contains("Choose");
    assertThat(robot.lookup("Drop the unprocessed recording here").tryQuery()).isPresent();
    for (Step step : Step.values()) {
      robot.clickOn("#step-" + step.name().toLowerCase(java.util.Locale.ROOT));
      assertThat(workspace.stepProperty().get()).isEqualTo(step);
    }
  }

  @Test
  void filesAppearWithTheirFactsAndCanBeRelabelled(FxRobot robot) {
    bringIn(robot);
    String id = workspace.comparison().versions().get(0).id();
    TextField label = find(robot, "#label-" + id, TextField.class);
    robot.doubleClickOn(label).push(KeyCode.CONTROL, KeyCode.A).write("fog").push(KeyCode.ENTER);
    await(() -> workspace.comparison().versions().get(0).label().equals("fog"));
    robot.push(KeyCode.CONTROL, KeyCode.DIGIT2);
    await(() -> workspace.stepProperty().get() == Step.MATCH);
    robot.push(KeyCode.CONTROL, KeyCode.Z);
    await(() -> workspace.comparison().versions().get(0).label().equals("Plain subtraction 60"));
  }

  @Test
  void switchingWhilePlayingHasNoClickAndEqualLoudness(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-listen");
    robot.push(KeyCode.SPACE);
    await(() -> !outputs.isEmpty() && outputs.get(0).heardLeft().length > 48_000);
    int[] keys = {1, 2, 0, 2, 1};
    int[] at = new int[keys.length];
    for (int i = 0; i < keys.length; i++) {
      at[i] = outputs.get(0).heardLeft().length;
      robot.push(KeyCode.valueOf("DIGIT" + keys[i]));
      String id = keys[i] == 0 ? "source" : workspace.comparison().versions().get(keys[i] - 1).id();
      await(() -> workspace.listening().chosenProperty().get().equals(id));
      int until = at[i] + 72_000;
      await(() -> outputs.get(0).heardLeft().length > until);
    }
    robot.push(KeyCode.SPACE);
    await(() -> !workspace.listening().playing());
    float[] heard = outputs.get(0).heardLeft();
    double own = 0;
    for (String id : List.of("source", "v1", "v2")) {
      Audio audio =
          id.equals("source")
              ? workspace.sourceProperty().get().audio()
              : workspace.state(id).prepared().matched();
      own = Math.max(own, largestStep(audio.samples(0, 0, heard.length)));
    }
    assertThat(largestStep(heard)).isLessThanOrEqualTo(own * 1.0001);
  }

  private static double largestStep(float[] x) {
    double largest = 0;
    for (int i = 1; i < x.length; i++) {
      largest = Math.max(largest, Math.abs(x[i] - x[i - 1]));
    }
    return largest;
  }

  @Test
  void versionsSoundEquallyLoudUnlessLevelMatchingIsOff(FxRobot robot) {
    bringIn(robot);
    var wanted = new double[2];
    for (int i = 0; i < 2; i++) {
      Audio audio = workspace.state("v" + (i + 1)).prepared().matched();
      wanted[i] = Loudness.of(audio).integrated().orElseThrow();
    }
    double source =
        Loudness.of(workspace.sourceProperty().get().audio()).integrated().orElseThrow();
    assertThat(Math.abs(wanted[0] - source)).isLessThan(0.6);
    assertThat(Math.abs(wanted[0] - wanted[1])).isLessThan(0.5);
    robot.clickOn("#level");
    assertThat(workspace.listening().levelMatchedProperty().get()).isFalse();
    robot.clickOn("#track-v2");
    robot.clickOn("#play");
    await(() -> !outputs.isEmpty() && outputs.get(0).heardLeft().length > 150_000);
    robot.clickOn("#play");
    Audio heard = Audio.of(48_000, outputs.get(0).heardLeft());
    Audio matched = workspace.state("v2").prepared().matched().slice(0, heard.frames());
    double difference =
        Loudness.of(heard).integrated().orElseThrow()
            - Loudness.of(matched).integrated().orElseThrow();
    // Delivered 6 dB quieter, and heard so with matching off.
    assertThat(difference).isBetween(-7.0, -5.0);
  }

  @Test
  void aCellOpensItsExplanationAndPlaysItsSpot(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-measure");
    await(() -> robot.lookup("#cell-v1-musical-noise").tryQuery().isPresent());
    robot.clickOn("#cell-v1-musical-noise");
    assertThat(find(robot, "#detail-value", Label.class).getText()).contains("ln ratio");
    assertThat(find(robot, "#cell-v1-musical-noise", ToggleButton.class).isSelected()).isTrue();
    robot.clickOn("#spot-0");
    var spot = workspace.selection().spotProperty().get();
    assertThat(spot).isNotNull();
    await(() -> workspace.listening().playing());
    await(
        () -> {
          double at = workspace.listening().positionSeconds();
          return at >= spot.from() - 0.3 && at <= spot.to() + 0.3;
        });
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo("v1");
    robot.push(KeyCode.X);
    await(() -> workspace.listening().chosenProperty().get().equals("source"));
    robot.push(KeyCode.N);
    await(() -> !workspace.selection().spotProperty().get().equals(spot));
  }

  @Test
  void aMatchIsOverruledByHandAndReset(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-match");
    robot.clickOn("#match-v1");
    await(() -> robot.lookup("#hand-delay-2").tryQuery().isPresent());
    robot.clickOn("#hand-delay-2");
    await(() -> Double.valueOf(1153).equals(delay("v1")));
    await(() -> robot.lookup("#turn-polarity").tryQuery().isPresent());
    robot.clickOn("#turn-polarity");
    await(() -> workspace.state("v1").prepared().match().polarity() == -1);
    await(() -> !find(robot, "#reset-match", javafx.scene.control.Button.class).isDisabled());
    robot.clickOn("#reset-match");
    await(() -> Double.valueOf(1152).equals(delay("v1")));
  }

  private Double delay(String id) {
    var prepared = workspace.state(id).prepared();
    return prepared == null ? null : prepared.match().delaySamples();
  }

  @Test
  void dragOverTheOverviewChoosesTheExcerpt(FxRobot robot) {
    bringIn(robot);
    Node overview = robot.lookup(".overview").query();
    var bounds = overview.localToScreen(overview.getBoundsInLocal());
    double y = bounds.getCenterY() - 10;
    robot.drag(bounds.getMinX() + 200, y).dropTo(bounds.getMinX() + 700, y);
    await(() -> workspace.comparison().excerpt() != null);
    double seconds = workspace.sourceProperty().get().audio().seconds();
    assertThat(workspace.comparison().excerpt().seconds())
        .isBetween(
            0.9 * 500 / bounds.getWidth() * seconds, 1.1 * 500 / bounds.getWidth() * seconds);
    assertThat(find(robot, "#excerpt", MenuButton.class).getText()).startsWith("Excerpt");
    awaitSheet();
  }

  @Test
  void theRankingFollowsTheProfileAndVerdictsAreKept(FxRobot robot) throws Exception {
    bringIn(robot);
    robot.clickOn("#step-decide");
    assertThat(find(robot, "#ranking-title", Label.class).getText()).contains("Even");
    robot.interact(() -> workspace.edit(c -> c.withProfile("cinema")));
    assertThat(find(robot, "#ranking-title", Label.class).getText()).contains("Cinema dialogue");
    // The chances to be the best sum to one, and the first two are heard where they differ most.
    for (String id : List.of("v1", "v2")) {
      assertThat(robot.lookup("#chance-" + id).query().getAccessibleText())
          .matches("truly the best in (over |under )?\\d in 10");
    }
    List<String> two =
        workspace.sheetProperty().get().ranked(Part.ALL).stream()
            .map(e -> e.version().id())
            .limit(2)
            .toList();
    assertThat(find(robot, "#answer", Label.class).getText()).contains(" in 10)");
    TimeSpan place = workspace.firstTwo().place().orElseThrow();
    robot.push(KeyCode.D);
    await(() -> workspace.listening().playing());
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo(two.get(0));
    assertThat(workspace.listening().spotLoopProperty().get()).isEqualTo(place);
    robot.push(KeyCode.D);
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo(two.get(1));
    robot.interact(() -> workspace.listening().stop());
    // What costs the first most is heard at once.
    Button hear =
        robot.lookup((Button b) -> b.getId() != null && b.getId().startsWith("turn-spot-")).query();
    robot.interact(hear::fire);
    await(() -> workspace.listening().playing());
    assertThat(hear.getId()).isEqualTo("turn-spot-" + workspace.listening().chosenProperty().get());
    robot.interact(() -> workspace.listening().stop());
    ComboBox<String> decision = robot.lookup("#decision-v2").queryComboBox();
    robot.interact(() -> decision.getSelectionModel().select("Use with care"));
    await(() -> workspace.comparison().version("v2").orElseThrow().decision() == Decision.CARE);
    robot.clickOn("#verdict-v2").write("use this one").push(KeyCode.ENTER);
    await(
        () -> workspace.comparison().version("v2").orElseThrow().verdict().equals("use this one"));
    Path saved = folder.resolve("kept.sieve");
    robot.interact(
        () -> {
          try {
            workspace.document().save(saved);
          } catch (Exception e) {
            throw new AssertionError(e);
          }
        });
    assertThat(ComparisonFile.load(saved).version("v2").orElseThrow().verdict())
        .isEqualTo("use this one");
    robot.interact(workspace::startNew);
    robot.interact(
        () -> {
          try {
            workspace.open(saved);
          } catch (Exception e) {
            throw new AssertionError(e);
          }
        });
    awaitSheet();
    robot.interact(() -> workspace.stepProperty().set(Step.DECIDE));
    assertThat(find(robot, "#verdict-v2", TextField.class).getText()).isEqualTo("use this one");
  }

  @Test
  void aStandInMakesAVersionHere(FxRobot robot) {
    robot.interact(() -> workspace.addFiles(List.of(file("tape.wav"))));
    await(() -> workspace.sourceProperty().get() != null);
    robot.interact(
        () -> {
          try {
            workspace.document().save(folder.resolve("made.sieve"));
          } catch (Exception e) {
            throw new AssertionError(e);
          }
        });
    robot.doubleClickOn("#make-amounts").push(KeyCode.CONTROL, KeyCode.A).write("20, 70");
    robot.clickOn("#make");
    await(() -> workspace.comparison().versions().size() == 2);
    awaitSheet();
    assertThat(workspace.comparison().versions().get(1).amount()).isEqualTo(70);
    assertThat(Files.exists(folder.resolve("made-here"))).isTrue();
  }

  @Test
  void aBrokenFileIsExplainedInTheWindow(FxRobot robot) throws Exception {
    Path broken = Files.writeString(folder.resolve("broken.wav"), "no sound");
    robot.interact(() -> workspace.addFiles(List.of(file("tape.wav"), broken)));
    // The list follows what the model holds at the next pulse.
    await(
        () ->
            robot
                .lookup(
                    (Labeled l) -> l.getText() != null && l.getText().contains("not an audio file"))
                .tryQuery()
                .isPresent());
  }

  @Test
  void keysAreListedOnF1(FxRobot robot) {
    robot.push(KeyCode.F1);
    assertThat(robot.lookup("#keys").query().isVisible()).isTrue();
    robot.push(KeyCode.ESCAPE);
    assertThat(robot.lookup("#keys").query().isVisible()).isFalse();
  }
}
