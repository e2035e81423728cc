package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.report.ScoresCsv;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.report.ScoresTable;
import org.junit.jupiter.api.Test;

/** Two orders side by side: what the scores say, and what the clean recording says. */
class ReferenceOrderTest {
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);

  /** An estimate whose draws differ from those of others by what is told, each in its own way. */
  private static Estimate about(double value, double spread) {
    double[] draws = new double[Bootstrap.DRAWS];
    for (int i = 0; i < draws.length; i++) {
      draws[i] = value + spread * Math.sin(i * (1 + value));
    }
    return new Estimate(value, draws);
  }

  private static Measured version(String label, double pauses, Double siSdr, Double stoi) {
    List<Reading> readings = new ArrayList<>();
    readings.add(Reading.of("pause-noise", about(pauses, 0)));
    readings.add(Reading.of("flutter", about(0, 0)));
    readings.add(Reading.of("detail-loss", about(0, 0)));
    if (siSdr != null) {
      readings.add(Reading.of("si-sdr", about(siSdr, 1)));
    }
    if (stoi != null) {
      readings.add(Reading.of("stoi", about(stoi, 0.001)));
    }
    Match match = new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "", 0, 1, List.of(), List.of());
    return new Measured(
        VersionFacts.of(label, label, Path.of(label + ".wav"), FACTS, match),
        Map.of(Part.ALL, new Readings(readings, List.of())));
  }

  private static ScoreSheet sheet(Measured... versions) {
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(Job.DENOISE, scoring.profileOrDefault(null), scoring, Path.of("s"), FACTS),
        List.of(versions),
        List.of(),
        List.of(),
        List.of());
  }

  @Test
  void whatIsWithinTheUncertaintySharesItsPlace() {
    ReferenceOrder order =
        ReferenceOrder.of(
                sheet(
                    version("near", -20, 20.0, 0.95),
                    version("close", -20, 20.4, 0.95),
                    version("far", -20, 5.0, 0.8)),
                Part.ALL)
            .orElseThrow();
    assertThat(order.places().get("near").words()).isEqualTo("1–2");
    assertThat(order.places().get("close").words()).isEqualTo("1–2");
    assertThat(order.places().get("far").words()).isEqualTo("3");
    assertThat(order.disagreements()).isEmpty();
  }

  @Test
  void readingsThatContradictEachOtherDecideNothing() {
    ReferenceOrder order =
        ReferenceOrder.of(
                sheet(version("a", -20, 20.0, 0.7), version("b", -20, 10.0, 0.9)), Part.ALL)
            .orElseThrow();
    assertThat(order.places().get("a")).isEqualTo(new ReferenceOrder.Place(1, 2));
    assertThat(order.places().get("b")).isEqualTo(new ReferenceOrder.Place(1, 2));
  }

  @Test
  void whereTheOrdersDifferBothSaySoEverywhere() {
    ScoreSheet sheet = sheet(version("quiet", -40, 8.0, 0.8), version("true", -15, 16.0, 0.9));
    ReferenceOrder order = ReferenceOrder.of(sheet, Part.ALL).orElseThrow();
    assertThat(order.disagreements())
        .singleElement()
        .satisfies(
            d -> {
              assertThat(d.byScore()).isEqualTo("quiet");
              assertThat(d.byReference()).isEqualTo("true");
              assertThat(d.why())
                  .contains("SI-SDR 16.00 against 8.00 dB")
                  .contains("STOI 0.90 against 0.80")
                  .contains("Missed 28 against 100");
            });
    String line = order.disagreements().get(0).line();
    assertThat(ScoresTable.write(sheet, 100, false))
        .contains("against the clean recording: 1 true, 2 quiet")
        .contains(line);
    assertThat(ScoresJson.write(sheet, null).replaceAll("\\s+", " "))
        .contains("\"againstReference\" : { \"rank\" : 2, \"rankTo\" : 2 }")
        .contains(line);
  }

  @Test
  void withoutACleanRecordingThereIsNoSuchOrder() {
    ScoreSheet sheet = sheet(version("a", -40, null, null), version("b", -15, null, null));
    assertThat(ReferenceOrder.of(sheet, Part.ALL)).isEmpty();
    assertThat(ScoresTable.write(sheet, 100, false)).doesNotContain("against the clean");
    assertThat(ScoresJson.write(sheet, null)).doesNotContain("againstReference");
    // A range of places stands in the table of figures, too: its last column but two.
    assertThat(ScoresCsv.write(sheet).lines().skip(1))
        .allMatch(l -> l.split(",", -1)[10].matches("[12]"));
  }
}
