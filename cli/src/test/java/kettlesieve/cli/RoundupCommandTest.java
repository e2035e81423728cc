package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.KeepersLog;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Test pieces and the round-up from the command line. */
class RoundupCommandTest {
  private static final Path demos =
      Path.of(System.getProperty("kettle.kept", "target/kept")).resolve("demos").toAbsolutePath();

  @TempDir Path folder;
  private StringWriter out;
  private StringWriter err;
  private Path clean;

  @BeforeEach
  void setUp() throws Exception {
    System.setProperty("kettle.state", folder.resolve("state").toString());
    KeepersLog.make(demos, Progress.SILENT);
    Audio whole =
        new MediaReader(folder.resolve("decoded"))
            .read(demos.resolve("keepers-log-clean.flac"), Progress.SILENT)
            .audio();
    clean = folder.resolve("clean.wav");
    float[] twelve = Arrays.copyOf(whole.wholeChannel(0), 12 * whole.sampleRate());
    WavWriter.write(
        Audio.of(whole.sampleRate(), twelve), clean, WavWriter.Format.PCM_24, Progress.SILENT);
  }

  @AfterEach
  void tearDown() {
    System.clearProperty("kettle.state");
  }

  private int run(Object... words) {
    out = new StringWriter();
    err = new StringWriter();
    return Kettle.run(
        Arrays.stream(words).map(Object::toString).toArray(String[]::new),
        new PrintWriter(out, true),
        new PrintWriter(err, true));
  }

  private JsonNode json(Path file) throws Exception {
    return new ObjectMapper().readTree(file.toFile());
  }

  @Test
  void aSweepIsMadeScoredAndRoundedUp() throws Exception {
    Path pieces = Files.createDirectories(folder.resolve("pieces"));
    assertThat(
            run(
                "testpiece",
                pieces.resolve("p.sieve"),
                "--job",
                "denoise",
                "--clean",
                clean,
                "--noise",
                "pink",
                "--sweep",
                "20,5",
                "--tag",
                "surf",
                "--tool",
                "plain-subtraction",
                "--tool",
                "band-gate",
                "--amounts",
                "30,60"))
        .as(err.toString())
        .isZero();
    Comparison first = ComparisonFile.load(pieces.resolve("p-1.sieve"));
    assertThat(first.made().snr()).isEqualTo(20);
    assertThat(first.versions()).hasSize(4);
    Path json = folder.resolve("r.json");
    assertThat(run("roundup", pieces, "--json", json, "--csv", folder.resolve("r.csv")))
        .as(err.toString())
        .isZero();
    JsonNode r = json(json);
    assertThat(r.path("schema").asText()).isEqualTo("kettle-sieve/roundup/1");
    assertThat(r.path("by").asText()).isEqualTo("version");
    assertThat(r.path("comparisons")).hasSize(2);
    assertThat(r.path("comparisons").get(0).path("file").asText()).isEqualTo("p-1.sieve");
    assertThat(r.path("comparisons").get(1).path("made").path("snr").asDouble()).isEqualTo(5);
    assertThat(r.path("entries")).hasSize(4);
    JsonNode entry = r.path("entries").get(0);
    assertThat(entry.path("measured").asInt()).isEqualTo(2);
    assertThat(entry.path("cells")).hasSize(2);
    double mean =
        (entry.path("cells").get(0).path("overall").asDouble()
                + entry.path("cells").get(1).path("overall").asDouble())
            / 2;
    assertThat(entry.path("mean").asDouble()).isCloseTo(mean, within(1e-5));
    assertThat(entry.path("cost").path("timeRatio").asDouble()).isPositive();
    assertThat(r.path("byTag").path("surf").path("entries")).hasSize(4);
    assertThat(r.path("tests").path("pairs")).hasSize(6);
    assertThat(r.path("agreement").path("byKind").has("pink")).isTrue();
    double best = 0;
    for (JsonNode e : r.path("entries")) {
      best += e.path("odds").path("best").asDouble();
    }
    assertThat(best).isCloseTo(1, within(0.005));
    // Again: the same bytes. By tool: two rows. One of the questions: its own figures.
    Path again = folder.resolve("again.json");
    assertThat(run("roundup", pieces, "--json", again)).isZero();
    assertThat(again).hasSameBinaryContentAs(json);
    assertThat(run("roundup", pieces, "--by", "tool", "--of", "lost", "--json", again)).isZero();
    JsonNode tools = json(again);
    assertThat(tools.path("entries")).hasSize(2);
    JsonNode cell = tools.path("entries").get(0).path("cells").get(0);
    assertThat(cell.path("value").asDouble()).isEqualTo(cell.path("lost").asDouble());
    assertThat(cell.path("bestOf").asInt()).isEqualTo(2);
    // A line a comparison, broken ones too, in their order; taken back it is the same round-up.
    Path missing = pieces.resolve("p-3.sieve");
    Path lines = folder.resolve("all.jsonl");
    assertThat(
            run(
                "score",
                pieces.resolve("p-2.sieve"),
                missing,
                pieces.resolve("p-1.sieve"),
                "--jsonl",
                lines,
                "--jobs",
                2))
        .isEqualTo(3);
    assertThat(err.toString()).contains("p-3.sieve: there is no such file");
    List<String> written = Files.readAllLines(lines);
    assertThat(written).hasSize(3);
    assertThat(written.get(0)).contains("\"comparison\":\"" + pieces.resolve("p-2.sieve"));
    assertThat(written.get(1)).contains("\"failed\":[{").doesNotContain("versions");
    assertThat(written.get(2)).contains("\"amount\":60.0").contains("\"tags\":[\"surf\"]");
    Files.write(lines, List.of(written.get(2)));
    Path alone = folder.resolve("alone.json");
    assertThat(run("score", pieces.resolve("p-2.sieve"), "--json", alone)).isZero();
    Path merged = folder.resolve("merged.json");
    assertThat(run("roundup", alone, lines, "--json", merged)).as(err.toString()).isZero();
    assertThat(Files.readString(merged).replace(pieces + "/", ""))
        .isEqualTo(Files.readString(json));
    assertThat(run("score", missing, alone, "--jsonl", "-", "--excerpt", "1-2")).isEqualTo(2);
    assertThat(run("score", pieces.resolve("p-1.sieve"), pieces.resolve("p-2.sieve"))).isEqualTo(2);
    assertThat(err.toString()).contains("--jsonl");
    // Of nothing that can be used no page is written.
    Path page0 = folder.resolve("nothing.html");
    assertThat(run("roundup", json, "--html", page0)).isEqualTo(3);
    assertThat(err.toString()).contains("has no schema kettle-sieve/scores/1");
    assertThat(page0).doesNotExist();
    // Scores of another profile are not passed off as what was asked for.
    assertThat(run("roundup", alone, lines, "--profile", "archive")).isEqualTo(3);
    assertThat(err.toString()).contains("of the profile even. Score it again with --profile");
    assertThat(out.toString()).isEmpty();
    assertThat(run("roundup", pieces, "--role", "bass")).isEqualTo(2);
    assertThat(err.toString()).contains("--role is for stems");
    // For people, and as pages.
    assertThat(run("roundup", pieces)).isZero();
    assertThat(out.toString())
        .contains("has the best mean")
        .contains("By difficulty (signal-to-noise ratio, dB)")
        .contains("surf: ");
    Path page = folder.resolve("r.html");
    Path pdf = folder.resolve("r.pdf");
    assertThat(run("roundup", pieces, "--html", page, "--pdf", pdf, "--date", "2026-12-02"))
        .isZero();
    assertThat(Files.readString(page))
        .contains("Band gate")
        .contains("<svg")
        .contains("2026-12-02");
    assertThat(Files.readAllBytes(pdf)).startsWith('%', 'P', 'D', 'F');
  }

