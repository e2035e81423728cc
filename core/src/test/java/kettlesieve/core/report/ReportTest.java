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
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
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
            .withDetails(Map.of("dBFS", -60.123456789))
            .withSpots(List.of(new Spot(0.5, 0.75, 200, 250, -30)))
            .withNotes(List.of("a note"));
    Reading cut = Reading.of("noise-cut", certain(12));
    return Measured.of(
        label,
        label,
        FOLDER.resolve("audio/" + label + ".wav"),
        FACTS,
        match,
        List.of(pause, cut),
        List.of(new NotMeasured("si-sdr", "no reference")));
  }

  private static ScoreSheet sheet(Measured... versions) {
    return ScoreSheet.of(
        Job.DENOISE,
        Scoring.shipped().profileOrDefault("even"),
        Scoring.shipped(),
        FOLDER.resolve("tape.wav"),
        FACTS,
        List.of(versions),
        List.of(new Failure("v9", "bad", FOLDER.resolve("bad.wav").toString(), "it is empty")),
        List.of("pauses: something"));
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
    JsonNode version = json(sheet(version("a", -27.5)), FOLDER).path("versions").get(0);
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
    assertThat(sheet.ranked())
        .extracting(e -> e.measured().label())
        .containsExactly("best", "twin", "worst");
    assertThat(ScoresTable.write(sheet).lines().filter(l -> l.contains("1="))).hasSize(2);
  }

  @Test
  void aVersionWithoutScoresComesLastAndHasNoRank() throws Exception {
    Measured unscored =
        Measured.of(
            "x", "x", Path.of("x.wav"), FACTS, version("x", 0).match(), List.of(), List.of());
    ScoreSheet sheet = sheet(unscored, version("a", -20));
    JsonNode first = json(sheet, FOLDER).path("versions").get(0);
    assertThat(first.has("rank")).isFalse();
    assertThat(first.has("overall")).isFalse();
    assertThat(sheet.ranked().get(1).measured().label()).isEqualTo("x");
    assertThat(ScoresTable.write(sheet)).contains("–");
  }

  @Test
  void csvCellsCannotBecomeFormulas() {
    String csv = ScoresCsv.write(sheet(version("=1+1", -50), version("plain, with comma", -40)));
    assertThat(csv).contains("'=1+1,").contains("\"plain, with comma\"");
    assertThat(csv.lines().filter(l -> l.contains("no reference"))).hasSize(2);
    long columns = csv.lines().findFirst().orElseThrow().chars().filter(c -> c == ',').count();
    assertThat(columns).isEqualTo(9);
  }

  @Test
  void whatWasUnfairGoesIntoEveryExport() throws Exception {
    Fairness.Item between =
        new Fairness.Item("", "amounts", "A at 30; B at 60", "ranked as equals");
    Measured plain = version("a", -50);
    Measured unfair =
        new Measured(
            plain.id(),
            plain.label(),
            plain.file(),
            Map.of(),
            plain.facts(),
            plain.match(),
            plain.readings(),
            plain.notMeasured(),
            List.of(),
            List.of(new Fairness.Item("a", "level", "quieter by 6.0 dB", "matched")),
            new Cost(12.5, 20.0, "9 €", false));
    ScoreSheet sheet = sheet(unfair).withFairness(List.of(between));
    JsonNode json = json(sheet, FOLDER);
    assertThat(json.path("fairness")).hasSize(2);
    assertThat(json.path("fairness").get(0).path("matter").asText()).isEqualTo("level");
    assertThat(json.path("fairness").get(1).path("done").asText()).isEqualTo("ranked as equals");
    JsonNode cost = json.path("versions").get(0).path("cost");
    assertThat(cost.path("seconds").asDouble()).isEqualTo(12.5);
    assertThat(cost.path("price").asText()).isEqualTo("9 €");
    assertThat(cost.path("realTime").asBoolean()).isFalse();
    assertThat(ScoresCsv.write(sheet)).contains("fairness,level").contains("quieter by 6.0 dB");
    assertThat(ScoresTable.write(sheet)).contains("unfair: a: quieter by 6.0 dB – matched");
    assertThat(ScoresTable.write(sheet)).contains("12.5 s, 9 €, offline");
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
        new Measured(
            "a",
            "a",
            FOLDER.resolve("v.wav"),
            stems,
            FACTS,
            plain.match(),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            Cost.NONE);
    JsonNode version = json(sheet(inStems), FOLDER).path("versions").get(0);
    assertThat(version.path("files").path("drums").asText()).isEqualTo("d.wav");
    assertThat(version.has("file")).isFalse();
    assertThat(version.has("cost")).isFalse();
    Version renamed = Version.ofStems("a", "b", Map.of("x", Stem.of(MediaRef.of(FOLDER))));
    assertThat(inStems.as(renamed, Cost.NONE.withPrice("free")).label()).isEqualTo("b");
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
