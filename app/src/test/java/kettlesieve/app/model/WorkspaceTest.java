package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.KeepersLog;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The workspace without a window. */
class WorkspaceTest extends WorkspaceFixture {
  @BeforeAll
  static void makeDemo() throws Exception {
    KeepersLog.make(demos, Progress.SILENT);
  }

  private static Path file(String name) {
    return demos.resolve("keepers-log-" + name);
  }

  private void bringIn() {
    onUi(
        () ->
            workspace.addFiles(
                List.of(
                    file("tape.wav"),
                    file("plain-subtraction-60.wav"),
                    file("smoothed-wiener-90.wav"))));
    awaitSheet(2);
  }

  @Test
  void filesAreSortedMatchedAndScored() {
    bringIn();
    assertThat(workspace.comparison().source().file()).isEqualTo(file("tape.wav"));
    Version first = workspace.comparison().versions().get(0);
    assertThat(first.label()).isEqualTo("Plain subtraction 60");
    assertThat(first.tool()).isEqualTo("Plain subtraction");
    assertThat(first.amount()).isEqualTo(60);
    assertThat(first.media().sha256()).hasSize(64);
    assertThat(workspace.state(first.id()).prepared().match().delaySamples()).isEqualTo(1152);
    assertThat(workspace.listening().audible(first.id())).isTrue();
    ScoreSheet sheet = workspace.sheetProperty().get();
    assertThat(sheet.entries().get(1).version().match().polarity()).isEqualTo(-1);
  }

  @Test
  void everythingCanBeUndoneAndRedone() {
    bringIn();
    String id = workspace.comparison().versions().get(0).id();
    onUi(() -> workspace.edit(c -> c.withExcerpt(new TimeSpan(2, 12))));
    onUi(() -> workspace.edit(c -> c.minus(id)));
    assertThat(workspace.comparison().versions()).hasSize(1);
    onUi(workspace.document()::undo);
    assertThat(workspace.comparison().versions()).hasSize(2);
    assertThat(workspace.comparison().excerpt()).isNotNull();
    onUi(workspace.document()::undo);
    assertThat(workspace.comparison().excerpt()).isNull();
    onUi(workspace.document()::redo);
    assertThat(workspace.comparison().excerpt()).isEqualTo(new TimeSpan(2, 12));
    onUi(() -> workspace.edit(c -> c.withNotes("a new branch")));
    assertThat(workspace.document().canRedoProperty().get()).isFalse();
    awaitSheet(2);
  }

  @Test
  void anOverrideIsMatchedAgainAndTheRestStays() {
    bringIn();
    Version version = workspace.comparison().versions().get(0);
    String other = workspace.comparison().versions().get(1).id();
    Prepared before = workspace.state(other).prepared();
    onUi(
        () ->
            workspace.edit(
                c ->
                    c.withVersion(
                        version.withMatch(
                            MatchOverride.NONE.withDelaySamples(1000.0).withGainDb(3.0)))));
    await(() -> workspace.state(version.id()).prepared().match().delaySamples() == 1000);
    awaitSheet(2);
    assertThat(workspace.state(version.id()).prepared().match().gainDb()).isEqualTo(3);
    assertThat(workspace.state(other).prepared()).isSameAs(before);
  }

  @Test
  void anotherProfileScoresAtOnceWithoutMeasuringAgain() {
    bringIn();
    var readings = workspace.sheetProperty().get().versions().get(0);
    onUi(() -> workspace.edit(c -> c.withProfile("archive")));
    assertThat(workspace.sheetProperty().get().profile().name()).isEqualTo("archive");
    assertThat(workspace.sheetProperty().get().versions().get(0)).isSameAs(readings);
    assertThat(workspace.busyProperty().get()).isFalse();
  }

  @Test
  void aBrokenVersionSaysWhyAndTheOthersGoOn() throws Exception {
    Path broken = Files.writeString(folder.resolve("broken.wav"), "no sound");
    onUi(
        () ->
            workspace.addFiles(
                List.of(file("tape.wav"), broken, file("plain-subtraction-30.wav"))));
    awaitSheet(1);
    String id = workspace.comparison().versions().get(0).id();
    assertThat(workspace.state(id).problem()).contains("Export it again");
    assertThat(workspace.sheetProperty().get().failed()).hasSize(1);
  }

