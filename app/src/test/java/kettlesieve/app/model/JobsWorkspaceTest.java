package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.Turns;
import kettlesieve.core.rig.CommandTool;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.Run;
import org.junit.jupiter.api.Test;

/** The workspace with the other kinds of job, without a window. */
class JobsWorkspaceTest extends JobsFixture {
  @Test
  void stemsAreHeardAloneMutedAndInSums() {
    open(sieve("boathouse-waltz"), 4);
    Listening listening = workspace.listening();
    await(() -> listening.audible(Listening.REFERENCE));
    assertThat(listening.allRoles())
        .contains("vocals", "drums", "bass", "concertina", "everything but drums");
    onUi(() -> listening.solo("drums"));
    assertThat(listening.rolesProperty().get()).containsExactly("drums");
    onUi(() -> listening.solo("drums"));
    assertThat(listening.rolesProperty().get()).isEmpty();
    onUi(() -> listening.mute("vocals"));
    assertThat(listening.rolesProperty().get()).contains("drums").doesNotContain("vocals");
    onUi(() -> listening.mute("vocals"));
    assertThat(listening.rolesProperty().get()).isEmpty();
    onUi(() -> listening.hear(new RoleSum("mix without drums", List.of("drums"), true)));
    assertThat(listening.rolesProperty().get()).isEqualTo(Set.of("drums"));
    assertThat(listening.onlyRemovedProperty().get()).isTrue();
    Prepared centre = workspace.state("v3").prepared();
    assertThat(centre.stems().keySet()).containsExactly("vocals", "everything but vocals");
  }

  @Test
  void stretchedVersionsAreReadyWithTheirMaps() {
    open(sieve("tide-table"), 4);
    Prepared locked = workspace.state("v4").prepared();
    assertThat(locked.map().at(10)).isCloseTo(8.08, within(0.02));
    assertThat(locked.match().ratio()).isCloseTo(0.8, within(0.0008));
    onUi(
        () ->
            workspace.edit(
                c ->
                    c.withVersion(
                        c.version("v4")
                            .orElseThrow()
                            .withMatch(MatchOverride.NONE.withRatio(0.85)))));
    await(() -> workspace.state("v4").prepared().match().ratio() == 0.85);
    onUi(workspace.document()::undo);
    awaitSheet(4);
    assertThat(workspace.sheetProperty().get().allFairness())
        .anyMatch(i -> i.version().equals("Locked phase stretch") && i.matter().equals("length"));
  }

  @Test
  void theLevelModeIsMatchedAgainAndCanBeUndone() {
    open(sieve("radio-call"), 3);
    onUi(() -> workspace.edit(c -> c.withLevel(LevelMode.PEAK)));
    await(() -> workspace.state("v1").prepared().match().levelBasis().equals("peak"));
    onUi(workspace.document()::undo);
    await(() -> workspace.state("v1").prepared().match().levelBasis().contains("never clipped"));
  }

  @Test
  void aJobIsChangedAndFilesFollow() {
    Path made = demos.resolve("boathouse-waltz");
    onUi(
        () ->
            workspace.addFiles(
                List.of(
                    made.resolve("waltz-mix.wav"),
                    made.resolve("waltz-centre-split-60-vocals.wav"))));
    awaitSheet(1);
    onUi(() -> workspace.setJob(Job.STEMS));
    await(
        () ->
            workspace.state("v1").prepared() != null && workspace.comparison().job() == Job.STEMS);
    assertThat(workspace.comparison().versions().get(0).stems().keySet()).containsExactly("vocals");
    onUi(() -> workspace.setJob(Job.PITCH));
    assertThat(workspace.comparison().versions().get(0).media()).isNotNull();
    assertThat(workspace.comparison().semitones()).isZero();
    onUi(workspace.document()::undo);
    assertThat(workspace.comparison().job()).isEqualTo(Job.STEMS);
  }

  @Test
  void droppedStemsGoIntoOneVersionATool() {
    Path made = demos.resolve("boathouse-waltz");
    onUi(() -> workspace.setJob(Job.STEMS));
    List<FileNames.Proposal> list =
        FileNames.sort(
            List.of(
                made.resolve("waltz-mix.wav"),
                made.resolve("waltz-centre-split-60-vocals.wav"),
                made.resolve("waltz-centre-split-60-everything-but-vocals.wav"),
                made.resolve("waltz-median-split-50-drums.wav"),
                made.resolve("waltz-true-drums.wav")),
            Job.STEMS,
            null);
    onUi(() -> workspace.take(list));
    Comparison c = workspace.comparison();
    assertThat(c.source().path()).endsWith("waltz-mix.wav");
    assertThat(c.trueStems().keySet()).containsExactly("drums");
    assertThat(c.versions()).hasSize(2);
    Version centre =
        c.versions().stream().filter(v -> v.tool().equals("Centre split")).findFirst().get();
    assertThat(centre.amount()).isEqualTo(60);
    assertThat(centre.stems().keySet())
        .containsExactlyInAnyOrder("vocals", "everything but vocals");
  }

