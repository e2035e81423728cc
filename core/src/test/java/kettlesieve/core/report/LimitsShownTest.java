package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Evidence;
import kettlesieve.core.measure.Figure;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.Share;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Requirements;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import org.junit.jupiter.api.Test;

/** A value that is only a bound is called so wherever it leaves the program. */
class LimitsShownTest {
  private static final MediaFacts FACTS =
      new MediaFacts("ab", 1, "wav", "pcm", 16, false, 16_000, 1, 16_000);

  private static Figure figure(double value, Limit limit) {
    Estimate e = Estimate.sure(value);
    return new Figure(e, e, limit);
  }

  private static Profile profile(List<Requirement> asked) {
    return new Profile("own", "Own", "", Map.of(), Map.of(), asked);
  }

  private static ScoreSheet sheet(Requirement... asked) {
    Reading floor =
        new Reading(
            "pause-noise",
            figure(-8, Limit.AT_OR_BELOW),
            List.of(new Detail("drums", -40, "dB"), new Detail("bass", -31, "dB")),
            Evidence.NONE,
            List.of(
                new Share("drums", figure(-40, Limit.AT_OR_BELOW), Evidence.NONE),
                new Share("bass", figure(-31, Limit.NONE), Evidence.NONE)),
            List.of());
    Reading top =
        new Reading(
            "voice-loss",
            figure(-15, Limit.AT_OR_ABOVE),
            List.of(),
            Evidence.NONE,
            List.of(),
            List.of());
    Reading plain = Reading.of("bandwidth", Estimate.sure(7_000));
    Scoring scoring = Scoring.shipped();
    VersionFacts version =
        VersionFacts.of(
            "v1",
            "Lamp",
            Path.of("lamp.wav"),
            FACTS,
            new Match(0, 0, 1, 0, 0, 1, 1, 16_000, 1, "", 0, 1, List.of(), List.of()));
    return ScoreSheet.of(
        new Heading(Job.DENOISE, profile(List.of(asked)), scoring, Path.of("tape.wav"), FACTS),
        List.of(Measured.of(version, new Readings(List.of(floor, top, plain), List.of()))),
        List.of(),
        List.of(),
        List.of());
  }

  @Test
  void jsonSaysAtMostAndAtLeastAndNothingElsewhere() throws Exception {
    JsonNode readings =
        new ObjectMapper().readTree(ScoresJson.write(sheet(), null)).at("/versions/0/readings");
    assertThat(readings.get(0).get("limit").asText()).isEqualTo("at most");
    assertThat(readings.get(1).get("limit").asText()).isEqualTo("at least");
    assertThat(readings.get(2).has("limit")).isFalse();
    assertThat(readings.get(0).get("detailLimits"))
        .isEqualTo(new ObjectMapper().readTree("{\"drums\": \"at most\"}"));
    assertThat(readings.get(1).has("detailLimits")).isFalse();
  }

  @Test
  void csvHasAColumn() {
    List<String> lines = ScoresCsv.write(sheet()).lines().toList();
    int columns = lines.get(0).split(",", -1).length;
    assertThat(lines.get(0)).endsWith(",limit,best");
    assertThat(lines.get(1)).contains(",pause-noise,").endsWith(",at most,");
    assertThat(lines.get(2)).contains(",voice-loss,").endsWith(",at least,");
    assertThat(lines.get(3)).contains(",bandwidth,").endsWith(",,");
    for (String line : lines) {
      assertThat(line.split(",", -1)).hasSize(columns);
    }
  }

  @Test
  void tablesAndReportsCarryTheSign() {
    assertThat(ScoresTable.write(sheet(), 100, false)).contains("≤ −8.0 dB");
    assertThat(ScoresTable.write(sheet(), 100, true)).contains("≤ −8.0").contains("≥ −15.0");
    Comparison comparison =
        Comparison.empty("Lamp", Job.DENOISE)
            .withSource(new MediaRef("/x/tape.wav", null))
            .plus(Version.of("v1", "Lamp", new MediaRef("/x/lamp.wav", null)));
    String page =
        ReportPage.html(
            report(
                comparison,
                sheet(
                    new Requirement("pause-noise", "", "<=", -5),
                    new Requirement("pause-noise", "", ">=", -20))));
    assertThat(page)
        .contains("≤ −8")
        .contains("≥ −15")
        .contains("Noise in pauses at most −5 dB: kept, ≤ −8.00 dB")
        .contains("Noise in pauses at least −20 dB: cannot be told");
  }

  private static Report report(Comparison comparison, ScoreSheet sheet) {
    try {
      return new ReportMaker(
              comparison, sheet, Audio.of(16_000, new float[16_000]), Map.of(), Map.of())
          .make(LocalDate.of(2026, 12, 1), 0, "test");
    } catch (java.io.IOException e) {
      throw new AssertionError(e);
    }
  }

  /** A floor may lie on either side of a limit above it: only what holds on all of it is told. */
  @Test
  void limitsThatABoundCannotTellAreNotTold() {
    ScoreSheet sheet =
        sheet(
            new Requirement("pause-noise", "", "<=", -5),
            new Requirement("pause-noise", "", "<=", -20),
            new Requirement("pause-noise", "", ">=", -5),
            new Requirement("pause-noise", "", ">=", -20),
            new Requirement("pause-noise", "drums", "<=", -30),
            new Requirement("pause-noise", "bass", ">=", -40),
            new Requirement("voice-loss", "", ">=", -20),
            new Requirement("voice-loss", "", "<=", -20),
            new Requirement("voice-loss", "", "<=", -10));
    List<Boolean> meets =
        Requirements.of(sheet.entries().get(0), sheet.profile()).stream()
            .map(o -> o.meets().orElse(null))
            .toList();
    assertThat(meets).containsExactly(true, null, false, null, true, true, true, false, null);
  }
}