  @Test
  void aMissingSourceIsSaidAndCanBePointedTo() {
    onUi(
        () ->
            workspace.addFiles(
                List.of(folder.resolve("gone.wav"), file("plain-subtraction-30.wav"))));
    await(() -> workspace.sourceProblemProperty().get() != null);
    assertThat(workspace.sourceProblemProperty().get())
        .contains("gone.wav")
        .contains("no such file");
    onUi(
        () ->
            workspace.edit(
                c -> c.withSource(kettlesieve.core.comparison.MediaRef.of(file("tape.wav")))));
    awaitSheet(1);
    assertThat(workspace.sourceProblemProperty().get()).isNull();
  }

  @Test
  void savesOpensAndKeepsWhatIsOpenWhenAFileIsBad() throws Exception {
    bringIn();
    Path saved = folder.resolve("log.sieve");
    onUi(() -> workspace.edit(c -> c.withName("Watch room")));
    assertThat(workspace.document().unsavedProperty().get()).isTrue();
    onUi(() -> workspace.document().save(saved));
    assertThat(workspace.document().unsavedProperty().get()).isFalse();
    Path bad = Files.writeString(folder.resolve("bad.sieve"), "{");
    assertThatThrownBy(() -> workspace.open(bad)).isInstanceOf(ComparisonFileException.class);
    assertThat(workspace.comparison().name()).isEqualTo("Watch room");
    onUi(workspace::startNew);
    assertThat(workspace.comparison().source()).isNull();
    onUi(() -> workspace.open(saved));
    assertThat(workspace.comparison().name()).isEqualTo("Watch room");
    assertThat(workspace.document().canUndoProperty().get()).isFalse();
    awaitSheet(2);
  }

  @Test
  void unsavedWorkIsOfferedAfterACrash() {
    bringIn();
    onUi(() -> workspace.edit(c -> c.withNotes("half a verdict")));
    workspace.close();
    Workspace next = create();
    try {
      Autosave.Copy copy = next.document().autosave().left().get(0);
      assertThat(copy.comparison().notes()).isEqualTo("half a verdict");
      assertThat(copy.original()).isNull();
      onUi(() -> next.recover(copy));
      assertThat(next.document().unsavedProperty().get()).isTrue();
    } finally {
      next.close();
    }
  }

  /** Replaced, removed and brought back while the person was elsewhere. */
  @Test
  void filesThatChangedAreNoticed() throws Exception {
    Path own = folder.resolve("own.wav");
    Files.copy(file("plain-subtraction-90.wav"), own);
    onUi(() -> workspace.addFiles(List.of(file("tape.wav"), own)));
    awaitSheet(1);
    String first = workspace.comparison().versions().get(0).id();
    onUi(workspace::lookAgain);
    Path away = Files.move(own, folder.resolve("away.wav"));
    onUi(workspace::lookAgain);
    await(() -> workspace.messageProperty().get().contains("is gone"));
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.PROBLEM);
    await(() -> workspace.state(first).problem() != null);
    Files.move(away, own);
    onUi(workspace::lookAgain);
    await(() -> workspace.messageProperty().get().contains("is there again"));
    await(
        () ->
            workspace.state(first).problem() == null && workspace.state(first).prepared() != null);
    Files.copy(
        file("smoothed-wiener-90.wav"), own, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    List<String> told = new java.util.concurrent.CopyOnWriteArrayList<>();
    workspace.messageProperty().addListener((o, was, is) -> told.add(is));
    onUi(workspace::lookAgain);
    await(() -> told.stream().anyMatch(t -> t.contains("was rendered again: ")));
    // The file is named as it is called.
    assertThat(told.get(0)).contains("was rendered again (own.wav): measuring it anew");
    onUi(() -> workspace.document().discardChanges());
  }

