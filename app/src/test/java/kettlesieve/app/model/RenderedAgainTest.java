package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A tool writes its result again while the window is open. */
class RenderedAgainTest extends WorkspaceFixture {
  private Path own;
  private String id;

  private static Path demo(String name) {
    return demos.resolve("keepers-log-" + name);
  }

  @BeforeEach
  void open() throws Exception {
    own = folder.resolve("log-own.wav");
    Path tape = folder.resolve("log-tape.wav");
    Files.copy(demo("tape.wav"), tape);
    Files.copy(demo("plain-subtraction-90.wav"), own);
    onUi(() -> workspace.addFiles(List.of(tape, own)));
    awaitSheet(1);
    id = workspace.comparison().versions().get(0).id();
    onUi(workspace::watchFiles);
  }

  private double score() {
    return workspace.sheetProperty().get().entries().get(0).card().overall().orElseThrow().value();
  }

  private void renderAgain(String with) throws Exception {
    Path next = folder.resolve("next.part");
    Files.copy(demo(with), next, StandardCopyOption.REPLACE_EXISTING);
    Files.move(next, own, StandardCopyOption.REPLACE_EXISTING);
  }

  @Test
  void itIsMeasuredAnewAndTheTakeBeforeIsHeardAndKept() throws Exception {
    String label = workspace.comparison().versions().get(0).label();
    double was = score();
    float[] before = workspace.state(id).recording().audio().samples(0, 40_000, 500);
    renderAgain("smoothed-wiener-60.wav");
    await(() -> workspace.messageProperty().get().contains("was rendered again:"));
    await(() -> workspace.news().kindProperty().get() == News.Kind.DONE);
    assertThat(workspace.messageProperty().get())
        .isEqualTo(
            label
                + " was rendered again: "
                + Numbers.fixed(score(), 0)
                + ", was "
                + Numbers.fixed(was, 0)
                + ".");
    assertThat(score()).isNotEqualTo(was);
    // It was said: no warning stays that the file has changed.
    assertThat(workspace.sheetProperty().get().allNotices())
        .noneMatch(n -> n.line().contains("changed since"));
    String take = Takes.heardAs(id);
    assertThat(workspace.listening().audible(take)).isTrue();
    onUi(() -> workspace.listening().choose(take));
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo(take);
    onUi(() -> workspace.takes().keep(id));
    awaitSheet(2);
    Version kept = workspace.comparison().versions().get(1);
    assertThat(kept.label()).isEqualTo(label + " (before)");
    assertThat(kept.media().file().getFileName()).hasToString("log-own-before.wav");
    assertThat(workspace.state(kept.id()).recording().audio().samples(0, 40_000, 500))
        .isEqualTo(before);
    assertThat(
            workspace.sheetProperty().get().entries().stream()
                .filter(e -> e.version().id().equals(kept.id()))
                .findFirst()
                .orElseThrow()
                .card()
                .overall()
                .orElseThrow()
                .value())
        .isEqualTo(was);
    assertThat(workspace.takes().before()).isEmpty();
    assertThat(workspace.listening().audible(take)).isFalse();
    onUi(() -> workspace.document().discardChanges());
  }

  @Test
  void theTakeBeforeCanBeLetGo() throws Exception {
    renderAgain("smoothed-wiener-30.wav");
    await(() -> workspace.takes().before().containsKey(id) && !workspace.busyProperty().get());
    await(() -> workspace.news().kindProperty().get() == News.Kind.DONE);
    onUi(() -> workspace.takes().drop(id));
    assertThat(workspace.listening().audible(Takes.heardAs(id))).isFalse();
    onUi(() -> workspace.document().discardChanges());
  }

  /** What was written again before it was measured: the take before is what was heard last. */
  @Test
  void twiceInARowTheTakeBeforeStaysWhatItWas() throws Exception {
    String was = workspace.state(id).recording().facts().sha256();
    VersionState known = workspace.state(id);
    Recording other =
        new MediaReader(folder.resolve("decoded"))
            .read(demo("smoothed-wiener-90.wav"), Progress.SILENT);
    onUi(
        () -> {
          Version v = workspace.comparison().versions().get(0);
          workspace.takes().rendered(v);
          // Half of the next run is done: its samples are there, its match is not.
          workspace
              .versionStates()
              .put(id, new VersionState(Map.of("", other), known.prepared(), null));
          workspace.takes().rendered(v);
          workspace.versionStates().put(id, known);
        });
    assertThat(workspace.takes().before().get(id).recording().facts().sha256()).isEqualTo(was);
    renderAgain("smoothed-wiener-30.wav");
    await(() -> workspace.news().kindProperty().get() == News.Kind.DONE);
    assertThat(workspace.takes().before().get(id).recording().facts().sha256()).isEqualTo(was);
    onUi(() -> workspace.document().discardChanges());
  }

