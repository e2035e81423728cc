package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.score.Passages;
import org.junit.jupiter.api.Test;

/** Reports, reels, listening sheets and rounds of a comparison, without a window. */
class HandingOverTest extends JobsFixture {
  private static final Handover.ReelWish SIMPLE = new Handover.ReelWish(0, "", false, 0.5);

  @Test
  void reportAndReelAreWrittenInTheBackground() throws Exception {
    open(sieve("tide-table"), 4);
    await(() -> workspace.state("v1").prepared() != null);
    Path page = folder.resolve("tide.html");
    onUi(() -> workspace.handover().report(page));
    await(() -> workspace.messageProperty().get().contains("stands in tide.html"));
    assertThat(Files.readString(page)).contains("Ranking").contains("data:audio/flac");
    Path reel = folder.resolve("tide.wav");
    onUi(() -> workspace.handover().reel(reel, SIMPLE));
    await(() -> workspace.messageProperty().get().contains("stands in tide.wav"));
    List<String> pieces = Files.readAllLines(folder.resolve("tide.csv"));
    assertThat(pieces.get(1)).endsWith("Source");
    assertThat(pieces).hasSize(1 + 1 + workspace.comparison().versions().size());
    // Stretched versions play in their own time: shorter by a fifth.
    double first = Double.parseDouble(pieces.get(2).split(",")[0]);
    double second = Double.parseDouble(pieces.get(3).split(",")[0]);
    assertThat((second - first - 0.5) / (first - 0.5)).isCloseTo(0.8, within(0.02));
    // Two places, the source before each of four versions.
    Path worst = folder.resolve("worst.wav");
    onUi(() -> workspace.handover().reel(worst, new Handover.ReelWish(2, "", true, 0)));
    await(() -> workspace.messageProperty().get().contains("stands in worst.wav"));
    assertThat(Files.readAllLines(folder.resolve("worst.csv"))).hasSize(1 + 2 * 8);
    // One by one, and never over what is there.
    Path copies = Files.createDirectory(folder.resolve("copies"));
    onUi(() -> workspace.handover().copies(copies));
    await(() -> workspace.messageProperty().get().contains("5 matched copies stand in copies"));
    assertThat(copies.resolve("00 Source.wav")).exists();
    assertThat(Files.readAllLines(copies.resolve("list.csv"))).hasSize(6);
    onUi(() -> workspace.handover().copies(copies));
    await(() -> workspace.messageProperty().get().contains("is in copies already"));
    Passages passages = Passages.of(workspace.sheetProperty().get()).orElseThrow();
    Path leaders = folder.resolve("leaders.wav");
    onUi(() -> workspace.handover().leaders(leaders, passages));
    await(() -> workspace.messageProperty().get().contains("stand in leaders.wav"));
    assertThat(Files.readAllLines(folder.resolve("leaders.csv")))
        .hasSize(1 + passages.stretches().size());
    // Never over a recording, and a folder that is not there is said.
    Path own = workspace.comparison().source().file();
    long size = Files.size(own);
    onUi(() -> workspace.handover().reel(own, SIMPLE));
    await(() -> workspace.messageProperty().get().contains("Choose another name"));
    assertThat(Files.size(own)).isEqualTo(size);
    onUi(() -> workspace.handover().report(folder.resolve("no/where.pdf")));
    await(() -> workspace.messageProperty().get().contains("could not be written"));
    await(() -> !workspace.handover().busyProperty().get());
  }

  @Test
  void aSheetIsHandedOutAndItsAnswersAreDropped() throws Exception {
    open(sieve("tide-table"), 4);
    await(() -> workspace.state("v4").prepared() != null);
    Path sheet = folder.resolve("sheet");
    Handover.SheetWish wish =
        new Handover.SheetWish(Round.Kind.RATING, Round.Question.OVERALL, false);
    onUi(() -> workspace.handover().sheet(sheet, wish));
    await(() -> workspace.messageProperty().get().contains("5 letters stand in sheet"));
    await(() -> workspace.comparison().sheets().size() == 1);
    assertThat(sheet.resolve("E.wav")).exists();
    onUi(() -> workspace.handover().sheet(sheet, wish));
    await(() -> workspace.messageProperty().get().contains("is not empty"));
    Path none = Files.writeString(folder.resolve("none.json"), "{}");
    onUi(() -> workspace.handover().answers(List.of(none)));
    assertThat(workspace.messageProperty().get())
        .contains("0 answers were taken in")
        .contains("none.json");
    // What was refused is no success, and stays to be read.
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.PROBLEM);
    onUi(() -> workspace.document().discardChanges());
  }

  @Test
  void aStemIsRatedAmongThoseWhoGiveIt() throws Exception {
    open(sieve("boathouse-waltz"), 4);
    await(() -> workspace.state("v4").prepared() != null);
    List<String> all = List.of("v1", "v2", "v3", "v4");
    TimeSpan loop = new TimeSpan(2, 4);
    onUi(
        () ->
            workspace
                .rounds()
                .begin(
                    new Rounds.Plan(
                        Round.Kind.RATING, Round.Question.LOST, all, 16, "", loop, "vocals")));
    Round round = workspace.rounds().runningProperty().get();
    // Two of the four tools give the voice; the mix would give itself away.
    assertThat(round.items()).containsExactly("v3", "v4");
    assertThat(round.trials()).hasSize(3);
    onUi(() -> workspace.rounds().end());
    onUi(() -> workspace.document().discardChanges());
  }

  /** What a program that was killed in the middle of a round leaves to the next one. */
  @Test
  void aRoundThatWasKilledGoesOnAtTheNextStart() throws Exception {
    open(sieve("tide-table"), 4);
    await(() -> workspace.state("v2").prepared() != null);
    onUi(
        () -> {
          workspace
              .rounds()
              .begin(
                  new Rounds.Plan(
                      Round.Kind.ABX,
                      Round.Question.OVERALL,
                      List.of("v1", "v2"),
                      8,
                      "",
                      new TimeSpan(1, 3),
                      ""));
          for (int i = 0; i < 3; i++) {
            workspace.rounds().answer("v1");
          }
        });
    Round at = workspace.rounds().runningProperty().get();
    assertThat(at.next()).isEqualTo(3);
    // What stands in the file and what a copy of it holds is the same, trial by trial.
    Path copy = folder.resolve("copy.sieve");
    ComparisonFile.save(workspace.comparison(), copy);
    Round kept = ComparisonFile.load(copy).rounds().get(0);
    assertThat(kept).isEqualTo(at);
    onUi(() -> workspace.rounds().end());
    onUi(() -> workspace.document().discardChanges());
    open(copy, 4);
    await(() -> workspace.state("v2").prepared() != null);
    onUi(() -> workspace.rounds().goOn(workspace.comparison().rounds().get(0)));
    assertThat(workspace.rounds().trial()).isEqualTo(3);
    for (int i = 3; i < 8; i++) {
      onUi(() -> workspace.rounds().answer("v2"));
    }
    assertThat(workspace.rounds().runningProperty().get()).isNull();
    assertThat(workspace.comparison().rounds().get(0).done()).isTrue();
    onUi(() -> workspace.document().discardChanges());
  }
}