  @Test
  void aComparisonThatAnotherProgramChangedIsTakenIn() throws Exception {
    Path saved = folder.resolve("shared.sieve");
    onUi(() -> workspace.addFiles(List.of(file("tape.wav"))));
    onUi(() -> workspace.document().save(saved));
    kettlesieve.core.comparison.ComparisonFile.update(saved, c -> c.withNotes("theirs"));
    onUi(workspace::lookAgain);
    await(() -> workspace.comparison().notes().equals("theirs"));
    assertThat(workspace.document().unsavedProperty().get()).isFalse();
    onUi(() -> workspace.edit(c -> c.withNotes("mine")));
    kettlesieve.core.comparison.ComparisonFile.update(saved, c -> c.withNotes("theirs again"));
    onUi(workspace::lookAgain);
    await(() -> workspace.messageProperty().get().contains("when you save"));
    assertThat(workspace.comparison().notes()).isEqualTo("mine");
  }

  @Test
  void workCanBeCancelledAndTakenUpAgain() {
    onUi(() -> workspace.addFiles(List.of(file("tape.wav"), file("plain-subtraction-90.wav"))));
    onUi(workspace::cancelWork);
    await(() -> !workspace.busyProperty().get());
    onUi(workspace::workAgain);
    awaitSheet(1);
  }

  @Test
  void playingASpotLoopsIt() {
    bringIn();
    String id = workspace.comparison().versions().get(0).id();
    onUi(() -> workspace.listening().playSpot(id, new TimeSpan(4, 4.4)));
    await(() -> workspace.listening().positionSeconds() > 4.1);
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo(id);
    assertThat(workspace.listening().positionSeconds()).isBetween(3.9, 4.41);
    onUi(() -> workspace.listening().stop());
    await(() -> !workspace.listening().playing());
  }

  @Test
  void aNewComparisonDuringAnalysisStaysEmpty() {
    onUi(() -> workspace.addFiles(List.of(file("tape.wav"), file("plain-subtraction-90.wav"))));
    await(() -> workspace.sourceProperty().get() != null);
    onUi(() -> workspace.stepProperty().set(Step.MEASURE));
    onUi(workspace::startNew);
    assertThat(workspace.stepProperty().get()).isEqualTo(Step.GATHER);
    // What the old run still has to say comes after this, and must be dropped.
    onUi(() -> workspace.addFiles(List.of(folder.resolve("gone.wav"))));
    await(() -> workspace.sourceProblemProperty().get() != null);
    assertThat(workspace.sourceProperty().get()).isNull();
    assertThat(workspace.preparedExcerptProperty().get()).isNull();
    assertThat(workspace.sheetProperty().get()).isNull();
    assertThat(workspace.versionStates()).isEmpty();
  }

  @Test
  void checksumsNeverReachAnotherComparison() throws Exception {
    Comparison other =
        Comparison.empty("other", kettlesieve.core.comparison.Job.DENOISE)
            .withSource(kettlesieve.core.comparison.MediaRef.of(file("clean.flac")));
    Path saved = folder.resolve("other.sieve");
    kettlesieve.core.comparison.ComparisonFile.save(other, saved);
    onUi(() -> workspace.addFiles(List.of(file("tape.wav"), file("plain-subtraction-90.wav"))));
    onUi(() -> workspace.open(saved));
    await(() -> workspace.comparison().source().sha256() != null);
    assertThat(workspace.comparison().source().sha256())
        .isEqualTo(kettlesieve.core.media.Checksum.sha256(file("clean.flac")));
  }

  @Test
  void oneClickComparesOnWhatAllCover() throws Exception {
    var reader = new MediaReader(folder.resolve("cache"));
    var whole = reader.read(file("plain-subtraction-60.wav"), Progress.SILENT).audio();
    Path brief = folder.resolve("brief.wav");
    kettlesieve.core.media.WavWriter.write(
        whole.slice(0, 20L * whole.sampleRate()),
        brief,
        kettlesieve.core.media.WavWriter.Format.PCM_24,
        Progress.SILENT);
    onUi(
        () -> workspace.addFiles(List.of(file("tape.wav"), brief, file("smoothed-wiener-90.wav"))));
    awaitSheet(2);
    TimeSpan all =
        CommonPart.of(workspace.comparison(), workspace.sourceProperty().get(), workspace::state)
            .orElseThrow();
    assertThat(all.from()).isZero();
    assertThat(all.to()).isBetween(19.9, 20.0);
    onUi(() -> workspace.edit(c -> c.withExcerpt(all)));
    awaitSheet(2);
    await(
        () ->
            CommonPart.of(
                    workspace.comparison(), workspace.sourceProperty().get(), workspace::state)
                .isEmpty());
  }
}
