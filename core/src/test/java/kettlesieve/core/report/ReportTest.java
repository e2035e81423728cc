package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.StringReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import javax.xml.parsers.DocumentBuilderFactory;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Decision;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.FlacWriter;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import kettlesieve.core.work.ProgramVersion;
import nu.validator.htmlparser.common.XmlViolationPolicy;
import nu.validator.htmlparser.sax.HtmlParser;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.apache.pdfbox.text.TextPosition;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.xml.sax.InputSource;
import org.xml.sax.SAXParseException;
import org.xml.sax.helpers.DefaultHandler;

/** A report as a page and as PDF: whole, escaped, the same for the same. */
class ReportTest {
  private static final int RATE = 16_000;
  private static final LocalDate DAY = LocalDate.of(2026, 11, 26);
  private static final String NASTY = "<script>alert(1)</script> & \"quoted\" \u001b[31m";
  private static final String FAR = "灯台 מגדלור";
  private static final Map<String, Heard> MATCHED = new LinkedHashMap<>();
  private static Audio source;
  private static Comparison comparison;
  private static ScoreSheet sheet;

  @TempDir private Path folder;

  @BeforeAll
  static void measure() throws Exception {
    float[] speech = Arrays.copyOf(Sounds.speech16(), 8 * RATE);
    float[] noise = Sounds.white(speech.length, 7);
    float[] noisy = Sounds.mix(speech, noise, Sounds.noiseFactor(speech, noise, 15));
    source = Audio.of(RATE, noisy);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(source, null, null, null);
    MediaFacts facts = new MediaFacts("ab12", 1, "wav", "pcm", 16, false, RATE, 1, noisy.length);
    comparison =
        Comparison.empty("The lamp " + NASTY, Job.DENOISE)
            .withSource(new MediaRef("/x/tape.wav", null))
            .withNotes("Notes of the keeper");
    List<Measured> measured = new ArrayList<>();
    String[] labels = {NASTY, FAR + " " + "very long label ".repeat(8), "Third"};
    double[] left = {0.3, 0.1, 0.02};
    for (int v = 0; v < labels.length; v++) {
      float[] x = Sounds.mix(speech, noise, left[v] * Sounds.noiseFactor(speech, noise, 15));
      String id = "v" + v;
      comparison =
          comparison.plus(
              Version.of(id, labels[v], new MediaRef("/x/" + id + ".wav", null))
                  .withVerdict(v == 0 ? "use it <b>" : ""));
      MatchedVersion matched = preparedExcerpt.match(Audio.of(RATE, x), MatchOverride.NONE);
      MATCHED.put(id, Heard.of(matched));
      Readings taken =
          preparedExcerpt.measure(
              matched, Set.of("pause-noise", "musical-noise", "level-change", "voice-loss"));
      measured.add(
          Measured.of(
              VersionFacts.of(id, labels[v], Path.of(id + ".wav"), facts, matched.match()), taken));
    }
    Scoring scoring = Scoring.shipped();
    sheet =
        ScoreSheet.of(
            new Heading(
                Job.DENOISE, scoring.profileOrDefault("book"), scoring, Path.of("tape.wav"), facts),
            measured,
            List.of(),
            List.of(),
            List.of());
  }

  private static Report report(long sound) throws Exception {
    return new ReportMaker(comparison, sheet, source, MATCHED, Map.of())
        .make(DAY, sound, "Kettle Sieve, test");
  }

  /** All errors that the parser of the W3C's own checker finds. */
  private static List<String> errors(String page) throws Exception {
    List<String> found = new ArrayList<>();
    HtmlParser parser = new HtmlParser(XmlViolationPolicy.ALLOW);
    parser.setErrorHandler(
        new DefaultHandler() {
          @Override
          public void error(SAXParseException e) {
            found.add(e.getLineNumber() + ": " + e.getMessage());
          }
        });
    parser.setContentHandler(new DefaultHandler());
    parser.parse(new InputSource(new StringReader(page)));
    return found;
  }

  @Test
  void theParserOfACheckerFindsNoError() throws Exception {
    assertThat(errors(ReportPage.html(report(1 << 20)))).isEmpty();
    assertThat(errors("<!DOCTYPE html><title>x</title><p><b>never closed")).isNotEmpty();
  }

  @Test
  void whatIsNotTickedStaysOut() throws Exception {
    ReportMaker maker = new ReportMaker(comparison, sheet, source, MATCHED, Map.of());
    String bare = ReportPage.html(maker.make(DAY, 1 << 20, "test", Set.of()));
    assertThat(bare)
        .contains("<h2>Ranking</h2>")
        .doesNotContain("<h2>Readings</h2>")
        .doesNotContain("<h2>Version by version</h2>")
        .doesNotContain("<h2>How it was measured</h2>")
        .doesNotContain("<h2>What was compared</h2>")
        .doesNotContain("<svg")
        .doesNotContain("<audio");
    String some =
        ReportPage.html(
            maker.make(DAY, 1 << 20, "test", Set.of(Section.READINGS, Section.VERSIONS)));
    assertThat(some)
        .contains("<h2>Readings</h2>")
        .contains("<h2>Version by version</h2>")
        .doesNotContain("<audio");
    byte[] picture = ReportPage.picture(maker.make(DAY, 0, "test"), 300);
    assertThat(ImageIO.read(new ByteArrayInputStream(picture)).getWidth()).isEqualTo(300);
  }

