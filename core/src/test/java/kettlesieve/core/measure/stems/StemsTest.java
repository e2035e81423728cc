package kettlesieve.core.measure.stems;

import static kettlesieve.core.measure.stems.StemBand.EVALUATION;
import static kettlesieve.core.measure.stems.StemBand.PREPARED;
import static kettlesieve.core.measure.stems.StemBand.TRUE;
import static kettlesieve.core.measure.stems.StemBand.card;
import static kettlesieve.core.measure.stems.StemBand.changed;
import static kettlesieve.core.measure.stems.StemBand.leaking;
import static kettlesieve.core.measure.stems.StemBand.measured;
import static kettlesieve.core.measure.stems.StemBand.reading;
import static kettlesieve.core.measure.stems.StemBand.sum;
import static kettlesieve.core.measure.stems.StemBand.untouched;
import static kettlesieve.core.measure.stems.StemBand.value;
import static kettlesieve.core.measure.stems.StemBand.with;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;
import org.junit.jupiter.api.Test;

/** Stems as wholes: what bleeds where, whether they add up, and who tells whose the cells are. */
class StemsTest {
  @Test
  void trueStemsAndNearlyTrueOnesScoreNinetyNine() throws Exception {
    for (Map<String, Readings> taken : List.of(untouched(), measured(leaking(-50)))) {
      for (String role : TRUE.keySet()) {
        card(taken.get(role))
            .axes()
            .forEach(
                (axis, score) -> assertThat(score.value()).as(role + " " + axis).isGreaterThan(99));
      }
    }
  }

  @Test
  void bleedFollowsWhatLeakedDownToItsFloor() throws Exception {
    for (double db : new double[] {-10, -20, -30}) {
      Map<String, Readings> taken = measured(leaking(db));
      Reading bleed = reading(taken, "vocals", "bleed");
      // Three roles leak alike: their sum is 4.8 dB over one of them.
      assertThat(bleed.value()).as(db + " dB").isCloseTo(db + 4.8, within(0.5));
      for (String offender : List.of("drums", "bass", "other")) {
        assertThat(bleed.detail(offender)).as(offender).isCloseTo(db, within(0.7));
      }
    }
    Reading none = reading(untouched(), "vocals", "bleed");
    assertThat(none.figure().limit()).isEqualTo(Limit.AT_OR_BELOW);
    assertThat(none.value()).isLessThan(-50);
  }

  @Test
  void theOneWhoBleedsIsNamedAndItsPlaceFound() throws Exception {
    Map<String, Readings> taken =
        measured(changed("vocals", v -> with(v, "vocals", List.of("drums"), -12)));
    Reading bleed = reading(taken, "vocals", "bleed");
    assertThat(bleed.detail("drums")).isCloseTo(-12, within(1.5));
    assertThat(bleed.detail("drums"))
        .isGreaterThan(Math.max(bleed.detail("bass"), bleed.detail("other")) + 8);
    // The one who bleeds costs the points, and no other.
    assertThat(bleed.of("drums").scored().value())
        .isCloseTo(bleed.scored().value(), within(1.0))
        .isGreaterThan(bleed.of("bass").scored().value() + 10);
    // A stroke each 0.4 s, gone after a tenth of a second.
    assertThat(bleed.of("drums").spots()).isNotEmpty();
    assertThat(bleed.of("drums").spots().get(0).from() % 0.4).isBetween(-0.01, 0.41);
    assertThat(value(taken, "other", "bleed")).isLessThan(-24);
  }