  /** What says "measuring it anew" is always followed by what came of it. */
  @Test
  void theSameBytesAStopAndARuinAreToldAsWhatTheyAre() throws Exception {
    renderAgain("plain-subtraction-90.wav");
    await(() -> workspace.messageProperty().get().contains("to the same bytes"));
    assertThat(workspace.takes().before()).isEmpty();
    double was = score();
    onUi(
        () -> {
          workspace.takes().rendered(workspace.comparison().versions().get(0));
          workspace.cancelWork();
        });
    // Nothing was measured: no figure of before is told as a new one.
    assertThat(workspace.messageProperty().get()).endsWith("is not measured yet.");
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.PROBLEM);
    assertThat(score()).isEqualTo(was);
    Path next = folder.resolve("next.part");
    Files.writeString(next, "no sound at all, but enough of it to be a file");
    Files.move(next, own, StandardCopyOption.REPLACE_EXISTING);
    await(() -> workspace.messageProperty().get().contains("and cannot be used: "));
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.PROBLEM);
    onUi(() -> workspace.document().discardChanges());
  }

  /** Coming back to the window takes nothing that is half written. */
  @Test
  void theFocusTakesNoHalfFile() throws Exception {
    byte[] all = Files.readAllBytes(demo("smoothed-wiener-60.wav"));
    Files.write(own, java.util.Arrays.copyOf(all, all.length / 2));
    onUi(workspace::lookAgain);
    Thread.sleep(600);
    assertThat(workspace.state(id).problem()).isNull();
    assertThat(workspace.takes().before()).isEmpty();
    Files.write(own, all);
    await(() -> workspace.messageProperty().get().contains("was rendered again: "));
    onUi(() -> workspace.document().discardChanges());
  }

  /** When the workspace is closed nobody looks any more. */
  @Test
  void nothingIsWatchedAfterTheEnd() {
    workspace.close();
    assertThat(
            Thread.getAllStackTraces().keySet().stream()
                .filter(t -> t.getName().equals("watching files"))
                .filter(Thread::isAlive))
        .isEmpty();
  }

  /** What appears beside the versions and is called like them is offered; other files are not. */
  @Test
  void newFilesThatFitAreOffered() throws Exception {
    Path next = folder.resolve("log-wiener-60.wav");
    Path other = folder.resolve("shopping.wav");
    // What lies there at the first look is not new.
    Thread.sleep(2200);
    // What this program writes there itself is no version.
    Path reel = folder.resolve("log-reel.wav");
    onUi(() -> workspace.handover().reel(reel, new Handover.ReelWish(0, "", true, 0.5)));
    await(() -> Files.exists(reel) && !workspace.handover().busyProperty().get());
    Files.copy(demo("smoothed-wiener-60.wav"), folder.resolve(".part"));
    Files.copy(demo("smoothed-wiener-60.wav"), other);
    Files.move(folder.resolve(".part"), next);
    await(() -> !workspace.newFiles().offered().isEmpty());
    assertThat(workspace.newFiles().offered()).containsExactly(next);
    onUi(() -> workspace.addFiles(List.copyOf(workspace.newFiles().offered())));
    awaitSheet(2);
    assertThat(workspace.newFiles().offered()).isEmpty();
    onUi(() -> workspace.document().discardChanges());
  }

  /** Nothing is touched while a blind round runs. */
  @Test
  void aRoundIsNotDisturbed() throws Exception {
    Map<String, ?> before = Map.copyOf(workspace.takes().before());
    onUi(
        () ->
            workspace
                .rounds()
                .begin(
                    new Rounds.Plan(
                        kettlesieve.core.comparison.Round.Kind.RATING,
                        kettlesieve.core.comparison.Round.Question.OVERALL,
                        List.of(id),
                        4,
                        "",
                        new kettlesieve.core.comparison.TimeSpan(1, 4),
                        "")));
    renderAgain("smoothed-wiener-90.wav");
    Thread.sleep(2500);
    assertThat(workspace.takes().before()).isEqualTo(before);
    onUi(() -> workspace.rounds().end());
    await(() -> workspace.takes().before().containsKey(id));
    await(() -> !workspace.busyProperty().get());
    onUi(() -> workspace.document().discardChanges());
  }
}
