package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.KeepersLog;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Blind rounds and the comparison they belong to: what is kept, and what may not disturb them. */
class RoundsTest extends WorkspaceFixture {
  @BeforeAll
  static void makeDemo() throws Exception {
    KeepersLog.make(demos, Progress.SILENT);
  }

  private void bringIn() {
    onUi(
        () ->
            workspace.addFiles(
                List.of(
                    demos.resolve("keepers-log-tape.wav"),
                    demos.resolve("keepers-log-plain-subtraction-60.wav"),
                    demos.resolve("keepers-log-smoothed-wiener-30.wav"))));
    awaitSheet(2);
  }

  private void begin(Round.Kind kind) {
    workspace
        .rounds()
        .begin(
            new Rounds.Plan(
                kind,
                Round.Question.OVERALL,
                List.of("v1", "v2"),
                8,
                "K.",
                new TimeSpan(2, 4),
                ""));
  }

  /** The round as a program that is killed now leaves it. */
  private Round onDisk() {
    try (Stream<Path> files = Files.walk(folder.resolve("state/unsaved"))) {
      Path copy =
          files.filter(f -> f.toString().endsWith(ComparisonFile.ENDING)).findFirst().orElseThrow();
      return ComparisonFile.load(copy).rounds().get(0);
    } catch (IOException | kettlesieve.core.comparison.ComparisonFileException e) {
      throw new AssertionError(e);
    }
  }

  @Test
  void everyAnswerIsOnTheDiskBeforeTheNextTrialIsOn() {
    bringIn();
    onUi(
        () -> {
          begin(Round.Kind.ABX);
          assertThat(onDisk().next()).isZero();
          for (int i = 1; i <= 8; i++) {
            workspace.rounds().answer("v1");
            assertThat(onDisk().trials().stream().filter(t -> t.answer() != null)).hasSize(i);
          }
          workspace.edit(c -> c.withRounds(List.of()));
          begin(Round.Kind.RATING);
          for (int i = 0; i < 4; i++) {
            workspace.rounds().place(i, 10.0 * i);
            assertThat(onDisk().trials().get(i).position()).isEqualTo(10.0 * i);
          }
        });
  }

  @Test
  void whatChangedElsewhereWaitsUntilTheRoundIsOverAndIsSaid() throws Exception {
    Path saved = folder.resolve("shared.sieve");
    bringIn();
    onUi(
        () -> {
          begin(Round.Kind.ABX);
          workspace.rounds().answer("v1");
          workspace.rounds().end();
          workspace.document().save(saved);
        });
    ComparisonFile.update(saved, c -> c.withNotes("theirs"));
    onUi(
        () -> {
          // One look was on its way when the round went on, one comes while it runs.
          workspace.lookAgain();
          workspace.rounds().goOn(workspace.comparison().rounds().get(0));
          workspace.lookAgain();
        });
    Thread.sleep(300);
    onUi(
        () -> {
          assertThat(workspace.comparison().notes()).isEmpty();
          assertThat(workspace.rounds().runningProperty().get()).isNotNull();
          workspace.rounds().hear(2);
          workspace.rounds().end();
        });
    // No answer came: nothing of ours is lost, and theirs is taken in now.
    await(() -> workspace.comparison().notes().equals("theirs"));
    await(() -> workspace.messageProperty().get().contains("nother program has changed"));
    awaitSheet(2);
    ComparisonFile.update(saved, c -> c.withNotes("theirs again"));
    onUi(
        () -> {
          workspace.rounds().goOn(workspace.comparison().rounds().get(0));
          workspace.lookAgain();
          workspace.rounds().answer("v2");
          workspace.rounds().answer("v2");
          workspace.rounds().end();
        });
    // Now there are answers of ours: they stay, and it is said.
    await(() -> workspace.messageProperty().get().contains("when you save"));
    Comparison c = workspace.comparison();
    assertThat(c.notes()).isEqualTo("theirs");
    assertThat(c.rounds().get(0).next()).isEqualTo(3);
  }

  @Test
  void anotherComparisonEndsTheRoundAndAnswersThatComeLateGoNowhere() {
    bringIn();
    onUi(
        () -> {
          begin(Round.Kind.ABX);
          workspace.rounds().hear(0);
          workspace.startNew();
          assertThat(workspace.rounds().runningProperty().get()).isNull();
          assertThat(workspace.rounds().playing()).isFalse();
          workspace.rounds().answer("v1");
          workspace.rounds().place(0, 50);
          assertThat(workspace.comparison().rounds()).isEmpty();
        });
  }
}