  @Test
  void versionsAreMadeAndAChainKeepsItsHistory() throws Exception {
    // A few seconds without true stems: what is made matters here, not how it is measured.
    Comparison c = ComparisonFile.load(sieve("boathouse-waltz"));
    Path few = folder.resolve("few.sieve");
    ComparisonFile.save(c.withTrueStems(Map.of()).withExcerpt(new TimeSpan(2, 8)), few);
    open(few, 4);
    Workshop workshop = workspace.workshop();
    RigTool centre =
        workshop.of(Job.STEMS).stream()
            .filter(t -> t.title().equals("Centre split"))
            .findFirst()
            .orElseThrow();
    Workshop.Subject rest =
        workshop.subjects().stream()
            .filter(s -> s.title().equals("Median split 50: everything but drums"))
            .findFirst()
            .orElseThrow();
    onUi(() -> workspace.document().save(folder.resolve("copy.sieve")));
    onUi(() -> workshop.make(centre, List.of(40.0), rest));
    await(() -> workspace.comparison().versions().size() == 5);
    Version made = workspace.comparison().versions().get(4);
    assertThat(made.stems().get("vocals").origin().words())
        .isEqualTo("everything but drums of Median split 50");
    assertThat(made.cost().seconds()).isNotNull();
    assertThat(made.stems().get("vocals").media().file()).exists();
    awaitSheet(5);
    onUi(() -> workspace.document().discardChanges());
  }

  @Test
  void aToolIsKeptAndItsFailureIsAClearEntry() throws Exception {
    open(sieve("radio-call"), 3);
    Workshop workshop = workspace.workshop();
    CommandTool broken =
        CommandTool.of("Broken", Job.DECLIP, List.of("/no/such/tool", "{input}", "{output}"));
    onUi(() -> workshop.keep(broken));
    assertThat(workshop.of(Job.DECLIP)).extracting(RigTool::title).contains("Broken");
    onUi(() -> workshop.make(new RigTool.Outside(broken), List.of(100.0), Workshop.Subject.SOURCE));
    await(() -> workshop.entries().size() == 1 && run(workshop) != null);
    assertThat(run(workshop).outcome()).isEqualTo(Run.Outcome.FAILED);
    assertThat(run(workshop).problem()).contains("could not be started");
    assertThat(workspace.comparison().versions()).hasSize(3);
    Path file = folder.resolve("handed-on.json");
    onUi(() -> workshop.exportTo(file));
    onUi(() -> workshop.forget(broken));
    assertThat(workshop.tools()).isEmpty();
    onUi(() -> workshop.importFrom(file));
    assertThat(workshop.tools()).containsExactly(broken);
    onUi(() -> workshop.importFrom(Files.writeString(folder.resolve("x.json"), "no")));
    assertThat(workspace.messageProperty().get()).contains("x.json");
    onUi(() -> workshop.entries().get(0).drop());
    assertThat(workshop.entries()).isEmpty();
  }

  private static Run run(Workshop workshop) {
    return workshop.entries().get(0).runProperty().get();
  }

  @Test
  void otherComparisonsGetTheirVersionsInTheirFiles() throws Exception {
    open(sieve("radio-call"), 3);
    Comparison c = ComparisonFile.load(sieve("radio-call"));
    Path other = folder.resolve("other.sieve");
    ComparisonFile.save(c.withVersions(List.of()), other);
    RigTool cubic = workspace.workshop().of(Job.DECLIP).get(0);
    onUi(() -> workspace.workshop().makeFor(other, cubic, List.of(30.0, 90.0)));
    await(
        () -> {
          try {
            return ComparisonFile.load(other).versions().size() == 2;
          } catch (Exception e) {
            return false;
          }
        });
    onUi(() -> workspace.workshop().makeFor(sieve("tide-table"), cubic, List.of(30.0)));
    await(() -> workspace.messageProperty().get().contains("is not for the job Stretch"));
  }

