package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Fairness;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.measure.Taken;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import org.junit.jupiter.api.Test;

/** Exports of a sheet made by hand. */
class ReportTest {
  private static final MediaFacts FACTS =
      new MediaFacts("ab".repeat(32), 1000, "wav", "pcm_s24le", 24, false, 48_000, 1, 96_000);
  private static final Path FOLDER = Path.of("/somewhere/project");

  private static Estimate certain(double value) {
    double[] draws = new double[Bootstrap.DRAWS];
    Arrays.fill(draws, value);
    return new Estimate(value, draws);
  }

  private static Measured version(String label, double pauseNoise, String... warnings) {
    Match match =
        new Match(
            -1.5,
            -0.03125,
            -1,
            0,
            2.25,
            1,
            0.98,
            44_100,
            2,
            "wanted sound",
            0,
            2,
            List.of("inverted polarity, turned back"),
            List.of(warnings));
    Reading pause =
        Reading.of("pause-noise", certain(pauseNoise))
            .with("dBFS", -60.123456789, "dBFS")
            .withSpots(List.of(new Spot(0.5, 0.75, 200, 250, -30)))
            .withNotes(List.of("a note"));
    Reading cut = Reading.of("noise-cut", certain(12));
    return Measured.of(
        VersionFacts.of(label, label, FOLDER.resolve("audio/" + label + ".wav"), FACTS, match),
        new Taken(List.of(pause, cut), List.of(new NotMeasured("si-sdr", "no reference"))));
  }

  private static ScoreSheet sheet(Measured... versions) {
    return sheet(List.of(), versions);
  }

  private static ScoreSheet sheet(List<Fairness.Item> fairness, Measured... versions) {
    return ScoreSheet.of(
        new Heading(
            Job.DENOISE,
            Scoring.shipped().profileOrDefault("even"),
            Scoring.shipped(),
            FOLDER.resolve("tape.wav"),
            FACTS),
        List.of(versions),
        List.of(new Failure("v9", "bad", FOLDER.resolve("bad.wav").toString(), "it is empty")),
        List.of(Notice.of("pauses: something")),
        fairness);
  }

  private static String table(ScoreSheet sheet) {
    return ScoresTable.write(sheet, ScoresTable.USUAL_WIDTH, false);
  }

  private static JsonNode json(ScoreSheet sheet, Path base) throws Exception {
    return new ObjectMapper().readTree(ScoresJson.write(sheet, base));
  }

  @Test
  void filesAreNamedRelativeToTheirFolder() throws Exception {
    ScoreSheet sheet = sheet(version("a", -50));
    JsonNode relative = json(sheet, FOLDER);
    assertThat(relative.path("source").path("file").asText()).isEqualTo("tape.wav");
    assertThat(relative.path("versions").get(0).path("file").asText()).isEqualTo("audio/a.wav");
    assertThat(relative.path("failed").get(0).path("file").asText()).isEqualTo("bad.wav");
    assertThat(json(sheet, null).path("source").path("file").asText())
        .isEqualTo("/somewhere/project/tape.wav");
    assertThat(json(sheet, Path.of("/elsewhere")).path("source").path("file").asText())
        .isEqualTo("/somewhere/project/tape.wav");
  }

  @Test
  void readingsCarryScoreDetailsSpotsAndNotes() throws Exception {
    JsonNode version = json(sheet(version("a", -22)), FOLDER).path("versions").get(0);
    JsonNode pause = version.path("readings").get(0);
    assertThat(pause.path("score").asDouble()).isEqualTo(50);
    assertThat(pause.path("details").path("dBFS").asDouble()).isEqualTo(-60.123457);
    assertThat(pause.path("spots").get(0).path("to").asDouble()).isEqualTo(0.75);
    assertThat(pause.path("notes").get(0).asText()).isEqualTo("a note");
    assertThat(version.path("readings").get(1).has("score")).isFalse();
    assertThat(version.path("notMeasured").get(0).path("reason").asText())
        .isEqualTo("no reference");
    assertThat(version.path("match").path("delayMs").asDouble()).isEqualTo(-0.03125);
    assertThat(version.path("match").path("polarity").asInt()).isEqualTo(-1);
    assertThat(version.path("axes").has("added")).isFalse();
  }

  @Test
  void warningsOfVersionsNameThem() throws Exception {
    JsonNode warnings = json(sheet(version("a", -50, "careful")), FOLDER).path("warnings");
    assertThat(warnings).hasSize(2);
    assertThat(warnings.get(0).asText()).isEqualTo("pauses: something");
    assertThat(warnings.get(1).asText()).isEqualTo("a: careful");
  }

  @Test
  void ranksGoByTheOverallScore() throws Exception {
    ScoreSheet sheet = sheet(version("worst", -20), version("best", -50), version("twin", -50));
    JsonNode versions = json(sheet, FOLDER).path("versions");
    assertThat(versions.get(0).path("rank").asInt()).isEqualTo(3);
    assertThat(versions.get(1).path("rank").asInt()).isEqualTo(1);
    assertThat(versions.get(1).path("tiedWith").get(0).asText()).isEqualTo("twin");
    assertThat(versions.get(2).path("rank").asInt()).isEqualTo(1);
    assertThat(sheet.ranked(Part.ALL))
        .extracting(e -> e.version().label())
        .containsExactly("best", "twin", "worst");
    assertThat(table(sheet).lines().filter(l -> l.contains("1–2"))).hasSize(2);
  }

