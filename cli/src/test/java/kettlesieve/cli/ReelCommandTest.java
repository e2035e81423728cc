package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.media.Checksum;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A comparison from the command line, and a reel of it. */
class ReelCommandTest {
  @TempDir private Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(String... words) {
    err.getBuffer().setLength(0);
    return Kettle.run(words, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private String wav(String name, double noise) throws Exception {
    return Tapes.make(folder.resolve(name), 4, noise);
  }

  private String made() throws Exception {
    String file = folder.resolve("lamp.sieve").toString();
    int status =
        run(
            "new",
            file,
            "--job",
            "denoise",
            "--source",
            wav("tape.wav", 0.01),
            "--version",
            "Mild=" + wav("mild.wav", 0.005),
            "--version",
            "Strong=" + wav("strong.wav", 0.001));
    assertThat(err.toString()).isEmpty();
    assertThat(status).isZero();
    return file;
  }

  @Test
  void aComparisonIsWrittenAndPlayedBackToBack() throws Exception {
    String file = made();
    Comparison comparison = ComparisonFile.load(Path.of(file));
    assertThat(comparison.name()).isEqualTo("lamp");
    assertThat(comparison.versions()).extracting(v -> v.label()).containsExactly("Mild", "Strong");
    // Beside it, so that the folder can be moved as a whole.
    assertThat(Files.readString(Path.of(file))).contains("\"tape.wav\"");
    Comparison cut =
        comparison.withExcerpts(java.util.List.of(new Excerpt("Begin", new TimeSpan(0, 1.5))));
    ComparisonFile.save(cut, Path.of(file));
    String reel = folder.resolve("reel.wav").toString();
    assertThat(run("reel", file, "--out", reel, "--excerpt", "Begin", "--gap", "0.25"))
        .as(err.toString())
        .isZero();
    assertThat(Files.readAllLines(folder.resolve("reel.csv")))
        .containsExactly(
            "seconds,frame,excerpt,label",
            "0.000000,0,Begin,Source",
            "1.750000,28000,Begin,Mild",
            "3.500000,56000,Begin,Strong");
    assertThat(folder.resolve("reel.txt")).hasContent("Begin\n0:00 Source\n0:01 Mild\n0:03 Strong");
    // 24 bits, three pieces and two gaps, and the cues behind them.
    assertThat(Files.size(Path.of(reel))).isGreaterThan(44 + 3 * (3 * 24_000 + 2 * 4_000));
  }

  @Test
  void matchedCopiesAreWrittenOneByOne() throws Exception {
    String file = made();
    Path copies = folder.resolve("copies");
    assertThat(run("reel", file, "--out", copies.toString(), "--one-by-one"))
        .as(err.toString())
        .isZero();
    assertThat(Files.readAllLines(copies.resolve("list.csv")))
        .containsExactly(
            "file,label,role,seconds",
            "00 Source.wav,Source,,4.000000",
            "01 Mild.wav,Mild,,4.000000",
            "02 Strong.wav,Strong,,4.000000");
    assertThat(copies.resolve("02 Strong.wav")).isRegularFile();
    assertThat(run("reel", file, "--out", copies.toString(), "--one-by-one")).isEqualTo(2);
    assertThat(err.toString()).contains("there is a file of this name already");
    assertThat(run("reel", file, "--out", "x", "--one-by-one", "--spots", "2")).isEqualTo(2);
  }

  @Test
  void tagsAreKept() throws Exception {
    String tape = wav("tape.wav", 0.01);
    String file = folder.resolve("tagged.sieve").toString();
    String[] words = {
      "new",
      file,
      "--job",
      "denoise",
      "--source",
      tape,
      "--version",
      "a=" + tape,
      "--tag",
      "outdoor",
      "--tag",
      "single voice",
      "--tag",
      "outdoor"
    };
    assertThat(run(words)).as(err.toString()).isZero();
    assertThat(ComparisonFile.load(Path.of(file)).tags())
        .containsExactly("outdoor", "single voice");
    assertThat(
            run(
                "new",
                "x.sieve",
                "--job",
                "denoise",
                "--source",
                tape,
                "--version",
                "a=" + tape,
                "--tag",
                " "))
        .isEqualTo(2);
  }

  /** As the page of the sheet does it, written down a second time. */
  private static String canonical(JsonNode v) {
    StringBuilder text = new StringBuilder();
    if (v.isTextual()) {
      text.append('s').append(v.asText().length()).append(':').append(v.asText());
    } else if (v.isNumber()) {
      text.append('#').append(v.asInt()).append(';');
    } else if (v.isArray()) {
      text.append('[');
      v.forEach(inner -> text.append(canonical(inner)));
      text.append(']');
    } else {
      text.append('{');
      v.properties().stream()
          .sorted(Map.Entry.comparingByKey())
          .forEach(
              f ->
                  text.append('s')
                      .append(f.getKey().length())
                      .append(':')
                      .append(f.getKey())
                      .append(canonical(f.getValue())));
      text.append('}');
    }
    return text.toString();
  }

  @Test
  void aSheetIsHandedOutAndItsAnswersComeBack() throws Exception {
    String file = made();
    Path sheet = folder.resolve("sheet");
    assertThat(run("sheet", file, "--out", sheet.toString(), "--question", "lost"))
        .as(err.toString())
        .isZero();
    assertThat(out.toString()).contains("3 letters stand in");
    ListeningSheet key = ComparisonFile.load(Path.of(file)).sheets().get(0);
    assertThat(key.letters().values()).containsExactlyInAnyOrder("v1", "v2", "source");
    assertThat(Files.readString(sheet.resolve("listen.html")))
        .contains(key.id())
        .contains("what was wanted and is gone")
        .doesNotContain("Mild")
        .doesNotContain("tape");
    for (String letter : key.letters().keySet()) {
      assertThat(sheet.resolve(letter + ".wav")).isRegularFile();
    }
    assertThat(run("sheet", file, "--out", sheet.toString())).isEqualTo(2);
    assertThat(err.toString()).contains("not empty");
    assertThat(run("sheet", file, "--out", "x", "--kind", "duel")).isEqualTo(2);
    assertThat(run("sheet", file, "--out", "x", "--question", "taste")).isEqualTo(2);
    assertThat(run("sheet", file, "--out", "x", "--role", "drums")).isEqualTo(2);

    ObjectNode answer = new ObjectMapper().createObjectNode();
    answer.put("schema", "kettle-sieve/answers/1").put("sheet", key.id()).put("listener", "Ö. K.");
    answer.put("kind", "rating");
    ObjectNode ratings = answer.putArray("ratings").addObject();
    key.letters().forEach((letter, item) -> ratings.put(letter, item.equals("v2") ? 90 : 30));
    answer.put("checksum", Checksum.ofText(canonical(answer)));
    Path good = Files.writeString(folder.resolve("good.json"), answer.toString());
    ratings.put("A", 31);
    Path altered = Files.writeString(folder.resolve("altered.json"), answer.toString());
    out.getBuffer().setLength(0);
    byte[] before = Files.readAllBytes(Path.of(file));
    assertThat(run("answers", file, altered.toString())).isEqualTo(3);
    assertThat(err.toString()).contains("altered.json").contains("altered after it was saved");
    assertThat(Path.of(file)).hasBinaryContent(before);
    // The good one is taken whatever stands beside it.
    assertThat(run("answers", file, altered.toString(), good.toString())).isEqualTo(3);
    assertThat(run("answers", file, good.toString())).isZero();
    assertThat(out.toString()).contains("1 answer").contains("90.0").contains("Strong");
    assertThat(ComparisonFile.load(Path.of(file)).sheets().get(0).answers()).hasSize(1);
    String csv = folder.resolve("trials.csv").toString();
    String json = folder.resolve("trials.json").toString();
    assertThat(run("answers", file, good.toString(), "--csv", csv, "--json", json)).isZero();
    assertThat(Files.readAllLines(Path.of(csv)))
        .hasSize(4)
        .anyMatch(l -> l.endsWith(",Strong,,,90.0"))
        .anyMatch(l -> l.contains("the untouched source"));
    JsonNode rounds = new ObjectMapper().readTree(Path.of(json).toFile());
    assertThat(rounds.path("schema").asText()).isEqualTo("kettle-sieve/rounds/1");
    assertThat(rounds.path("rounds").get(0).path("result").path("ear").path("v2").path("value"))
        .hasToString("90.0");
    assertThat(run("answers", file, good.toString(), "--csv", good.toString())).isEqualTo(2);
    assertThat(run("answers", file)).isEqualTo(2);
    assertThat(run("answers", folder.resolve("none.sieve").toString(), good.toString()))
        .isEqualTo(3);
  }

  @Test
  void wordsThatAreOffAndNamesThatAreTakenAreAnswered() throws Exception {
    String file = made();
    String tape = folder.resolve("tape.wav").toString();
    byte[] before = Files.readAllBytes(Path.of(tape));
    assertThat(run("reel", file, "--out", tape)).isEqualTo(2);
    assertThat(err.toString()).contains("tape.wav").contains("one of the files compared");
    assertThat(Path.of(tape)).hasBinaryContent(before);
    assertThat(run("reel", file, "--out", folder.resolve("no/where.wav").toString())).isEqualTo(3);
    assertThat(err.toString()).contains("where.wav").contains("could not be written");
    assertThat(run("reel", file, "--out", "x.wav", "--excerpt", "None")).isEqualTo(2);
    assertThat(err.toString()).contains("no excerpt called 'None'");
    assertThat(run("reel", file, "--out", "x.wav", "--role", "drums")).isEqualTo(2);
    assertThat(run("reel", file, "--out", "x.wav", "--gap", "-1")).isEqualTo(2);
    assertThat(run("reel", folder.resolve("none.sieve").toString(), "--out", "x.wav")).isEqualTo(3);
    assertThat(err.toString()).contains("none.sieve");
    assertThat(run("new", file, "--job", "denoise", "--source", tape, "--version", "a=" + tape))
        .isEqualTo(2);
    assertThat(err.toString()).contains("there is a file of this name already");
    String other = folder.resolve("other.sieve").toString();
    assertThat(run("new", other, "--job", "denoise", "--source", tape, "--version", "a=gone.wav"))
        .isEqualTo(3);
    assertThat(err.toString()).contains("gone.wav").contains("no such file");
    assertThat(Path.of(other)).doesNotExist();
  }

  @Test
  void aReportIsWrittenAsPageAndAsPdf() throws Exception {
    String file = made();
    Path page = folder.resolve("r.html");
    Path pdf = folder.resolve("r.pdf");
    String[] words = {
      "report",
      file,
      "--html",
      page.toString(),
      "--pdf",
      pdf.toString(),
      "--no-sound",
      "--date",
      "2026-11-26",
      "--profile",
      "book"
    };
    assertThat(run(words)).as(err.toString()).isZero();
    assertThat(Files.readString(page))
        .contains("2026-11-26")
        .contains("Spoken book")
        .contains("Mild")
        .doesNotContain("data:audio");
    assertThat(Files.readAllBytes(pdf)).startsWith("%PDF".getBytes("US-ASCII"));
    assertThat(run("report", file)).isZero();
    assertThat(Files.readString(folder.resolve("lamp.html"))).contains("data:audio/flac");
    String tape = folder.resolve("tape.wav").toString();
    assertThat(run("report", file, "--pdf", tape)).isEqualTo(2);
    assertThat(run("report", file, "--html", "x.html", "--date", "today")).isEqualTo(2);
    assertThat(run("report", file, "--html", "x.html", "--profile", "none")).isEqualTo(2);
    assertThat(err.toString()).contains("--profile is one of even");
    assertThat(run("report", file, "--html", folder.resolve("no/x.html").toString())).isEqualTo(3);
  }
}