  @Test
  void turnsLoopAndStopWithTheLoop() {
    open(sieve("radio-call"), 3);
    Listening listening = workspace.listening();
    onUi(() -> listening.turnsProperty().set(Turns.NEXT));
    assertThat(listening.loopingProperty().get()).isTrue();
    onUi(() -> listening.loopingProperty().set(false));
    assertThat(listening.turnsProperty().get()).isEqualTo(Turns.STAY);
  }

  @Test
  void excerptsTogetherAreMeasuredTogether() {
    open(sieve("radio-call"), 3);
    onUi(
        () ->
            workspace.edit(
                c ->
                    c.withExcerpts(
                            List.of(
                                new kettlesieve.core.comparison.Excerpt(
                                    "call", new kettlesieve.core.comparison.TimeSpan(0.5, 3.5)),
                                new kettlesieve.core.comparison.Excerpt(
                                    "beacon", new kettlesieve.core.comparison.TimeSpan(5, 9))))
                        .withTogether(true)));
    awaitSheet(3);
    var together = workspace.sheetProperty().get().entries().get(0).reading("si-sdr").orElseThrow();
    double[] one = new double[2];
    for (int i = 0; i < 2; i++) {
      int n = i;
      onUi(
          () -> workspace.edit(c -> c.withTogether(false).withExcerpt(c.excerpts().get(n).span())));
      awaitSheet(3);
      await(
          () ->
              workspace.preparedExcerptProperty().get().source().startSeconds()
                  == (n == 0 ? 0.5 : 5.0));
      awaitSheet(3);
      one[i] =
          workspace.sheetProperty().get().entries().get(0).reading("si-sdr").orElseThrow().value();
    }
    assertThat(together.value()).isCloseTo((3 * one[0] + 4 * one[1]) / 7, within(0.3));
  }

  @Test
  void partsAreSoloedOneAfterTheOther() {
    open(sieve("boathouse-waltz"), 4);
    Listening listening = workspace.listening();
    await(() -> listening.allRoles().contains("concertina"));
    onUi(listening::soloNext);
    assertThat(listening.rolesProperty().get()).containsExactly("vocals");
    for (int i = 1; i < listening.allRoles().size(); i++) {
      onUi(listening::soloNext);
      assertThat(listening.rolesProperty().get()).hasSize(1);
    }
    onUi(listening::soloNext);
    assertThat(listening.rolesProperty().get()).isEmpty();
  }

  @Test
  void aMissingStemOrTrueStemIsNamedAndTheRestGoesOn() throws Exception {
    Comparison c = ComparisonFile.load(sieve("boathouse-waltz"));
    Path gone = folder.resolve("gone.wav");
    kettlesieve.core.comparison.MediaRef ref = kettlesieve.core.comparison.MediaRef.of(gone);
    Version first = c.versions().get(0);
    Path copy = folder.resolve("copy.sieve");
    ComparisonFile.save(
        c.withTrueStems(Map.of("vocals", c.trueStems().get("vocals"), "bass", ref))
            .withVersion(first.withStem("drums", kettlesieve.core.comparison.Stem.of(ref))),
        copy);
    open(copy, 3);
    assertThat(workspace.state("v1").problem()).contains("no such file");
    assertThat(workspace.messageProperty().get()).contains("True stem bass").contains("gone.wav");
    assertThat(workspace.trueStems().keySet()).containsExactly("vocals");
    assertThat(workspace.listening().audible("v3")).isTrue();
    assertThat(workspace.sheetProperty().get().failed()).hasSize(1);
  }

  @Test
  void aVersionInOneFileIsAnsweredWhereStemsAreCompared() {
    Path made = demos.resolve("boathouse-waltz");
    onUi(
        () ->
            workspace.edit(
                x ->
                    Comparison.empty("x", Job.STEMS)
                        .withSource(
                            kettlesieve.core.comparison.MediaRef.of(made.resolve("waltz-mix.wav")))
                        .plus(
                            Version.of(
                                "v1",
                                "one file",
                                kettlesieve.core.comparison.MediaRef.of(
                                    made.resolve("waltz-chain-vocals.wav"))))));
    await(() -> workspace.state("v1").problem() != null);
    assertThat(workspace.state("v1").problem()).contains("has no role yet");
  }

  @Test
  void theCleanRecordingIsHeardAtTheSourcesLevel() {
    open(sieve("radio-call"), 3);
    await(() -> workspace.preparedReference() != null);
    // The unclipped call is louder at its tops only: below the clip level nothing is changed.
    assertThat(workspace.preparedReference().match().gainDb()).isCloseTo(0, within(0.1));
    assertThat(workspace.listening().audible(Listening.REFERENCE)).isTrue();
  }
}