  @Test
  void aVersionWithoutScoresComesLastAndHasNoRank() throws Exception {
    Measured unscored =
        Measured.of(
            VersionFacts.of("x", "x", Path.of("x.wav"), FACTS, version("x", 0).version().match()),
            Taken.NOTHING);
    ScoreSheet sheet = sheet(unscored, version("a", -20));
    JsonNode first = json(sheet, FOLDER).path("versions").get(0);
    assertThat(first.has("rank")).isFalse();
    assertThat(first.has("overall")).isFalse();
    assertThat(sheet.ranked(Part.ALL).get(1).version().label()).isEqualTo("x");
    assertThat(table(sheet)).contains("–");
  }

  @Test
  void csvCellsCannotBecomeFormulas() {
    String csv = ScoresCsv.write(sheet(version("=1+1", -50), version("plain, with comma", -40)));
    assertThat(csv).contains("'=1+1,").contains("\"plain, with comma\"");
    assertThat(csv.lines().filter(l -> l.contains("no reference"))).hasSize(2);
    long columns = csv.lines().findFirst().orElseThrow().chars().filter(c -> c == ',').count();
    assertThat(columns).isEqualTo(10);
  }

  @Test
  void whatWasUnfairGoesIntoEveryExport() throws Exception {
    Fairness.Item between =
        new Fairness.Item("", "amounts", "A at 30; B at 60", "ranked as equals");
    Measured plain = version("a", -50);
    VersionFacts facts = plain.version();
    Measured unfair =
        new Measured(
            new VersionFacts(
                facts.id(),
                facts.label(),
                facts.file(),
                Map.of(),
                facts.facts(),
                facts.match(),
                List.of(new Fairness.Item("a", "level", "quieter by 6.0 dB", "matched")),
                new Cost(12.5, 20.0, "9 €", false)),
            plain.taken());
    ScoreSheet sheet = sheet(List.of(between), unfair);
    JsonNode json = json(sheet, FOLDER);
    assertThat(json.path("fairness")).hasSize(2);
    assertThat(json.path("fairness").get(0).path("matter").asText()).isEqualTo("level");
    assertThat(json.path("fairness").get(1).path("done").asText()).isEqualTo("ranked as equals");
    JsonNode cost = json.path("versions").get(0).path("cost");
    assertThat(cost.path("seconds").asDouble()).isEqualTo(12.5);
    assertThat(cost.path("price").asText()).isEqualTo("9 €");
    assertThat(cost.path("realTime").asBoolean()).isFalse();
    assertThat(ScoresCsv.write(sheet)).contains("fairness,level").contains("quieter by 6.0 dB");
    assertThat(table(sheet)).contains("\n  a\n    quieter by 6.0 dB – matched");
    assertThat(table(sheet)).contains("12.5 s, 9 €, offline");
    // Under another profile the list is the same.
    assertThat(sheet.under(Scoring.shipped().profileOrDefault("cinema")).allFairness())
        .isEqualTo(sheet.allFairness());
  }

  @Test
  void aVersionInStemsNamesItsFilesByRole() throws Exception {
    Measured plain = version("a", -50);
    Map<String, Path> stems = new java.util.LinkedHashMap<>();
    stems.put("vocals", FOLDER.resolve("v.wav"));
    stems.put("drums", FOLDER.resolve("d.wav"));
    Measured inStems =
        Measured.of(
            new VersionFacts(
                "a",
                "a",
                FOLDER.resolve("v.wav"),
                stems,
                FACTS,
                plain.version().match(),
                List.of(),
                Cost.NONE),
            Taken.NOTHING);
    JsonNode version = json(sheet(inStems), FOLDER).path("versions").get(0);
    assertThat(version.path("files").path("drums").asText()).isEqualTo("d.wav");
    assertThat(version.has("file")).isFalse();
    assertThat(version.has("cost")).isFalse();
    Stem elsewhere = Stem.of(MediaRef.of(Path.of("/moved/x.wav")));
    Version renamed = Version.ofStems("a", "b", Map.of("vocals", elsewhere, "drums", elsewhere));
    VersionFacts now = inStems.as(renamed, Cost.NONE.withPrice("free")).version();
    assertThat(now.label()).isEqualTo("b");
    assertThat(now.stems().get("drums")).isEqualTo(Path.of("/moved/x.wav"));
  }

  @Test
  void rankTestsStandInTheJsonAndAsText() throws Exception {
    var tests =
        kettlesieve.core.score.RankTests.of(
            List.of("a", "b", "c"),
            new double[][] {{3, 2, 1}, {6, 4.5, 4}, {9, 7, 8}, {5, 4.2, 1}});
    String text = ScoresJson.write(sheet(version("a", -50)), FOLDER, java.util.Optional.of(tests));
    JsonNode json = new ObjectMapper().readTree(text).path("rankTests");
    assertThat(json.path("occasions").asInt()).isEqualTo(4);
    assertThat(json.path("meanRanks").path("a").asDouble()).isEqualTo(1);
    assertThat(json.path("wilcoxon")).hasSize(3);
    assertThat(RankTable.write(tests)).contains("Friedman", "a against b: Wilcoxon p = 0.1250");
  }
}