  @Test
  void whatIsOffIsSaid() throws Exception {
    Path piece = folder.resolve("x.sieve");
    assertThat(run("testpiece", piece, "--job", "denoise", "--clean", clean)).isEqualTo(2);
    assertThat(err.toString()).contains("which noise");
    assertThat(run("testpiece", piece, "--job", "declip", "--clean", clean, "--clip", "3"))
        .isEqualTo(2);
    assertThat(run("testpiece", piece, "--job", "stretch", "--clean", clean)).isEqualTo(2);
    assertThat(err.toString()).contains("--ratio");
    assertThat(
            run(
                "testpiece",
                piece,
                "--job",
                "denoise",
                "--clean",
                folder.resolve("none.wav"),
                "--noise",
                "white",
                "--snr",
                "10"))
        .isEqualTo(3);
    assertThat(err.toString()).contains("none.wav");
    assertThat(piece).doesNotExist();
    assertThat(run("testpiece", piece, "--job", "declip", "--clean", clean, "--clip", "-6"))
        .isZero();
    assertThat(run("testpiece", piece, "--job", "declip", "--clean", clean, "--clip", "-6"))
        .isEqualTo(2);
    assertThat(err.toString()).contains("already");
    // A round-up of nothing, of two jobs, of what is broken, over what it reads.
    assertThat(run("roundup", Files.createDirectories(folder.resolve("empty")))).isEqualTo(2);
    assertThat(run("roundup", piece, "--of", "no-such")).isEqualTo(2);
    assertThat(run("roundup", piece, "--by", "colour")).isEqualTo(2);
    assertThat(run("roundup", piece, "--json", piece)).isEqualTo(2);
    Path other = folder.resolve("y.sieve");
    run("testpiece", other, "--job", "denoise", "--clean", clean, "--noise", "white", "--snr", "9");
    assertThat(run("roundup", piece, other)).isEqualTo(2);
    assertThat(err.toString()).contains("--job");
    Path broken = folder.resolve("b.sieve");
    Files.writeString(broken, "{");
    assertThat(run("roundup", other, broken)).isEqualTo(3);
    assertThat(err.toString()).contains("b.sieve");
    assertThat(out.toString()).contains("No versions yet: y, 9 dB");
  }

  @Test
  void thereAndBackIsJudgedAgainstTheSource() throws Exception {
    Path piece = folder.resolve("t.sieve");
    assertThat(
            run(
                "testpiece",
                piece,
                "--job",
                "stretch",
                "--clean",
                clean,
                "--ratio",
                "1.25",
                "--tool",
                "waveform-overlap",
                "--tool",
                "plain-phase-stretch"))
        .as(err.toString())
        .isZero();
    assertThat(ComparisonFile.load(piece).versions()).allMatch(v -> v.back());
    Path json = folder.resolve("t.json");
    assertThat(run("roundup", piece, "--json", json)).as(err.toString()).isZero();
    assertThat(json(json).path("entries")).hasSize(2);
  }
}
