package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupMaker;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.roundup.ScoredVersion;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Scores from files: whatever their order and grouping, the same comes of them. */
class ScoreFilesTest {
  @TempDir private Path folder;

  private static String line(String comparison, double... overall) {
    StringBuilder versions = new StringBuilder();
    for (int v = 0; v < overall.length; v++) {
      versions
          .append(v == 0 ? "" : ",")
          .append("{\"label\":\"Tool ")
          .append(v)
          .append("\",\"tool\":\"Tool\",\"amount\":")
          .append(10 * v)
          .append(
              ",\"cost\":{\"seconds\":2.5},\"readings\":[{\"measure\":\"si-sdr\",\"value\":7.25,")
          .append("\"details\":{\"spots\":3.0},\"spots\":[{\"from\":1.0,\"to\":2.0}]},")
          .append("{\"measure\":\"pause-noise\",\"value\":-41.5,\"spots\" : [ ]}],")
          .append("\"axes\":{\"lost\":90.0,\"missed\":70.5},\"overall\":")
          .append(overall[v])
          .append(
              ",\"rank\":1,\"rankTo\":2,\"tiedWith\":[\"Tool 1\"],\"deviations\":{\"Tool 1\":0.5}")
          .append(v == 1 ? ",\"choice\":false}" : "}");
    }
    return "{\"schema\":\"kettle-sieve/scores/1\",\"comparison\":\""
        + comparison
        + "\",\"tags\":[\"tape\"],\"made\":{\"from\":\"clean.wav\",\"snr\":5.0},\"validity\":"
        + "{\"tau\":8.0,\"doubtful\":14.0,\"failure\":0.05,\"scatter\":1.0,\"pairs\":9,"
        + "\"fitted\":\"2026-12-02\",\"lasting\":0.5,\"caution\":\"\"},\"job\":\"denoise\","
        + "\"profile\":\"even\",\"source\":{\"file\":\"s.wav\",\"sha256\":\"ab\",\"seconds\":12.5},"
        + "\"versions\":["
        + versions
        + "],\"failed\":[{\"label\":\"Gone\",\"file\":\"x.wav\",\"reason\":\"no such file\"}]}";
  }

  private static String broken(String comparison) {
    return ScoresJson.failedLine(comparison, "it has no source yet.");
  }

  private Path file(String name, String... lines) throws IOException {
    Path file = folder.resolve(name);
    Files.writeString(file, String.join("\n", lines) + "\n");
    return file;
  }

  private static ScoreFiles read(Path... files) {
    ScoreFiles read = new ScoreFiles(m -> m.equals("si-sdr"));
    read.read(List.of(files));
    return read;
  }

  private static String roundup(ScoreFiles files) {
    return RoundupJson.write(
        new RoundupMaker(Roundup.By.VERSION, Aspect.ALL).of(files.scored(), files.failed()), 2);
  }

  @Test
  void aLineIsReadAsTheComparisonItWas() throws Exception {
    ScoredComparison c = read(file("a.jsonl", line("x/./a.sieve", 81.5, 70))).scored().get(0);
    assertThat(c.file()).isEqualTo("x/a.sieve");
    assertThat(c.tags()).containsExactly("tape");
    assertThat(c.made().snr()).isEqualTo(5.0);
    assertThat(c.seconds()).isEqualTo(12.5);
    assertThat(c.validity().lasting()).isEqualTo(0.5);
    assertThat(c.failed())
        .containsExactly(new ScoredComparison.Failed("x/a.sieve", "Gone", "no such file"));
    ScoredVersion first = c.versions().get(0);
    assertThat(first.asVersion()).isEqualTo("Tool 0");
    assertThat(first.choice()).isTrue();
    assertThat(c.versions().get(1).choice()).isFalse();
    assertThat(first.cost().seconds()).isEqualTo(2.5);
    assertThat(first.all().overall()).isEqualTo(81.5);
    assertThat(first.all().axes()).containsEntry("missed", 70.5).containsEntry("lost", 90.0);
    // What nobody asks for takes no room.
    assertThat(first.all().readings()).containsOnlyKeys("si-sdr");
    assertThat(first.all().rankTo()).isEqualTo(2);
    assertThat(first.all().tiedWith()).containsExactly("Tool 1");
    assertThat(first.all().deviations()).containsEntry("Tool 1", 0.5);
  }

  @Test
  void orderAndGroupingChangeNothingAndNothingCountsTwice() throws Exception {
    List<String> lines = new ArrayList<>();
    for (int i = 0; i < 40; i++) {
      lines.add(i % 9 == 4 ? broken("c" + i) : line("c" + i, 60 + i, 90 - i, 50));
    }
    String expected = roundup(read(file("all.jsonl", lines.toArray(String[]::new))));
    Random random = new Random(5);
    for (int turn = 0; turn < 8; turn++) {
      List<String> mixed = new ArrayList<>(lines);
      // A part was done twice, by a worker that was killed and one that went on.
      mixed.addAll(lines.subList(10, 10 + random.nextInt(20)));
      Collections.shuffle(mixed, random);
      List<Path> files = new ArrayList<>();
      for (int from = 0; from < mixed.size(); ) {
        int to = Math.min(mixed.size(), from + 1 + random.nextInt(15));
        String name = "part-" + turn + "-" + from + ".jsonl";
        files.add(file(name, mixed.subList(from, to).toArray(String[]::new)));
        from = to;
      }
      assertThat(roundup(read(files.toArray(Path[]::new)))).isEqualTo(expected);
    }
  }

