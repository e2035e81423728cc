package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.media.MediaFacts;
import org.junit.jupiter.api.Test;

class TradeOffTest {
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1000, "wav", "pcm_s24le", 24, false, 48_000, 1, 48_000);
  private static final Match MATCH =
      new Match(0, 0, 1, 0, 0, 1, 1, 48_000, 1, "wanted sound", 0, 1, List.of(), List.of());

  /** Draws around a value: the same deviations for every version, as paired blocks would make. */
  private static Estimate around(double value, double spread) {
    double[] draws = new double[1000];
    for (int d = 0; d < draws.length; d++) {
      draws[d] = value + spread * Math.sin(d * 1.7);
    }
    return new Estimate(value, draws);
  }

  private static Measured version(String id, double pause, double musical, double lost) {
    double[] seconds = {0.5, 1.5, 2.5, 3.5};
    double[] trace = {0, lost, 0, 3 * lost};
    return Measured.of(
        VersionFacts.of(id, id, Path.of(id + ".wav"), FACTS, MATCH),
        new Readings(
            List.of(
                Reading.of("pause-noise", around(pause, 0.5)),
                Reading.of("musical-noise", around(musical, 0.02)),
                Reading.of("detail-loss", around(lost, 0.02)).withTrace(new Trace(seconds, trace))),
            List.of()));
  }

  private static ScoreSheet sheet(List<Measured> versions) {
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(
            Job.DENOISE, scoring.profileOrDefault(null), scoring, Path.of("source.wav"), FACTS),
        versions,
        List.of(),
        List.of(),
        List.of());
  }

  private static Comparison comparison(List<Measured> versions, double... amounts) {
    List<Version> list = new ArrayList<>();
    for (int i = 0; i < versions.size(); i++) {
      Version v =
          Version.of(
              versions.get(i).version().id(),
              versions.get(i).version().id(),
              MediaRef.of(Path.of("x")));
      list.add(i < amounts.length ? v.withTool("sieve").withAmount(Double.valueOf(amounts[i])) : v);
    }
    return Comparison.empty("t", Job.DENOISE).withVersions(list);
  }

  @Test
  void whatNoOtherBeatsIsMarked() {
    List<Measured> versions =
        List.of(
            version("gentle", -25, 0.3, 0),
            version("middle", -35, 0.6, 0.3),
            version("worse", -30, 0.9, 0.7),
            version("strong", -45, 1.2, 0.85));
    TradeOff tradeOff = TradeOff.of(sheet(versions), comparison(versions));
    assertThat(tradeOff.points())
        .filteredOn(TradeOff.Point::unbeaten)
        .extracting(TradeOff.Point::id)
        .containsExactly("gentle", "middle", "strong");
    TradeOff.Point strong = tradeOff.points().get(3);
    // Musical noise of 1.2 and detail loss of 0.85 dB both lie half way.
    assertThat(strong.unharmed().value()).isCloseTo(50, within(1e-6));
    assertThat(strong.dealtWith().value()).isEqualTo(100);
    assertThat(tradeOff.sweeps()).isEmpty();
  }

  @Test
  void theBestAmountLiesBetweenTheNeighbours() {
    // Scores on a parabola with its top at 60: the three points give it back.
    double[] amounts = {20, 50, 80};
    List<Estimate> scores = new ArrayList<>();
    for (double a : amounts) {
      scores.add(around(90 - Math.pow(a - 60, 2) / 50, 0.0));
    }
    TradeOff.BestAmount best = TradeOff.best(amounts, scores);
    assertThat(best.amount()).isCloseTo(60, within(1e-9));
    assertThat(best.score()).isCloseTo(90, within(1e-9));
    assertThat(best.high() - best.low()).isCloseTo(0, within(1e-9));
    TradeOff.BestAmount end =
        TradeOff.best(amounts, List.of(around(50, 1), around(60, 1), around(70, 1)));
    assertThat(end.amount()).isEqualTo(80);
    // Where draws disagree, the interval is wide.
    double[] wild = new double[1000];
    for (int d = 0; d < wild.length; d++) {
      wild[d] = 70 + 20 * Math.sin(d);
    }
    TradeOff.BestAmount unsure =
        TradeOff.best(amounts, List.of(around(69, 0), new Estimate(70, wild), around(69, 0)));
    assertThat(unsure.low()).isLessThan(unsure.amount());
    assertThat(unsure.high() - unsure.low()).isGreaterThan(20);
  }

  @Test
  void sweepsAreJoinedInOrderOfAmount() {
    List<Measured> versions =
        List.of(
            version("b", -35, 0.4, 0.3), version("a", -25, 0.3, 0), version("c", -45, 1.5, 1.0));
    TradeOff tradeOff = TradeOff.of(sheet(versions), comparison(versions, 60, 30, 90));
    TradeOff.Sweep sweep = tradeOff.sweeps().get("sieve");
    assertThat(sweep.ids()).containsExactly("a", "b", "c");
    assertThat(sweep.best().orElseThrow().amount()).isBetween(30.0, 90.0);
  }

  @Test
  void twoVersionsDifferMostWhereTheirReadingsDo() {
    List<Measured> versions = List.of(version("a", -40, 0.3, 0), version("b", -40, 0.4, 1.0));
    ScoreSheet sheet = sheet(versions);
    Contrast contrast = Contrast.of(sheet, sheet.entries().get(0), sheet.entries().get(1));
    assertThat(contrast.axes().get(0).axis()).isEqualTo(Axis.LOST);
    assertThat(contrast.axes().get(0).points()).isGreaterThan(30);
    assertThat(contrast.axes().get(0).sure()).isTrue();
    Contrast.Difference most = contrast.readings().get(0);
    assertThat(most.measure()).isEqualTo("detail-loss");
    assertThat(most.first()).isZero();
    assertThat(most.second()).isEqualTo(1);
    assertThat(most.places().get(0).from()).isCloseTo(3.25, within(1e-9));
    assertThat(contrast.readings().get(2).sure()).isFalse();
  }

  @Test
  void aScoreIsTakenApart() {
    Card card = sheet(List.of(version("a", -45, 2.3, 0.85))).entries().get(0).card();
    List<Card.Part> added = card.parts().get(Axis.ADDED);
    assertThat(added).hasSize(1);
    assertThat(added.get(0).score()).isCloseTo(50, within(1e-9));
    assertThat(added.get(0).share()).isEqualTo(1);
    assertThat(card.parts().get(Axis.MISSED).get(0).share()).isZero();
  }

  @Test
  void ownProfilesStandBesideTheShippedOnes() {
    Profile own = Scoring.shipped().profileOrDefault("even").named("harbour", "Harbour museum");
    Comparison c = Comparison.empty("t", Job.DENOISE).withOwnProfile(own).withProfile("harbour");
    Scoring scoring = Scoring.of(c);
    assertThat(scoring.profileOrDefault("harbour").title()).isEqualTo("Harbour museum");
    assertThat(scoring.profiles()).hasSize(Scoring.shipped().profiles().size() + 1);
    ScoreSheet sheet = sheet(List.of(version("a", -40, 0.3, 0))).under(c);
    assertThat(sheet.profile()).isEqualTo(own);
    Profile changed =
        new Profile(
            "harbour",
            "Harbour museum",
            "",
            java.util.Map.of("missed", 0.0),
            java.util.Map.of(),
            List.of());
    assertThat(c.withOwnProfile(changed).profiles()).containsExactly(changed);
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () ->
                new Profile(
                    "x", "x", "", java.util.Map.of("missed", -1.0), java.util.Map.of(), List.of()))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