  @Test
  void theOthersTellWhereNoTrueStemIsKnown() throws Exception {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    tools.put("a", leaking(-20));
    tools.put("b", leaking(-26));
    tools.put("judged", changed("bass", b -> with(b, "bass", List.of("other"), -10)));
    Map<String, Map<String, Readings>> taken = measured(tools, Map.of());
    Reading bass = reading(taken.get("judged"), "bass", "bleed");
    assertThat(bass.notes()).contains("by what the other tools give");
    assertThat(bass.detail("other")).isCloseTo(-10, within(3.0));
    assertThat(value(taken.get("a"), "vocals", "bleed"))
        .isGreaterThan(value(taken.get("b"), "vocals", "bleed") + 3);
    Readings alone = measured(Map.of("a", leaking(-20)), Map.of()).get("a").get("vocals");
    // Asked about itself, a tool is always right.
    assertThat(alone.reasonNotMeasured("missing").orElseThrow()).contains("no judge of its own");
    assertThat(alone.reasonNotMeasured("bleed").orElseThrow()).contains("Add another tool");
    assertThat(card(alone).overall()).isEmpty();
  }

  @Test
  void stemsAddUpOrTheNullTestSaysNotAndByWhatIsMissing() throws Exception {
    assertThat(value(untouched(), "", "sum-residual")).isLessThan(-90);
    Map<String, Audio> three = new LinkedHashMap<>(TRUE);
    three.remove("bass");
    Reading residual = reading(measured(three), "", "sum-residual");
    // The bass is about a quarter of the mix's power.
    assertThat(residual.value()).isBetween(-8.0, -4.0);
    int loudest = 0;
    double[] bands = residual.spectrum().version();
    for (int b = 0; b < bands.length; b++) {
      loudest = Double.isFinite(bands[b]) && bands[b] > bands[loudest] ? b : loudest;
    }
    assertThat(residual.spectrum().hz()[loudest]).isLessThan(100);
  }

  @Test
  void rolesThatNobodyElseGivesSaySoAndCompositesAreFormed() throws Exception {
    Map<String, Audio> two = new LinkedHashMap<>();
    two.put("vocals", TRUE.get("vocals"));
    Map<String, Audio> rest = new LinkedHashMap<>(TRUE);
    rest.remove("vocals");
    two.put("everything but vocals", sum(rest));
    two.put("choir", TRUE.get("other").times(0));
    Map<String, Readings> taken = measured(two);
    Reading choir = reading(taken, "choir", "missing");
    assertThat(choir.notes()).contains("the stem is silent: that is no stem");
    assertThat(card(taken.get("choir")).overall().orElseThrow().value()).isLessThan(5);
    Reading bleed = reading(taken, "everything but vocals", "bleed");
    assertThat(bleed.by()).extracting(s -> s.role()).containsExactly("vocals");
    assertThat(bleed.value()).isLessThan(-24);
    assertThat(value(taken, "vocals", "si-sdr")).isGreaterThan(60);
  }

  /** None of three kinds of stems that are none is above a stem that is whole. */
  @Test
  void stemsThatAreNoneAreLast() throws Exception {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    tools.put("a", leaking(-15));
    tools.put("b", leaking(-18));
    tools.put("c", leaking(-12));
    tools.put("silent", changed("vocals", v -> v.times(0)));
    tools.put("turned", changed("vocals", v -> v.times(-1)));
    tools.put("wrong", changed("vocals", v -> TRUE.get("drums")));
    for (Map<String, Audio> truth : List.of(Map.<String, Audio>of(), TRUE)) {
      Map<String, Map<String, Readings>> taken = measured(tools, truth);
      double least = Double.POSITIVE_INFINITY;
      for (String whole : List.of("a", "b", "c")) {
        least =
            Math.min(least, card(taken.get(whole).get("vocals")).overall().orElseThrow().value());
      }
      for (String none : List.of("silent", "turned", "wrong")) {
        assertThat(card(taken.get(none).get("vocals")).overall().orElseThrow().value())
            .as(none + (truth.isEmpty() ? "" : " by true stems"))
            .isLessThan(least - 10);
      }
    }
  }