  @Test
  void whatWasScoredLaterHasNotFailedAndWhatContradictsCountsNowhere() throws Exception {
    ScoreFiles files =
        read(
            file("a.jsonl", broken("c1"), broken("c2"), line("c3", 60, 70, 80)),
            file("b.jsonl", line("c1", 50, 60), line("c3", 60, 70, 81)));
    assertThat(files.scored()).extracting(ScoredComparison::file).containsExactly("c1");
    assertThat(files.failed())
        .extracting(ScoredComparison.Failed::file)
        .containsExactly("c2", "c3");
    assertThat(files.failed().get(1).reason()).contains("two files hold different scores");
  }

  private String problem(String name, String... lines) throws Exception {
    Path file = lines.length == 0 ? Files.createFile(folder.resolve(name)) : file(name, lines);
    ScoreFiles read = read(file, file("beside.jsonl", line("beside", 50)));
    assertThat(read.scored()).extracting(ScoredComparison::file).contains("beside");
    assertThat(read.failed()).hasSize(1);
    assertThat(read.failed().get(0).file()).isEqualTo(file.toString());
    return read.failed().get(0).reason();
  }

  @Test
  void whatHoldsNoScoresIsNamedWithTheObjectAndTheRestGoOn() throws Exception {
    assertThat(problem("half.jsonl", line("c2", 50), "{\"schema\": "))
        .startsWith("object 2 is not as score writes it.")
        .endsWith("Write it anew with score --json or --jsonl.");
    // What stands before the half line counts.
    assertThat(read(folder.resolve("half.jsonl")).scored()).hasSize(1);
    assertThat(problem("other.json", "{\"schema\": \"something/1\"}"))
        .startsWith("object 1 has no schema kettle-sieve/scores/1");
    assertThat(problem("older.json", line("c", 5).replace("validity", "x")))
        .contains("older release");
    assertThat(problem("job.json", line("c", 5).replace("denoise", "dewhistle")))
        .contains("'dewhistle'");
    assertThat(problem("nul.json", line("c\\u0000", 5))).contains("scores cannot be");
    assertThat(problem("cost.json", line("c", 5).replace("2.5", "-2.5")))
        .contains("not as score writes it");
    assertThat(problem("list.json", "[1, 2]")).contains("not as score writes it");
    assertThat(problem("empty.json")).contains("it is empty");
    assertThat(read(folder.resolve("none.json")).failed().get(0).reason()).contains("be read");
    // In a folder only what holds scores is taken.
    Files.writeString(folder.resolve("notes.json"), "{}");
    assertThat(ScoreFiles.in(folder))
        .contains(folder.resolve("half.jsonl"))
        .doesNotContain(folder.resolve("notes.json"));
  }

  @Test
  void whatIsNoNumberIsNotThere() throws Exception {
    String odd =
        line("c", 50, 60)
            .replace("\"deviations\":{\"Tool 1\":0.5}", "\"deviations\":{\"Tool 1\":null}")
            .replace("[\"Tool 1\"]", "[null]")
            .replace("\"overall\":60.0", "\"overall\":\"NaN\"");
    ScoredComparison c = read(file("odd.json", odd)).scored().get(0);
    assertThat(c.versions().get(0).all().deviations()).isEmpty();
    assertThat(c.versions().get(0).all().tiedWith()).isEmpty();
    assertThat(c.versions().get(1).all().overall()).isNull();
    assertThat(roundup(read(folder.resolve("odd.json")))).contains("\"overall\" : 50.0");
  }

  @Test
  void spotsAreLeftOutWhereverThePiecesOfAReadEnd() throws Exception {
    String text = line("c", 50, 60) + "{\"spots\":\"spots\",\"a\":\"\\\"spots\\\":[x]\"}";
    String expected = text.replace("{\"from\":1.0,\"to\":2.0}", "").replace("[ ]", "[]");
    for (int size = 1; size < 40; size++) {
      int most = size;
      InputStream pieces =
          new WithoutSpots(
              new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)) {
                @Override
                public synchronized int read(byte[] into, int from, int length) {
                  return super.read(into, from, Math.min(length, most));
                }
              });
      ByteArrayOutputStream all = new ByteArrayOutputStream();
      pieces.transferTo(all);
      assertThat(all.toString(StandardCharsets.UTF_8)).as("pieces of %d", size).isEqualTo(expected);
    }
  }
}