  @Test
  void decisionsAndBlindRoundsStandInIt() throws Exception {
    Round round =
        new Round(
            "r1",
            Round.Kind.ABX,
            Round.Question.LOST,
            "<b>K.",
            1,
            null,
            "",
            List.of("v0", "v2"),
            "",
            Collections.nCopies(16, new Round.Trial(List.of("v0", "v2"), "v2", "v2", null)));
    Comparison judged =
        comparison
            .withRound(round)
            .withVersion(
                comparison
                    .version("v2")
                    .orElseThrow()
                    .withDecision(Decision.CARE)
                    .withVerdict("dry"));
    String page =
        ReportPage.html(
            new ReportMaker(judged, sheet, source, MATCHED, Map.of())
                .make(DAY, 0, "Kettle Sieve, test"));
    assertThat(page)
        .contains("What the ear says")
        .contains("16 of 16: you hear it")
        .contains("&lt;b&gt;K.")
        .contains("Use with care: dry");
    assertThat(errors(page)).isEmpty();
  }

  /** Sixteen long labels: every one is there, and nothing runs out of the page. */
  @Test
  void sixteenVersionsAreNotCutInThePdf() throws Exception {
    Comparison many = comparison;
    List<Measured> rows = new ArrayList<>();
    Measured model = sheet.versions().get(2);
    for (int v = 0; v < 16; v++) {
      String id = "w" + v;
      String label = "Version number " + v + " of the lamp room with a very long label indeed";
      many = many.plus(Version.of(id, label, new MediaRef("/x/" + id + ".wav", null)));
      VersionFacts own = model.version();
      rows.add(
          Measured.of(
              VersionFacts.of(id, label, Path.of(id + ".wav"), own.facts(), own.match()),
              model.of(Part.ALL)));
    }
    ScoreSheet all = ScoreSheet.of(sheet.heading(), rows, List.of(), List.of(), List.of());
    ByteArrayOutputStream pdf = new ByteArrayOutputStream();
    ReportPage.pdf(
        new ReportMaker(many, all, source, Map.of(), Map.of()).make(DAY, 0, "test"), pdf);
    List<String> outside = new ArrayList<>();
    try (PDDocument document = Loader.loadPDF(pdf.toByteArray())) {
      PDFTextStripper reader =
          new PDFTextStripper() {
            @Override
            protected void processTextPosition(TextPosition text) {
              float right = text.getXDirAdj() + text.getWidthDirAdj();
              if (text.getXDirAdj() < 20 || right > text.getPageWidth() - 20) {
                outside.add(text.getUnicode());
              }
              super.processTextPosition(text);
            }
          };
      String words = reader.getText(document).replaceAll("\\s+", " ");
      for (int v = 0; v < 16; v++) {
        assertThat(words).contains("Version number " + v + " of the lamp room");
      }
      // Sixteen columns are three tables; each version has its own column.
      assertThat(words.split("Musical noise", -1).length).isGreaterThanOrEqualTo(3);
    }
    assertThat(outside).isEmpty();
  }

  @Test
  void thePageIsWholeEscapedAndNeedsNothingElse() throws Exception {
    String page = ReportPage.html(report(ReportMaker.MOST_SOUND_BYTES));
    assertThat(page).doesNotContain("<script").contains("&lt;script&gt;alert(1)");
    assertThat(page).contains(FAR).contains("use it &lt;b&gt;").contains("Notes of the keeper");
    assertThat(page).contains("Noise in pauses at most −60 dBFS").contains("2026-11-26");
    // Neither links nor anything from elsewhere: only addresses within the page.
    assertThat(page).doesNotContain("href=").doesNotContain("http://localhost");
    var addresses = Pattern.compile("src=\"([^\"]{0,30})").matcher(page);
    int sounds = 0;
    while (addresses.find()) {
      assertThat(addresses.group(1)).startsWith("data:");
      sounds += addresses.group(1).startsWith("data:audio/flac") ? 1 : 0;
    }
    assertThat(sounds).isPositive().isEven();
    assertThat(page.split("<audio controls", -1)).hasSize(sounds + 1);
    // Well-formed, as the PDF is made of it.
    var parser = DocumentBuilderFactory.newInstance();
    parser.setFeature("http://apache.org/xml/features/disallow-doctype-decl", false);
    parser
        .newDocumentBuilder()
        .parse(
            new java.io.ByteArrayInputStream(
                page.replace("<!DOCTYPE html>", "").getBytes("UTF-8")));
  }

