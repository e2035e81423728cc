package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.KeepersLog;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The command line as a person or a script uses it, on the demo's recordings. */
class ScoreCommandTest {
  /** Made once for all tests; nothing here changes it. */
  private static final Path DEMO =
      Path.of(System.getProperty("kettle.kept", "target/kept")).resolve("demos").toAbsolutePath();

  @TempDir Path folder;
  private static Path comparison;

  private StringWriter out;
  private StringWriter err;

  @BeforeAll
  static void makeDemo() throws Exception {
    comparison = KeepersLog.make(DEMO, Progress.SILENT);
  }

  @BeforeEach
  void setUp() {
    out = new StringWriter();
    err = new StringWriter();
  }

  private int run(String... arguments) {
    return Kettle.run(arguments, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private static String file(String name) {
    return DEMO.resolve(name).toString();
  }

  @Test
  void printsTheJsonOfAnyFiles() throws Exception {
    String[] words = {
      "score",
      "--job",
      "denoise",
      "--source",
      file("keepers-log-tape.wav"),
      "--version",
      "as it was=" + file("keepers-log-tape.wav"),
      "--version",
      "mild=" + file("keepers-log-smoothed-wiener-30.wav"),
      "--version",
      "strong=" + file("keepers-log-smoothed-wiener-90.wav"),
      "--reference",
      file("keepers-log-clean.flac"),
      "--json",
      "-"
    };
    assertThat(run(words)).isZero();
    String first = out.toString();
    JsonNode versions = new ObjectMapper().readTree(first).path("versions");
    assertThat(value(versions.get(0), "noise-cut")).isZero();
    assertThat(value(versions.get(1), "noise-cut")).isGreaterThan(8);
    assertThat(value(versions.get(2), "noise-cut"))
        .isGreaterThan(value(versions.get(1), "noise-cut") + 5);
    assertThat(versions.get(0).path("axes").path("added").asDouble()).isGreaterThanOrEqualTo(99);
    assertThat(versions.get(0).path("axes").path("lost").asDouble()).isGreaterThanOrEqualTo(99);
    assertThat(versions.get(1).path("match").path("gainDb").asDouble()).isBetween(5.5, 6.5);
    assertThat(versions.get(2).path("match").path("polarity").asInt()).isEqualTo(-1);
    assertThat(err.toString()).isEmpty();
    out = new StringWriter();
    run(words);
    assertThat(out.toString()).isEqualTo(first);
  }

  private static double value(JsonNode version, String measure) {
    for (JsonNode reading : version.path("readings")) {
      if (reading.path("measure").asText().equals(measure)) {
        return reading.path("value").asDouble();
      }
    }
    throw new AssertionError(measure + " is missing");
  }

  @Test
  void scoresAComparisonFileAsATable() {
    assertThat(run("score", comparison.toString(), "--profile", "podcast")).isZero();
    assertThat(out.toString())
        .contains("profile Podcast")
        .contains("Smoothed Wiener 90")
        .contains("costs most")
        .doesNotContain("musical-noise [ln ratio]");
    out = new StringWriter();
    assertThat(run("score", comparison.toString(), "--all")).isZero();
    assertThat(out.toString()).contains("musical-noise [ln ratio]");
  }

  @Test
  void aBrokenVersionIsListedAndTheOthersScored() throws Exception {
    Path broken = Files.writeString(folder.resolve("broken.wav"), "not a recording");
    Path json = folder.resolve("out.json");
    int status =
        run(
            "score",
            "--job",
            "denoise",
            "--source",
            file("keepers-log-tape.wav"),
            "--version",
            "bad=" + broken,
            "--version",
            "good=" + file("keepers-log-plain-subtraction-60.wav"),
            "--excerpt",
            "0-12",
            "--json",
            json.toString());
    assertThat(status).isEqualTo(3);
    assertThat(err.toString()).contains("broken.wav").contains("Export it again");
    JsonNode tree = new ObjectMapper().readTree(json.toFile());
    assertThat(tree.path("versions")).hasSize(1);
    assertThat(tree.path("versions").get(0).path("match").path("delayMs").asDouble())
        .isBetween(23.99, 24.01);
    assertThat(tree.path("failed").get(0).path("label").asText()).isEqualTo("bad");
  }

  @Test
  void anUnusableSourceIsStatusThree() {
    assertThat(
            run(
                "score",
                "--job",
                "denoise",
                "--source",
                file("nowhere.wav"),
                "--version",
                "a=" + file("keepers-log-tape.wav")))
        .isEqualTo(3);
    assertThat(err.toString()).contains("nowhere.wav").contains("no such file");
    assertThat(run("score", file("nothing.sieve"))).isEqualTo(3);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "score",
        "score --job denoise",
        "score --job cooking --source a.wav --version a=b.wav",
        "score --job stems --source a.wav --version a=b.wav",
        "score --job denoise --source a.wav",
        "score --job denoise --source a.wav --version nolabel",
        "score --job denoise --source a.wav --version a=b.wav --version a=c.wav",
        "score --job denoise --source a.wav --version a=b.wav --excerpt 5",
        "score --job denoise --source a.wav --version a=b.wav --excerpt 5-2",
        "score --job denoise --source a.wav --version a=b.wav --pauses x-y",
        "score --job denoise --source a.wav --version a=b.wav --profile cosy",
        "score --job denoise --source a.wav --version a=b.wav --ratio 2",
        "score --job denoise --source a.wav --version a=b.wav --unknown",
        "score a.sieve --job denoise"
      })
  void wordsThatAreOffAreStatusTwo(String words) {
    assertThat(run(words.split(" "))).isEqualTo(2);
    assertThat(err.toString()).isNotBlank().doesNotContain("Exception").doesNotContain("\tat ");
  }

  @Test
  void anUnwritableOutputIsSaid() {
    int status =
        run(
            "score",
            comparison.toString(),
            "--csv",
            folder.resolve("no/such/folder.csv").toString());
    assertThat(status).isEqualTo(3);
    assertThat(err.toString()).contains("folder.csv").contains("could not be written");
  }

  @Test
  void marksOfPausesAreUsed() throws Exception {
    assertThat(
            run(
                "score",
                "--job",
                "denoise",
                "--source",
                file("keepers-log-tape.wav"),
                "--version",
                "a=" + file("keepers-log-plain-subtraction-90.wav"),
                "--pauses",
                "0.0-0.8,5.3-5.8",
                "--json",
                "-"))
        .isZero();
    JsonNode tree = new ObjectMapper().readTree(out.toString());
    for (JsonNode reading : tree.path("versions").get(0).path("readings")) {
      if (reading.path("measure").asText().equals("pause-noise")) {
        for (JsonNode spot : reading.path("spots")) {
          double from = spot.path("from").asDouble();
          assertThat(from < 0.85 || from > 5.2 && from < 5.9).isTrue();
        }
      }
    }
  }

  @Test
  void theDemoIsMadeOnceAndKept() throws Exception {
    Comparison c = ComparisonFile.load(comparison);
    assertThat(c.versions()).hasSize(6);
    long made = Files.getLastModifiedTime(DEMO.resolve("keepers-log-tape.wav")).toMillis();
    KeepersLog.make(DEMO, Progress.SILENT);
    assertThat(Files.getLastModifiedTime(DEMO.resolve("keepers-log-tape.wav")).toMillis())
        .isEqualTo(made);
  }

  @Test
  void aFurtherComparisonThatIsMissingKeepsTheScores() throws Exception {
    Path json = folder.resolve("scores.json");
    int status =
        run(
            "score",
            comparison.toString(),
            "--beside",
            folder.resolve("gone.sieve").toString(),
            "--json",
            json.toString());
    assertThat(status).isEqualTo(3);
    assertThat(err.toString()).contains("gone.sieve").contains("no such file");
    assertThat(new ObjectMapper().readTree(json.toFile()).path("versions")).hasSize(6);
  }

  @Test
  void anExportIsNeverWrittenOverAnInput() throws Exception {
    Path own = folder.resolve("own.wav");
    Files.copy(Path.of(file("keepers-log-plain-subtraction-60.wav")), own);
    byte[] before = Files.readAllBytes(own);
    Path link = Files.createSymbolicLink(folder.resolve("link.wav"), own);
    for (Path target : new Path[] {own, link}) {
      int status =
          run(
              "score",
              "--job",
              "denoise",
              "--source",
              file("keepers-log-tape.wav"),
              "--version",
              "a=" + own,
              "--excerpt",
              "0-8",
              "--csv",
              target.toString());
      assertThat(status).isEqualTo(2);
    }
    assertThat(err.toString()).contains("one of the files compared");
    assertThat(own).hasBinaryContent(before);
  }

  /** Labels come from files of others; a terminal must not take them for commands. */
  @Test
  void labelsCannotCommandATerminal() throws Exception {
    String label = "\u001b[31mred\u001b]0;title\u0007\u202Eevil\rover";
    int status =
        run(
            "score",
            "--job",
            "denoise",
            "--source",
            file("keepers-log-tape.wav"),
            "--version",
            label + "=" + file("keepers-log-plain-subtraction-60.wav"),
            "--version",
            "\u001b[2Jgone=" + folder.resolve("no\u001b[1mfile.wav"),
            "--excerpt",
            "0-8",
            "--all");
    assertThat(status).isEqualTo(3);
    assertThat(out + err.toString()).contains("red").contains("evil").contains("gone");
    assertThat((out + err.toString()).chars())
        .noneMatch(c -> Character.isISOControl(c) && c != '\n' || c == 0x202E);
  }
}
