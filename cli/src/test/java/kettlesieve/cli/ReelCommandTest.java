package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.SplittableRandom;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A comparison from the command line, and a reel of it. */
class ReelCommandTest {
  private static final int RATE = 16_000;

  @TempDir private Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(String... words) {
    err.getBuffer().setLength(0);
    return Kettle.run(words, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private String wav(String name, double noise) throws Exception {
    SplittableRandom random = new SplittableRandom(5);
    float[] x = new float[4 * RATE];
    for (int i = 0; i < x.length; i++) {
      double loud = i % RATE < RATE / 2 ? 0.2 : 0;
      x[i] = (float) (loud * Math.sin(i * 0.09) + noise * random.nextGaussian());
    }
    Path file = folder.resolve(name);
    WavWriter.write(Audio.of(RATE, x), file, WavWriter.Format.PCM_24, Progress.SILENT);
    return file.toString();
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