  /** Two of one sort: at any distance the better one may be the other. */
  @Test
  void twoToolsOfOneSortAreNeverToldApart() throws Exception {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    tools.put("little", leaking(-20));
    tools.put("much", leaking(-12));
    Map<String, Map<String, Readings>> taken = measured(tools, Map.of());
    Estimate little = card(taken.get("little").get("vocals")).overall().orElseThrow();
    Estimate much = card(taken.get("much").get("vocals")).overall().orElseThrow();
    assertThat(little.minus(much).low()).isNegative();
    assertThat(little.minus(much).high()).isPositive();
    Estimate error = reading(taken.get("much"), "vocals", "est-sdr").estimate();
    assertThat(error.high() - error.low()).isGreaterThan(20);
    assertThat(reading(taken.get("much"), "vocals", "est-sdr").notes())
        .anyMatch(n -> n.contains("two tools alone, of one sort"));
  }

  /**
   * Flutter and musical noise have no reading of their own in stems; a level that wavers by six
   * decibels and lone tones as loud as a tenth of the role are artifacts, of the sizes they have.
   */
  @Test
  void whatWaversAndWhatWhistlesIsAnArtifact() throws Exception {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    tools.put("a", leaking(-24));
    tools.put("b", leaking(-18));
    tools.put("c", changed("vocals", StemBand::dull));
    tools.put("wavers", changed("vocals", a -> wavering(a, 0.5)));
    tools.put("whistles", changed("vocals", StemsTest::whistling));
    Map<String, Map<String, Readings>> taken = measured(tools, Map.of());
    for (String flaw : List.of("wavers", "whistles")) {
      double read = value(taken.get(flaw), "vocals", "artifacts");
      assertThat(read).as(flaw).isBetween(-14.0, -5.0);
      assertThat(read).as(flaw).isGreaterThan(value(taken.get("a"), "vocals", "artifacts") + 3);
    }
  }

  /** Error under the role: half of the square of the depth, 9 dB for 0.5. */
  private static Audio wavering(Audio a, double depth) {
    float[][] out = {a.wholeChannel(0), a.wholeChannel(1)};
    for (float[] x : out) {
      for (int i = 0; i < x.length; i++) {
        x[i] *= (float) (1 + depth * Math.sin(2 * Math.PI * 8 * i / StemBand.RATE));
      }
    }
    return Audio.of(a.sampleRate(), out);
  }

  /** Lone tones of 50 ms, together ten decibels under the role. */
  private static Audio whistling(Audio a) {
    float[] tones = new float[(int) a.frames()];
    java.util.SplittableRandom random = new java.util.SplittableRandom(8);
    for (int n = 0; n < 20 * tones.length / StemBand.RATE; n++) {
      int at = random.nextInt(tones.length - 900);
      double hz = 300 + 5000 * random.nextDouble();
      for (int i = 0; i < 800; i++) {
        double shape = Math.pow(Math.sin(Math.PI * i / 800), 2);
        tones[at + i] += (float) (shape * Math.sin(2 * Math.PI * hz * i / StemBand.RATE));
      }
    }
    float[][] out = {a.wholeChannel(0), a.wholeChannel(1)};
    double gain =
        Math.pow(10, -10 / 20.0)
            * (kettlesieve.core.Sounds.rms(out[0]) + kettlesieve.core.Sounds.rms(out[1]))
            / 2
            / kettlesieve.core.Sounds.rms(tones);
    for (float[] x : out) {
      for (int i = 0; i < x.length; i++) {
        x[i] += (float) (gain * tones[i]);
      }
    }
    return Audio.of(a.sampleRate(), out);
  }

  /** Copies are one tool: whatever is drawn for one is drawn for the other. */
  @Test
  void copiesHaveTheSameScore() throws Exception {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    tools.put("a", leaking(-20));
    tools.put("b", changed("vocals", StemBand::dull));
    tools.put("again", leaking(-20));
    tools.put("c", leaking(-12));
    Map<String, Map<String, Readings>> taken = measured(tools, Map.of());
    Estimate one = card(taken.get("a").get("vocals")).overall().orElseThrow();
    Estimate other = card(taken.get("again").get("vocals")).overall().orElseThrow();
    assertThat(one.value()).isEqualTo(other.value(), within(1e-6));
    assertThat(one.minus(other).low()).isLessThanOrEqualTo(1e-9);
    assertThat(one.minus(other).high()).isGreaterThanOrEqualTo(-1e-9);
  }

