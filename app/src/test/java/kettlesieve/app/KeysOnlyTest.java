package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.Choosers;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Decision;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** A whole denoise comparison without a mouse, from the empty window to the written report. */
class KeysOnlyTest extends WindowFixture {
  /** What a person types into the system's dialogs. */
  private final Deque<Path> typed = new ArrayDeque<>();

  @Start
  void start(Stage stage) {
    show(stage);
    Choosers.askBy(new TypedFiles(typed));
  }

  @AfterEach
  void ask(FxRobot robot) {
    robot.interact(() -> Choosers.askBy(null));
  }

  @Test
  void fromTheEmptyWindowToTheReport(FxRobot robot) throws Exception {
    // Files are copied in a file manager, and pasted.
    robot.interact(
        () -> {
          ClipboardContent content = new ClipboardContent();
          content.putFiles(
              List.of(
                  file("tape.wav").toFile(),
                  file("plain-subtraction-60.wav").toFile(),
                  file("smoothed-wiener-30.wav").toFile()));
          Clipboard.getSystemClipboard().setContent(content);
        });
    robot.push(KeyCode.CONTROL, KeyCode.V);
    // Several files are shown for correction; the button that takes them has the focus or is near.
    await(() -> robot.lookup("#sort-take").tryQuery().isPresent());
    tabTo(robot, "sort-take");
    robot.push(KeyCode.ENTER);
    awaitSheet();
    Path comparison = folder.resolve("keys.sieve");
    typed.add(comparison);
    robot.push(KeyCode.CONTROL, KeyCode.S);
    await(() -> Files.exists(comparison));

    // Listen: play, a version, the excerpt by its two ends, a mark.
    robot.push(KeyCode.CONTROL, KeyCode.DIGIT3);
    assertThat(workspace.stepProperty().get()).isEqualTo(Step.LISTEN);
    robot.push(KeyCode.A);
    robot.write("0:02.0");
    robot.push(KeyCode.ENTER);
    await(() -> Math.abs(workspace.listening().positionSeconds() - 2) < 0.01);
    robot.push(KeyCode.I);
    robot.push(KeyCode.A);
    robot.write("0:10.0");
    robot.push(KeyCode.ENTER);
    robot.push(KeyCode.O);
    assertThat(workspace.comparison().excerpt().from()).isBetween(1.99, 2.01);
    assertThat(workspace.comparison().excerpt().to()).isBetween(9.99, 10.01);
    await(() -> !workspace.busyProperty().get());
    robot.push(KeyCode.SPACE);
    await(() -> workspace.listening().playing());
    robot.push(KeyCode.DIGIT2);
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo("v2");
    robot.push(KeyCode.K);
    assertThat(workspace.comparison().marks()).hasSize(1);
    robot.push(KeyCode.SPACE);

    // Measure: through the sheet, hear a spot, decide.
    awaitSheet();
    robot.push(KeyCode.CONTROL, KeyCode.DIGIT4);
    tabTo(robot, "sheet-table");
    robot.push(KeyCode.CONTROL, KeyCode.HOME);
    robot.push(KeyCode.HOME);
    String first = workspace.selection().addressProperty().get().toString();
    robot.push(KeyCode.RIGHT);
    robot.push(KeyCode.DOWN);
    assertThat(workspace.selection().addressProperty().get().toString()).isNotEqualTo(first);
    assertThat(workspace.selection().versionProperty().get()).isEqualTo("v2");
    robot.push(KeyCode.END);
    robot.push(KeyCode.HOME);
    robot.push(KeyCode.UP);
    robot.push(KeyCode.ENTER);
    await(() -> workspace.listening().spotLoopProperty().get() != null);
    robot.push(KeyCode.N);
    robot.push(KeyCode.SPACE);
    robot.push(KeyCode.Q);
    robot.push(KeyCode.DOWN);
    robot.push(KeyCode.ENTER);
    await(() -> workspace.comparison().version("v1").orElseThrow().decision() != null);
    assertThat(workspace.comparison().version("v1").orElseThrow().decision())
        .isEqualTo(Decision.values()[0]);

    // Decide: the report, through its dialog.
    robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
    tabTo(robot, "report");
    Path report = folder.resolve("keys.html");
    typed.add(report);
    robot.push(KeyCode.ENTER);
    await(() -> robot.listWindows().size() > 1);
    robot.push(KeyCode.ENTER);
    await(() -> Files.exists(report) && !workspace.handover().busyProperty().get());
    assertThat(Files.readString(report)).contains("Smoothed wiener");
    robot.push(KeyCode.CONTROL, KeyCode.S);
    await(() -> !workspace.document().unsavedProperty().get());
    assertThat(ComparisonFile.load(comparison).marks()).hasSize(1);
    assertThat(ComparisonFile.load(comparison).version("v1").orElseThrow().decision())
        .isEqualTo(Decision.values()[0]);
  }

  /** With Tab and F6, as many as it takes; where that leads nowhere, a mouse would be needed. */
  private void tabTo(FxRobot robot, String id) {
    for (int area = 0; area < 4; area++) {
      for (int i = 0; i < 60; i++) {
        var owner = frame().getScene().getFocusOwner();
        if (owner != null && id.equals(owner.getId())) {
          return;
        }
        robot.push(KeyCode.TAB);
      }
      robot.push(KeyCode.F6);
    }
    throw new AssertionError("no key leads to #" + id);
  }

  @Test
  void areasAreEnteredOneAfterAnother(FxRobot robot) {
    bringIn(robot);
    for (String area : List.of("rail", "header", "listening-bar")) {
      boolean found = false;
      for (int i = 0; i < 5 && !found; i++) {
        robot.push(KeyCode.F6);
        for (var n = frame().getScene().getFocusOwner(); n != null; n = n.getParent()) {
          found |= n.getStyleClass().contains(area);
        }
      }
      assertThat(found).as(area).isTrue();
    }
    robot.push(KeyCode.F6);
    robot.push(KeyCode.SHIFT, KeyCode.F6);
    boolean back = false;
    for (var n = frame().getScene().getFocusOwner(); n != null; n = n.getParent()) {
      back |= n.getStyleClass().contains("listening-bar");
    }
    assertThat(back).isTrue();
  }
}