  @Test
  void marksAndTheChanceToBeTheBestStandInIt() throws Exception {
    Mark mark = Mark.at(1.5, "v2").withSpan(1.5, 2.3).withBand(2000.0, 6000.0);
    Comparison marked = comparison.plus(mark.withNote("gurgles & hums").withAxis("added"));
    Report made = new ReportMaker(marked, sheet, source, MATCHED, Map.of()).make(DAY, 0, "test");
    assertThat(made.marks())
        .containsExactly("0:01.5 to 0:02.3, 2000 to 6000 Hz, Third, added: gurgles & hums");
    assertThat(made.ranking()).allMatch(p -> p.best().matches("([<>] )?\\d of 10"));
    assertThat(made.against()).isEmpty();
    assertThat(ReportPage.html(made))
        .contains("Marked places", "gurgles &amp; hums", "Best in")
        .doesNotContain("Against the clean recording");
    assertThat(report(0).marks()).isEmpty();
  }

  @Test
  void theSameReportHasTheSameBytesAndAnotherDateIsTheOnlyDifference() throws Exception {
    String page = ReportPage.html(report(1 << 20));
    assertThat(ReportPage.html(report(1 << 20))).isEqualTo(page);
    Report later =
        new ReportMaker(comparison, sheet, source, MATCHED, Map.of())
            .make(DAY.plusDays(1), 1 << 20, "Kettle Sieve, test");
    assertThat(ReportPage.html(later)).isEqualTo(page.replace("2026-11-26", "2026-11-27"));
    assertThat(pdf()).isEqualTo(pdf());
  }

  /** Of clean recording and true stems the report tells as much as of the versions. */
  @Test
  void whatWasComparedIsToldWhole() throws Exception {
    Comparison with =
        comparison
            .withReference(MediaRef.of(Path.of("/a/clean.wav")))
            .withTrueStem("vocals", MediaRef.of(Path.of("/a/vox.flac")).withStream(2));
    MediaFacts clean = new MediaFacts("c1ea", 1, "wav", "pcm_s24le", 24, false, 96_000, 2, 192_000);
    MediaFacts vox = new MediaFacts("50f7", 1, "flac", "flac", 24, false, 48_000, 1, 48_000);
    Report made =
        new ReportMaker(
                with, sheet, source, MATCHED, Map.of("/a/clean.wav", clean, "/a/vox.flac", vox))
            .make(DAY, 0, ProgramVersion.words());
    assertThat(ReportPage.html(made))
        .contains("Clean recording", "SHA-256 c1ea", "96000 Hz, 2 channels, 2.00 s")
        .contains("True stem: vocals", "vox.flac, stream 2", "SHA-256 50f7", "1 channel, 1.00 s")
        .containsPattern("Kettle Sieve \\d+\\.\\d+\\.\\d+, state [0-9a-f]{12}");
  }

  private static byte[] pdf() throws Exception {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    ReportPage.pdf(report(0), bytes);
    return bytes.toByteArray();
  }

  @Test
  void thePdfHoldsTheTextAndNamesTheSignsItCannotShow() throws Exception {
    try (PDDocument document = Loader.loadPDF(pdf())) {
      String text = new PDFTextStripper().getText(document).replaceAll("\\s+", " ");
      assertThat(text)
          .contains("The lamp <script>alert(1)</script>")
          .contains("Ranking")
          .contains("Noise in pauses")
          .contains("limit")
          .contains("Signs that the font of this file has not")
          .contains("U+706F");
      assertThat(document.getNumberOfPages()).isBetween(2, 12);
      assertThat(document.getPage(0).getResources().getFontNames()).isNotEmpty();
    }
  }

  @Test
  void soundsThatDoNotFitAreLeftOutAndThatIsSaid() throws Exception {
    Report none = report(0);
    assertThat(none.versions())
        .allSatisfy(v -> v.spots().forEach(s -> assertThat(s.sourceSound()).isEmpty()));
    Report few = report(150_000);
    assertThat(few.leftOut()).contains("left out");
    assertThat(ReportPage.html(few).length()).isLessThan(1_500_000);
    assertThat(ReportPage.html(few)).contains(few.leftOut());
  }

  /** What FLAC gives back is what was written, to the last bit of sixteen. */
  @Test
  void flacGivesBackWhatWasWritten() throws Exception {
    Path file = folder.resolve("sound.flac");
    Audio sound = Audio.of(RATE, source.wholeChannel(0), source.times(0.5f).wholeChannel(0));
    FlacWriter.write(sound, file);
    Audio read = MediaReader.standard().read(file, Progress.SILENT).audio();
    assertThat(read.frames()).isEqualTo(sound.frames());
    assertThat(read.channels()).isEqualTo(2);
    for (int c = 0; c < 2; c++) {
      float[] before = sound.wholeChannel(c);
      float[] after = read.wholeChannel(c);
      for (int i = 0; i < before.length; i += 37) {
        assertThat(after[i]).isCloseTo(before[i], within(0.51f / 32768));
      }
    }
    byte[] once = Files.readAllBytes(file);
    FlacWriter.write(sound, file);
    assertThat(file).hasBinaryContent(once);
  }
}