  /** Without true stems: what is nearly perfect cannot be told from perfect, and that is said. */
  @Test
  void whatIsBetterThanCanBeToldIsABound() throws Exception {
    Map<String, Map<String, Audio>> tools = new LinkedHashMap<>();
    tools.put("true", TRUE);
    tools.put("a", leaking(-10));
    tools.put("b", changed("vocals", StemBand::dull));
    tools.put("c", leaking(-14));
    Map<String, Map<String, Readings>> taken = measured(tools, Map.of());
    Reading best = reading(taken.get("true"), "vocals", "est-sdr");
    assertThat(best.limit()).isEqualTo(Limit.AT_OR_ABOVE);
    assertThat(best.value()).isEqualTo(15);
    for (String part : List.of("artifacts", "missing")) {
      Reading of = reading(taken.get("true"), "vocals", part);
      assertThat(of.limit()).as(part).isEqualTo(Limit.AT_OR_BELOW);
      assertThat(of.value()).as(part).isGreaterThanOrEqualTo(-15);
    }
    Reading leaking = reading(taken.get("a"), "vocals", "est-sdr");
    assertThat(leaking.limit()).isEqualTo(Limit.NONE);
    assertThat(leaking.value()).isLessThan(12);
    assertThat(card(taken.get("true").get("vocals")).overall().orElseThrow().value())
        .isGreaterThan(card(taken.get("a").get("vocals")).overall().orElseThrow().value() + 10);
  }

  /** Vincent et al. 2006: what leaked in at −20 dB is that far down, and only its own offender. */
  @Test
  void theSeparationEvaluationNamesWhatLeakedIn() throws Exception {
    Map<String, Readings> taken =
        evaluated(changed("vocals", v -> with(v, "vocals", List.of("other"), -20)));
    Reading sir = taken.get("vocals").reading("sir").orElseThrow();
    double down = 20 + 20 * Math.log10(rms("vocals") / rms("other"));
    assertThat(sir.value()).isCloseTo(down, within(0.3));
    assertThat(sir.detail("other")).isCloseTo(down, within(0.3));
    assertThat(sir.detail("drums")).isGreaterThan(down + 20);
    assertThat(sir.detail("median")).isBetween(down - 8, down + 8);
    assertThat(taken.get("vocals").reading("sdr").orElseThrow().value())
        .isCloseTo(down, within(0.3));
    assertThat(taken.get("vocals").reading("sar").orElseThrow().value()).isGreaterThan(50);
    assertThat(taken.get("vocals").reading("isr").orElseThrow().value()).isGreaterThan(40);
    assertThat(taken.get("drums").reading("sdr").orElseThrow().value()).isGreaterThan(80);
    // A dull stem is filtered, and nothing else.
    Readings dull = evaluated(changed("drums", StemBand::dull)).get("drums");
    assertThat(dull.reading("isr").orElseThrow().value()).isLessThan(12);
  }

  private static Map<String, Readings> evaluated(Map<String, Audio> stems) throws Exception {
    MatchedStems matched = PREPARED.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER);
    StemCells cells = PREPARED.cells(Map.of("", matched), TRUE, Stop.NEVER).get("");
    List<Measure> some =
        Scoring.shipped().measures(Job.STEMS).stream()
            .filter(m -> EVALUATION.contains(m.declaration().id()))
            .toList();
    return PREPARED.measureStems(matched, cells, some, Stop.NEVER);
  }

  private static double rms(String role) {
    Audio a = TRUE.get(role);
    return Math.hypot(Sounds.rms(a.wholeChannel(0)), Sounds.rms(a.wholeChannel(1)));
  }
}
