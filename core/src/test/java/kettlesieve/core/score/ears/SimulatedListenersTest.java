package kettlesieve.core.score.ears;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.function.ToDoubleFunction;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.listen.RoundPlan;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Heading;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Scale;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.score.VersionFacts;
import org.junit.jupiter.api.Test;

/** Listeners whose taste is known, 200 of each: what a round says of them must be that. */
class SimulatedListenersTest {
  private static final int LISTENERS = 200;
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1, "wav", "pcm", 16, false, 48_000, 1, 48_000);
  private static final ScoreSheet SHEET =
      sheet(
          version("v1", 90, 60, 70),
          version("v2", 60, 90, 80),
          version("v3", 75, 75, 90),
          version("v4", 85, 80, 55),
          version("v5", 55, 95, 75),
          version("v6", 70, 65, 95));
  private static final List<String> ITEMS = List.of("v1", "v2", "v3", "v4", "v5", "v6");

  private static Reading scored(String measure, double points) {
    Scale scale = Scoring.shipped().scale(measure).orElseThrow();
    double value = scale.full() + (100 - points) / 100 * (scale.zero() - scale.full());
    return Reading.of(measure, Estimate.sure(value));
  }

  private static Measured version(String id, double missed, double added, double lost) {
    Match match = new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "", 0, 1, List.of(), List.of());
    return Measured.of(
        VersionFacts.of(id, id, Path.of(id + ".wav"), FACTS, match),
        new Readings(
            List.of(
                scored("pause-noise", missed),
                scored("musical-noise", added),
                scored("detail-loss", lost)),
            List.of()));
  }

  private static ScoreSheet sheet(Measured... versions) {
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(Job.DENOISE, scoring.profileOrDefault("even"), scoring, Path.of("s"), FACTS),
        List.of(versions),
        List.of(),
        List.of(),
        List.of());
  }

  private static double of(String id, ToDoubleFunction<Entry> score) {
    return score.applyAsDouble(SHEET.entry(Part.ALL, id).orElseThrow());
  }

  /** A round of pairs by one who prefers by odds of a difference; 0 hears nothing at all. */
  private static Round pairs(long seed, double sharpness, ToDoubleFunction<Entry> taste) {
    Round round =
        RoundPlan.planned(
            new Round("r", Round.Kind.PAIRS, null, "", seed, null, "", ITEMS, "", List.of()), 0);
    SplittableRandom random = new SplittableRandom(50_000 + seed);
    for (int i = 0; i < round.trials().size(); i++) {
      Round.Trial t = round.trials().get(i);
      double difference = of(t.items().get(0), taste) - of(t.items().get(1), taste);
      boolean first = random.nextDouble() < 1 / (1 + Math.exp(-sharpness * difference));
      round = round.withTrial(i, t.withAnswer(t.items().get(first ? 0 : 1)));
    }
    return round;
  }

  private static Map<String, Estimate> ear(Round round) {
    Preferences found =
        Preferences.of(
            round.items(), Preferences.answers(List.of(round), round.items()), 100, round.seed());
    Map<String, Estimate> ear = new LinkedHashMap<>();
    for (int i = 0; i < ITEMS.size(); i++) {
      ear.put(ITEMS.get(i), found.strengths().get(i));
    }
    return ear;
  }

  private static double overall(Entry e) {
    return e.card().overall().orElseThrow().value();
  }

  @Test
  void whoHearsNothingIsFoundOutAsOftenAsTheTestAllows() {
    int heard = 0;
    List<Double> taus = new ArrayList<>();
    for (int n = 0; n < LISTENERS; n++) {
      // Another stream than the round's own: a listener does not know its seed.
      SplittableRandom random = new SplittableRandom(70_000L + n);
      Round abx =
          RoundPlan.planned(
              new Round(
                  "r", Round.Kind.ABX, null, "", n, null, "", ITEMS.subList(0, 2), "", List.of()),
              16);
      for (int i = 0; i < 16; i++) {
        Round.Trial t = abx.trials().get(i);
        abx = abx.withTrial(i, t.withAnswer(t.items().get(random.nextInt(2))));
      }
      heard += AbxResult.of(abx).heard() ? 1 : 0;
      taus.add(
          EarAgainstFigures.of(
                  ear(pairs(n, 0, SimulatedListenersTest::overall)), Round.Question.OVERALL, SHEET)
              .orElseThrow()
              .tau()
              .value());
    }
    double mean = taus.stream().mapToDouble(t -> t).average().orElseThrow();
    System.out.printf("deaf: %d of %d heard, mean tau %.3f%n", heard, LISTENERS, mean);
    // 12 of 16 or more by guessing: 3.8 %; of 200 up to 15 lie within three standard deviations.
    assertThat(heard).isBetween(1, 16);
    assertThat(mean).isBetween(-0.1, 0.1);
  }

  @Test
  void whoFollowsTheScoresAgreesWithThem() {
    int within = 0;
    double sum = 0;
    for (int n = 0; n < LISTENERS; n++) {
      EarAgainstFigures found =
          EarAgainstFigures.of(
                  ear(pairs(n, 5, SimulatedListenersTest::overall)), Round.Question.OVERALL, SHEET)
              .orElseThrow();
      sum += found.tau().value();
      within += found.tau().high() >= 0.99 ? 1 : 0;
      assertThat(found.pairs()).isEqualTo(15);
    }
    System.out.printf(
        "follows: mean tau %.3f, 1 within the interval in %d%n", sum / LISTENERS, within);
    assertThat(sum / LISTENERS).isGreaterThan(0.9);
    assertThat(within).isGreaterThan(170);
  }

  @Test
  void whoCaresForLostAloneIsGivenWeightsThatNameIt() {
    int named = 0;
    int better = 0;
    double share = 0;
    for (int n = 0; n < LISTENERS; n++) {
      Round round = pairs(n, 0.15, e -> e.card().axes().get(Axis.LOST).value());
      EarWeights found = EarWeights.of(EarWeights.pairs(List.of(round)), SHEET).orElseThrow();
      double lost = found.weights().get("lost");
      boolean most = lost > found.weights().get("missed") && lost > found.weights().get("added");
      named += most ? 1 : 0;
      share += lost / 3;
      better += found.reproduced() >= found.byEven() ? 1 : 0;
      assertThat(found.decided()).isEqualTo(30);
      assertThat(found.enough()).isTrue();
    }
    System.out.printf("lost alone: named in %d, mean share %.2f%n", named, share / LISTENERS);
    assertThat(named).isGreaterThan(190);
    assertThat(share / LISTENERS).isGreaterThan(0.7);
    assertThat(better).isGreaterThan(190);
  }

  @Test
  void disagreementsNameTheReadingThatSpeaksAgainstTheEar() {
    // The ear likes the last one of the figures best.
    Map<String, Estimate> ear = new LinkedHashMap<>();
    for (String id : ITEMS) {
      ear.put(id, Estimate.sure(-of(id, SimulatedListenersTest::overall)));
    }
    EarAgainstFigures found =
        EarAgainstFigures.of(ear, Round.Question.OVERALL, SHEET).orElseThrow();
    assertThat(found.tau().value()).isEqualTo(-1);
    assertThat(found.disagreements()).hasSize(15);
    EarAgainstFigures.Disagreement first = found.disagreements().get(0);
    assertThat(first.sure()).isTrue();
    assertThat(first.points()).isGreaterThanOrEqualTo(found.disagreements().get(14).points());
    assertThat(first.reading()).isIn("pause-noise", "musical-noise", "detail-loss");
    // Asked about Lost alone, the best of Lost is what they differ on.
    assertThat(
            EarAgainstFigures.of(ear, Round.Question.LOST, SHEET)
                .orElseThrow()
                .disagreements()
                .get(0)
                .scored())
        .isEqualTo("v6");
    assertThat(EarAgainstFigures.of(Map.of("v1", ear.get("v1")), Round.Question.LOST, SHEET))
        .isEmpty();
  }
}
