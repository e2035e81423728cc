package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.RoundupDesk;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.Choosers;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.core.roundup.Roundup;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** Test pieces and the round-up, on the real window. */
class RoundupWindowTest extends WindowFixture {
  private final Deque<Path> typed = new ArrayDeque<>();

  @Start
  void start(Stage stage) {
    show(stage);
    Choosers.askBy(new TypedFiles(typed));
  }

  @AfterEach
  void system(FxRobot robot) {
    robot.interact(() -> Choosers.askBy(null));
  }

  private static void fire(FxRobot robot, String id) {
    Node node = robot.lookup(id).query();
    robot.interact(() -> ((Button) node).fire());
  }

  private RoundupDesk desk() {
    return workspace.roundups();
  }

  private static String said(FxRobot robot, String id) {
    return ((Label) robot.lookup(id).query()).getText();
  }

  /** A sweep of two, two tools on both, the figures, a cell that opens: all by hand and keys. */
  @Test
  void fromACleanRecordingToWhichToolHolds(FxRobot robot) throws Exception {
    robot.interact(() -> frame().showTestPiece());
    // What is missing is said, and nothing is asked for.
    fire(robot, "#piece-make");
    assertThat(said(robot, "#piece-problem")).contains("clean recording");
    typed.add(file("clean.wav"));
    fire(robot, "#piece-clean");
    TextField ratios = robot.lookup("#piece-difficulty-denoise").query();
    robot.interact(() -> ratios.setText("20, none"));
    fire(robot, "#piece-make");
    assertThat(said(robot, "#piece-problem")).contains("“none”");
    TextField tags = robot.lookup("#piece-tags").query();
    robot.interact(
        () -> {
          ratios.setText("20, 5");
          tags.setText("surf, voice");
        });
    typed.add(folder.resolve("piece"));
    fire(robot, "#piece-make");
    await(() -> desk().showingProperty().get() && !desk().runningProperty().get());
    Comparison first = ComparisonFile.load(folder.resolve("piece-1.sieve"));
    assertThat(first.made().snr()).isEqualTo(20.0);
    assertThat(first.tags()).containsExactly("surf", "voice");
    assertThat(ComparisonFile.load(folder.resolve("piece-2.sieve")).made().snr()).isEqualTo(5.0);
    // They have no versions yet; two tools are run on both.
    await(() -> robot.lookup("#roundup-answer").query().isVisible());
    MenuButton tools = robot.lookup("#roundup-tools").query();
    robot.interact(
        () -> tools.getItems().subList(0, 2).forEach(i -> ((CheckMenuItem) i).setSelected(true)));
    TextField amounts = robot.lookup("#roundup-amounts").query();
    robot.interact(() -> amounts.setText("40"));
    fire(robot, "#roundup-make");
    await(
        () ->
            desk().roundupProperty().get().all().entries().size() == 2
                && !desk().runningProperty().get()
                && desk().roundupProperty().get().all().recordings() == 2);
    Roundup made = desk().roundupProperty().get();
    assertThat(made.all().entries()).allMatch(e -> e.measured() == 2);
    assertThat(robot.lookup("#roundup-difficulty").tryQuery()).isPresent();
    assertThat(desk().tags()).containsExactly("surf", "voice");

    // Keys: over the cells, sorted by a recording, and into it.
    Node matrix = robot.lookup("#roundup-matrix").query();
    robot.interact(matrix::requestFocus);
    for (int i = 0; i < 5; i++) {
      robot.push(KeyCode.RIGHT);
    }
    assertThat(said(robot, "#roundup-chosen")).contains("piece-1, 20 dB").contains("Enter opens");
    robot.push(KeyCode.RIGHT).push(KeyCode.S);
    String best = said(robot, "#roundup-chosen");
    double first5 =
        made.all().entries().stream().mapToDouble(e -> e.cells().get(1).value()).max().orElse(0);
    assertThat(best).contains("piece-2, 5 dB").contains(": " + Math.round(first5));
    // Keys of the comparison behind do nothing here.
    int versions = workspace.comparison().versions().size();
    robot.push(KeyCode.SPACE).push(KeyCode.CONTROL, KeyCode.DIGIT4);
    assertThat(workspace.listening().playing()).isFalse();
    assertThat(workspace.comparison().versions()).hasSize(versions);
    ComboBox<Aspect> aspect = robot.lookup("#roundup-aspect").query();
    robot.interact(() -> aspect.setValue(new Aspect("pause-noise", "")));
    assertThat(desk().roundupProperty().get().aspect().what()).isEqualTo("pause-noise");
    robot.interact(matrix::requestFocus);
    robot.push(KeyCode.ENTER);
    await(() -> !desk().showingProperty().get());
    assertThat(workspace.document().fileProperty().get().getFileName())
        .hasToString("piece-2.sieve");
    assertThat(workspace.stepProperty().get()).isEqualTo(Step.MEASURE);
    awaitSheet(2);

    // Back, saved as a page and as a table, and closed by Escape.
    robot.interact(() -> desk().showingProperty().set(true));
    MenuButton save = robot.lookup("#roundup-save").query();
    for (String ending : List.of("html", "csv", "json", "pdf")) {
      Path out = folder.resolve("r." + ending);
      typed.add(out);
      robot.interact(
          () ->
              save.getItems().stream()
                  .filter(i -> i.getId().equals("roundup-" + ending))
                  .findFirst()
                  .orElseThrow()
                  .fire());
      assertThat(Files.size(out)).isGreaterThan(300);
    }
    robot.push(KeyCode.ESCAPE);
    assertThat(desk().showingProperty().get()).isFalse();
  }

  @Test
  void brokenOnesAreNamedAndAStopIsHeeded(FxRobot robot) throws Exception {
    Path many = Files.createDirectories(folder.resolve("many"));
    Files.writeString(many.resolve("broken.sieve"), "{");
    Comparison c = ComparisonFile.load(demo().resolve("keepers-log.sieve"));
    for (int i = 0; i < 2; i++) {
      double from = 2.0 * i;
      ComparisonFile.save(
          c.withName("part " + i)
              .withVersions(c.versions().subList(0, 1))
              .withExcerpt(new kettlesieve.core.comparison.TimeSpan(from, from + 6)),
          many.resolve("part-" + i + ".sieve"));
    }
    robot.interact(() -> desk().showingProperty().set(true));
    assertThat(robot.lookup("#roundup-empty").query().isVisible()).isTrue();
    // Stopped in the turn in which it began, whatever was measured before.
    robot.interact(
        () -> {
          desk().add(List.of(many.resolve("part-0.sieve")));
          assertThat(desk().runningProperty().get()).isTrue();
          ((Button) robot.lookup("#roundup-stop").query()).fire();
        });
    assertThat(desk().runningProperty().get()).isFalse();
    assertThat(desk().roundupProperty().get()).isNull();
    assertThat(said(robot, "#roundup-state")).startsWith("Stopped.");
    typed.add(many);
    fire(robot, "#roundup-folder");
    await(() -> desk().files().size() == 3);
    await(() -> !desk().runningProperty().get() && desk().roundupProperty().get() != null);
    Roundup now = desk().roundupProperty().get();
    assertThat(now.comparisons()).hasSize(2);
    assertThat(now.failed()).hasSize(1);
    assertThat(now.failed().get(0).file()).isEqualTo("broken.sieve");
    assertThat(said(robot, "#roundup-state")).contains("1 cannot be used");
    fire(robot, "#roundup-clear");
    assertThat(desk().roundupProperty().get()).isNull();
  }
}
