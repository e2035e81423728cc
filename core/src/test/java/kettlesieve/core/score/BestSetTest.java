package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.report.ScoresJson;
import org.junit.jupiter.api.Test;

/** For each role the leading stem, and what that gains over one tool. */
class BestSetTest {
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 2, 48_000);

  /** Bleed that costs from no points at −26 dB to all at −6 dB; nothing missing. */
  private static Readings stem(double bleed) {
    double points = Math.max(0, Math.min(100, 5 * (bleed + 26)));
    return new Readings(
        List.of(
            Reading.of("bleed", Estimate.sure(bleed)).scoredAs(Estimate.sure(points)),
            Reading.of("missing", Estimate.sure(0))),
        List.of());
  }

  private static Measured tool(String label, Map<String, Double> bleed) {
    Match match =
        new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 2, "as delivered", 0, 1, List.of(), List.of());
    Map<Part, Readings> taken = new LinkedHashMap<>();
    taken.put(Part.ALL, stem(bleed.values().stream().mapToDouble(x -> x).average().orElse(0)));
    bleed.forEach((role, db) -> taken.put(Part.ofRole(role), stem(db)));
    return new Measured(
        VersionFacts.of(label, label, Path.of(label + ".wav"), FACTS, match), taken);
  }

  private static ScoreSheet sheet(Measured... tools) {
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(Job.STEMS, scoring.profileOrDefault(null), scoring, Path.of("mix.wav"), FACTS),
        List.of(tools),
        List.of(),
        List.of(),
        List.of());
  }

  private static Map<String, Double> roles(double vocals, double drums) {
    Map<String, Double> roles = new LinkedHashMap<>();
    roles.put("vocals", vocals);
    roles.put("drums", drums);
    return roles;
  }

  @Test
  void eachRoleComesFromItsLeader() {
    Map<String, Double> three = roles(-8, -8);
    three.put("bass", -20.0);
    BestSet set =
        BestSet.of(
                sheet(
                    tool("a", roles(-22, -10)),
                    tool("b", roles(-12, -20)),
                    tool("c", Map.of("vocals", -26.0))))
            .orElseThrow();
    assertThat(set.leaders().get("vocals").label()).isEqualTo("c");
    assertThat(set.leaders().get("drums").label()).isEqualTo("b");
    // The third has no drums: it cannot be the best tool alone.
    assertThat(set.alone().orElseThrow().label()).isIn("a", "b");
    double shortfall = 100 * (26.0 - 20) / 20 / Math.sqrt(2);
    assertThat(set.overall()).isCloseTo((100 + 100 - shortfall) / 2, within(0.01));
    assertThat(set.gain()).isGreaterThan(5);
    ScoreSheet alone = sheet(tool("a", three));
    assertThat(BestSet.of(alone).orElseThrow().gain()).isCloseTo(0, within(1e-9));
  }

  @Test
  void aTieIsSaidAndTheSetStandsInTheJson() {
    ScoreSheet sheet = sheet(tool("a", roles(-20, -10)), tool("b", roles(-20, -20)));
    assertThat(BestSet.of(sheet).orElseThrow().leaders().get("vocals").tied()).containsExactly("b");
    assertThat(ScoresJson.write(sheet, null))
        .contains("\"bestSet\"")
        .contains("\"bestTool\"")
        .contains("\"gain\" : 0.0");
    assertThat(BestSet.of(sheet(tool("c", Map.of("vocals", -26.0))))).isEmpty();
  }
}
