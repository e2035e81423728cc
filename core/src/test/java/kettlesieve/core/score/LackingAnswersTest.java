package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import org.junit.jupiter.api.Test;

/** A question that could not be answered lifts no version. */
class LackingAnswersTest {
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1000, "wav", "pcm_s24le", 24, false, 48_000, 1, 48_000);
  private static final Match MATCH =
      new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "wanted sound", 0, 1, List.of(), List.of());

  private static Estimate around(double value) {
    double[] draws = new double[Bootstrap.DRAWS];
    for (int d = 0; d < draws.length; d++) {
      draws[d] = value + 0.01 * Math.abs(value) * Math.sin(d * 1.7);
    }
    return new Estimate(value, draws);
  }

  /** A stretched version; NaN for a length that could not be told. */
  private static Measured version(String id, double length, double attacks, double warble) {
    List<Reading> readings = new ArrayList<>();
    if (!Double.isNaN(length)) {
      readings.add(Reading.of("length-error", around(length)));
    }
    readings.add(Reading.of("attack-loss", around(attacks)));
    readings.add(Reading.of("warble", around(warble)));
    return Measured.of(
        VersionFacts.of(id, id, Path.of(id + ".wav"), FACTS, MATCH),
        new Readings(readings, List.of()));
  }

  private static ScoreSheet sheet(Measured... versions) {
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(
            Job.STRETCH, scoring.profileOrDefault(null), scoring, Path.of("source.wav"), FACTS),
        Arrays.asList(versions),
        List.of(),
        List.of(),
        List.of());
  }

  @Test
  void whatCannotBeAskedForItsLengthStandsAfterWhatIsAsGoodElsewhere() {
    // Its other answers are worse than those of "long", whose wrong length takes it far down.
    ScoreSheet sheet =
        sheet(
            version("good", 0.1, 2, 0.3),
            version("long", 1.6, 4, 0.6),
            version("unknown", Double.NaN, 6, 0.8));
    List<String> order = sheet.ranked(Part.ALL).stream().map(e -> e.version().id()).toList();
    assertThat(order).containsExactly("good", "long", "unknown");
    Entry unknown = sheet.entry(Part.ALL, "unknown").orElseThrow();
    Entry worse = sheet.entry(Part.ALL, "long").orElseThrow();
    assertThat(unknown.card().axes()).doesNotContainKey(Axis.MISSED);
    assertThat(unknown.card().overall().orElseThrow().value())
        .isLessThanOrEqualTo(worse.card().overall().orElseThrow().value());
    assertThat(sheet.notices())
        .anyMatch(n -> n.version().equals("unknown") && n.text().startsWith("Missed could not"));
  }

  /** Half of a file has nothing added and nothing lost in the half that is there. */
  @Test
  void noneIsFirstByItsSilence() {
    ScoreSheet sheet = sheet(version("long", 1.6, 6, 0.8), version("half", Double.NaN, 0, 0));
    assertThat(sheet.ranked(Part.ALL).get(0).version().id()).isEqualTo("long");
    assertThat(sheet.entry(Part.ALL, "half").orElseThrow().ranked().rank()).isEqualTo(1);
    assertThat(sheet.entry(Part.ALL, "half").orElseThrow().ranked().rankTo()).isEqualTo(2);
  }

  @Test
  void whereAllLackItNothingIsSaid() {
    ScoreSheet sheet = sheet(version("a", Double.NaN, 1, 0.2), version("b", Double.NaN, 2, 0.2));
    assertThat(sheet.notices()).isEmpty();
    assertThat(sheet.ranked(Part.ALL).get(0).version().id()).isEqualTo("a");
  }
}
