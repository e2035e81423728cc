package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import org.junit.jupiter.api.Test;

/** At the weight that is named the order turns, and not before. */
class WhatIfTest {
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);

  private static Reading scored(String measure, double points) {
    Scale scale = Scoring.shipped().scale(measure).orElseThrow();
    double value = scale.full() + (100 - points) / 100 * (scale.zero() - scale.full());
    return Reading.of(measure, Estimate.sure(value));
  }

  private static Measured version(String label, double missed, double added, double lost) {
    Match match = new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "", 0, 1, List.of(), List.of());
    return Measured.of(
        VersionFacts.of(label, label, Path.of(label + ".wav"), FACTS, match),
        new Readings(
            List.of(
                scored("pause-noise", missed),
                scored("musical-noise", added),
                scored("detail-loss", lost)),
            List.of()));
  }

  private static ScoreSheet sheet(Profile profile, Measured... versions) {
    return ScoreSheet.of(
        new Heading(Job.DENOISE, profile, Scoring.shipped(), Path.of("s.wav"), FACTS),
        List.of(versions),
        List.of(),
        List.of(),
        List.of());
  }

  private static Profile weighing(Axis axis, double weight) {
    Map<String, Double> weights = new HashMap<>(Map.of("missed", 1.0, "added", 1.0, "lost", 1.0));
    weights.put(axis.id(), weight);
    return new Profile("own", "Own", "", weights, Map.of(), List.of());
  }

  private static String first(ScoreSheet sheet) {
    return sheet.ranked(Part.ALL).get(0).version().label();
  }

  @Test
  void theOrderTurnsAtTheWeightThatIsNamed() {
    Measured quiet = version("quiet", 90, 60, 80);
    Measured mild = version("mild", 60, 95, 60);
    Profile even = Scoring.shipped().profileOrDefault("even");
    ScoreSheet sheet = sheet(even, quiet, mild);
    assertThat(first(sheet)).isEqualTo("quiet");
    WhatIf what = WhatIf.of(sheet, 3).get(0);
    assertThat(what.version()).isEqualTo("quiet");
    assertThat(what.next()).isEqualTo("mild");
    Axis axis = what.axis().orElseThrow();
    // Shortfalls 10, 40, 20 and 40, 5, 40: the lead is 1,500 − 1,575 + 1,200.
    assertThat(what.needed()).isCloseTo(1 - 1125 / -1575.0, within(0.01));
    assertThat(axis).isEqualTo(Axis.ADDED);
    for (double side : new double[] {0.98, 1.02}) {
      ScoreSheet other = sheet(weighing(axis, what.needed() * side), quiet, mild);
      assertThat(first(other)).isEqualTo(side < 1 ? "quiet" : "mild");
    }
    assertThat(what.words()).isEqualTo("“mild” would pass it if Added weighed 1.7 instead of 1.0.");
  }

  @Test
  void whatIsBetterInEverythingCannotBePassed() {
    Profile even = Scoring.shipped().profileOrDefault("even");
    List<WhatIf> all =
        WhatIf.of(
            sheet(even, version("a", 90, 90, 90), version("b", 50, 50, 50), version("c", 9, 9, 9)),
            3);
    assertThat(all).hasSize(2).allMatch(w -> w.axis().isEmpty());
    assertThat(all.get(0).words()).contains("No weight").contains("“b”");
    assertThat(WhatIf.of(sheet(even, version("a", 90, 90, 90)), 3)).isEmpty();
  }
}
