package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.rig.CommandTool;
import kettlesieve.core.rig.ToolShelf;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.Demo;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RunCommandTest {
  /** Made once for all tests; nothing here changes them. */
  private static final Path demos =
      Path.of(System.getProperty("kettle.kept", "target/kept")).resolve("demos").toAbsolutePath();

  @TempDir Path folder;
  private StringWriter out;
  private StringWriter err;

  @BeforeAll
  static void makeDemos() throws Exception {
    for (Demo demo : Demo.ALL.subList(2, 6)) {
      demo.make(demos, Progress.SILENT);
    }
  }

  @BeforeEach
  void setUp() {
    System.setProperty("kettle.state", folder.resolve("state").toString());
    out = new StringWriter();
    err = new StringWriter();
  }

  @AfterEach
  void tearDown() {
    System.clearProperty("kettle.state");
  }

  private int run(String... words) {
    return Kettle.run(words, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  /** A comparison with the source of a demo and nothing else. */
  private Path bare(String demo, String file) throws Exception {
    Comparison c = ComparisonFile.load(demos.resolve(demo).resolve(demo + ".sieve"));
    Path path = folder.resolve(file);
    ComparisonFile.save(c.withVersions(List.of()), path);
    return path;
  }

  @Test
  void aSweepIsMadeOverSeveralComparisons() throws Exception {
    Path a = bare("radio-call", "a.sieve");
    Path b = bare("radio-call", "b.sieve");
    assertThat(
            run("run", "--tool", "cubic-tops", "--amounts", "30,100", a.toString(), b.toString()))
        .isZero();
    for (Path file : List.of(a, b)) {
      Comparison c = ComparisonFile.load(file);
      assertThat(c.versions())
          .extracting(Version::label)
          .containsExactly("Cubic tops 30", "Cubic tops 100");
      assertThat(c.versions()).allMatch(v -> Files.exists(v.media().file()));
      assertThat(c.versions()).allMatch(v -> v.cost().seconds() != null);
    }
    assertThat(out.toString()).contains("Cubic tops 100").contains("processor");
  }

  @Test
  void aCommandOfOnesOwnIsRunAndKept() throws Exception {
    Path file = bare("radio-call", "own.sieve");
    String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
    Path program =
        Files.writeString(
            folder.resolve("Copy.java"),
            """
            import java.nio.file.*;
            class Copy {
              public static void main(String[] a) throws Exception {
                if (a[2].equals("13")) { System.err.println("unlucky"); System.exit(3); }
                Files.copy(Path.of(a[0]), Path.of(a[1]));
              }
            }
            """);
    String[] words = {
      "run",
      "--name",
      "Copier",
      "--keep",
      "--amounts",
      "13,40",
      file.toString(),
      "--",
      java,
      program.toString(),
      "{input}",
      "{output}",
      "{amount}"
    };
    assertThat(run(words)).isEqualTo(3);
    assertThat(err.toString()).contains("Copier 13").contains("unlucky").doesNotContain("\tat ");
    assertThat(ComparisonFile.load(file).versions())
        .extracting(Version::label)
        .containsExactly("Copier 40");
    List<CommandTool> kept = ToolShelf.read(folder.resolve("state/tools.json"));
    assertThat(kept).extracting(CommandTool::name).containsExactly("Copier");
    assertThat(run("run", "--tool", "copier", "--amounts", "50", file.toString())).isZero();
    assertThat(ComparisonFile.load(file).versions()).hasSize(2);
    assertThat(run("run", "--list")).isZero();
    assertThat(out.toString()).contains("Copier").contains("median-split");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "run",
        "run --tool cubic-tops",
        "run FILE",
        "run --tool no-such-tool FILE",
        "run --tool cubic-tops --amounts 30,200 FILE",
        "run --tool speed-change --amounts 30 FILE",
        "run FILE -- tool {input}",
        "run FILE -- tool {input} {output} {mood}",
        "run --tool cubic-tops FILE -- tool {input} {output}"
      })
  void wordsThatAreOffAreStatusTwo(String words) throws Exception {
    Path file = bare("radio-call", "c.sieve");
    assertThat(run(words.replace("FILE", file.toString()).split(" "))).isEqualTo(2);
    assertThat(err.toString()).startsWith("kettle: ");
    assertThat(ComparisonFile.load(file).versions()).isEmpty();
  }

  @Test
  void whatCannotBeUsedIsStatusThree() throws Exception {
    assertThat(run("run", "--tool", "cubic-tops", "/no/such.sieve")).isEqualTo(3);
    assertThat(err.toString()).contains("/no/such.sieve").contains("there is no such file");
    Path verse = bare("harbour-verse", "verse.sieve");
    assertThat(run("run", "--tool", "cubic-tops", verse.toString())).isEqualTo(3);
    assertThat(err.toString()).contains("is not for the job pitch");
  }

  @Test
  void aMissingComparisonDoesNotStopTheOthers() throws Exception {
    Path good = bare("radio-call", "good.sieve");
    assertThat(run("run", "--tool", "cubic-tops", "/no/such.sieve", good.toString())).isEqualTo(3);
    assertThat(err.toString()).contains("/no/such.sieve");
    assertThat(ComparisonFile.load(good).versions()).hasSize(1);
  }

  @ParameterizedTest
  @ValueSource(strings = {"0", "-5", "NaN", "Infinity"})
  void timeLimitsThatAreNoneAreRefused(String limit) throws Exception {
    Path file = bare("radio-call", "c.sieve");
    assertThat(
            run("run", "--time-limit", limit, file.toString(), "--", "cp", "{input}", "{output}"))
        .isEqualTo(2);
    assertThat(err.toString()).contains("time limit");
  }

  private JsonNode score(String... words) throws Exception {
    out = new StringWriter();
    assertThat(run(words)).as(err.toString()).isZero();
    return new ObjectMapper().readTree(out.toString());
  }

  @Test
  void stretchedVersionsAreMatchedByRatioAndDelay() throws Exception {
    Path made = demos.resolve("tide-table");
    JsonNode json =
        score(
            "score",
            "--job",
            "stretch",
            "--ratio",
            "0.8",
            "--source",
            made.resolve("tide-table.wav").toString(),
            "--version",
            "late=" + made.resolve("tide-table-locked-phase-stretch.wav"),
            "--version",
            "overlap=" + made.resolve("tide-table-waveform-overlap.wav"),
            "--json",
            "-");
    JsonNode late = json.path("versions").get(0).path("match");
    assertThat(late.path("ratio").asDouble()).isCloseTo(0.8, within(0.0008));
    assertThat(late.path("delayMs").asDouble()).isCloseTo(80, within(5.0));
    assertThat(json.path("versions").get(1).path("match").path("confidence").asDouble())
        .isGreaterThan(0.8);
    assertThat(json.path("fairness").toString()).contains("length");
  }

  @Test
  void stemsAreScoredByTheirFiles() throws Exception {
    Path made = demos.resolve("boathouse-waltz");
    JsonNode json =
        score(
            "score",
            "--job",
            "stems",
            "--source",
            made.resolve("waltz-mix.wav").toString(),
            "--stem",
            "Centre/vocals=" + made.resolve("waltz-centre-split-60-vocals.wav"),
            "--stem",
            "Centre/everything but vocals="
                + made.resolve("waltz-centre-split-60-everything-but-vocals.wav"),
            "--reference",
            "vocals=" + made.resolve("waltz-true-vocals.wav"),
            "--json",
            "-");
    JsonNode version = json.path("versions").get(0);
    assertThat(version.path("label").asText()).isEqualTo("Centre");
    assertThat(version.path("files").path("vocals").asText()).endsWith("60-vocals.wav");
    assertThat(version.has("file")).isFalse();
    assertThat(version.path("match").path("delaySamples").asDouble()).isZero();
    assertThat(version.path("match").path("gainDb").asDouble()).isZero();
    JsonNode roles = version.path("roles");
    assertThat(roles.size()).isEqualTo(2);
    JsonNode bleed = null;
    for (JsonNode reading : roles.path("vocals").path("readings")) {
      bleed = reading.path("measure").asText().equals("bleed") ? reading : bleed;
    }
    // One true stem is no set of them, and there is no other tool: nothing tells whose a cell is.
    assertThat(bleed).isNull();
    assertThat(roles.path("vocals").path("notMeasured").toString()).contains("no judge of its own");
  }

  @Test
  void everyStemHasItsReadingsInJsonAndCsv() throws Exception {
    Path waltz = demos.resolve("boathouse-waltz/boathouse-waltz.sieve");
    JsonNode split = score("score", waltz.toString(), "--json", "-").path("versions").get(2);
    JsonNode vocals = split.path("roles").path("vocals");
    assertThat(vocals.path("axes").path("missed").isNumber()).isTrue();
    assertThat(vocals.path("rank").asInt()).isBetween(1, 2);
    JsonNode details = null;
    for (JsonNode reading : vocals.path("readings")) {
      if (reading.path("measure").asText().equals("bleed")) {
        details = reading.path("details");
      }
    }
    assertThat(details.path("bass").asDouble()).isBetween(-14.0, -5.0);
    assertThat(details.has("floor")).isTrue();
    out = new StringWriter();
    assertThat(run("score", waltz.toString(), "--csv", "-")).isZero();
    assertThat(out.toString()).contains("Centre split 60/vocals,").contains(",sum-residual,");
  }

  @Test
  void anExcerptIsChosenByItsName() throws Exception {
    Path table = demos.resolve("tide-table/tide-table.sieve");
    Comparison c = ComparisonFile.load(table);
    Path own = folder.resolve("own.sieve");
    ComparisonFile.save(
        c.withVersions(c.versions().subList(0, 2))
            .withExcerpts(
                List.of(
                    new Excerpt("First line", new TimeSpan(0, 4)),
                    new Excerpt("Last line", new TimeSpan(4, 9)))),
        own);
    JsonNode last = score("score", own.toString(), "--excerpt", "Last line", "--json", "-");
    assertThat(last.path("versions")).hasSize(2);
    // A spot lies where the excerpt lies, in the source's time.
    for (JsonNode reading : last.path("versions").get(0).path("readings")) {
      for (JsonNode spot : reading.path("spots")) {
        assertThat(spot.path("from").asDouble()).isBetween(3.5, 9.0);
      }
    }
    assertThat(run("score", own.toString(), "--excerpt", "No such line")).isEqualTo(2);
  }
}
