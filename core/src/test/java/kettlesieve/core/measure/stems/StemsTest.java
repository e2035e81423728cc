package kettlesieve.core.measure.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.function.UnaryOperator;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Taken;
import kettlesieve.core.measure.cells.StemCells;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Stop;
import kettlesieve.core.signal.SumAudio;
import kettlesieve.core.work.Assessment;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/**
 * Stems of a mix whose parts are known: a real voice in the middle, strokes of noise to the right,
 * plucked low notes, chords to the left. Each flaw is put in by hand.
 */
class StemsTest {
  private static final int RATE = 16_000;
  private static final int LENGTH = 12 * RATE;
  private static final Map<String, Audio> TRUE = new LinkedHashMap<>();
  private static final Set<String> EVALUATION = Set.of("sdr", "isr", "sir", "sar");

  /** All but the separation evaluation, which has a test of its own. */
  private static final List<Measure> MEASURES =
      Scoring.shipped().measures(Job.STEMS).stream()
          .filter(m -> !EVALUATION.contains(m.declaration().id()))
          .toList();

  private static Assessment assessment;
  private static Map<String, Taken> untouched;

  @BeforeAll
  static void mix() throws Exception {
    float[] speech = Sounds.speech16();
    float[] voice = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      voice[i] = speech[i % speech.length];
    }
    SplittableRandom random = new SplittableRandom(3);
    float[] drums = new float[LENGTH];
    float[] bass = new float[LENGTH];
    float[] other = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      double stroke = i % (RATE * 2 / 5) / (double) RATE;
      drums[i] = (float) (0.5 * Math.exp(-stroke / 0.03) * random.nextGaussian());
      double note = i % (RATE * 3 / 5) / (double) RATE;
      double hz = new double[] {55, 65, 73, 82}[i / (RATE * 3 / 5) % 4];
      double seconds = (double) i / RATE;
      bass[i] = (float) (0.3 * Math.exp(-note / 0.4) * Math.sin(2 * Math.PI * hz * seconds));
      double root = new double[] {392, 440, 523, 349}[i / RATE % 4];
      for (double ratio : new double[] {1, 1.26, 1.5, 4, 5.04}) {
        other[i] += (float) (0.03 * Math.sin(2 * Math.PI * root * ratio * seconds));
      }
    }
    TRUE.put("vocals", panned(scaled(voice, 0.09), 1, 1));
    TRUE.put("drums", panned(scaled(drums, 0.08), 0.7, 1.2));
    TRUE.put("bass", panned(scaled(bass, 0.08), 1, 1));
    TRUE.put("other", panned(scaled(other, 0.06), 1.3, 0.4));
    MatchSettings settings = new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
    assessment = Assessment.of(sum(TRUE), null, null, null, settings);
  }

  private static float[] scaled(float[] x, double rms) {
    double sum = 0;
    for (float v : x) {
      sum += (double) v * v;
    }
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= (float) (rms / Math.sqrt(sum / y.length));
    }
    return y;
  }

  private static Audio panned(float[] x, double left, double right) {
    return Audio.of(RATE, scaledBy(x, left), scaledBy(x, right));
  }

  private static float[] scaledBy(float[] x, double factor) {
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= (float) factor;
    }
    return y;
  }

  private static Audio copied(Audio a) {
    return Audio.of(RATE, a.wholeChannel(0), a.wholeChannel(1));
  }

  private static Audio sum(Map<String, Audio> stems) {
    return copied(SumAudio.of(List.copyOf(stems.values())));
  }

  /** Every stem with so much of each other one. */
  private static Map<String, Audio> leaking(double db) {
    Map<String, Audio> stems = new LinkedHashMap<>();
    TRUE.forEach((role, own) -> stems.put(role, with(own, role, TRUE.keySet(), db)));
    return stems;
  }

  private static Audio with(Audio own, String role, Iterable<String> others, double db) {
    List<Audio> parts = new ArrayList<>(List.of(own));
    for (String other : others) {
      if (!other.equals(role)) {
        parts.add(TRUE.get(other).times((float) Math.pow(10, db / 20)));
      }
    }
    return copied(SumAudio.of(parts));
  }

  /** Another of the four stems; the others as they are. */
  private static Map<String, Audio> changed(String role, UnaryOperator<Audio> how) {
    Map<String, Audio> stems = new LinkedHashMap<>(TRUE);
    stems.put(role, how.apply(TRUE.get(role)));
    return stems;
  }

  private static Map<String, Taken> untouched() throws Exception {
    if (untouched == null) {
      untouched = measured(Map.of("judged", TRUE), TRUE).get("judged");
    }
    return untouched;
  }

  private static Map<String, Taken> measured(Map<String, Audio> stems) throws Exception {
    return measured(Map.of("judged", stems), TRUE).get("judged");
  }

  private static Map<String, Map<String, Taken>> measured(
      Map<String, Map<String, Audio>> tools, Map<String, Audio> truth) throws Exception {
    Map<String, MatchedStems> matched = new LinkedHashMap<>();
    for (var tool : tools.entrySet()) {
      matched.put(
          tool.getKey(),
          assessment.matchStems(tool.getValue(), MatchOverride.NONE, null, Stop.NEVER));
    }
    Map<String, StemCells> cells = assessment.cells(matched, truth, Stop.NEVER);
    Map<String, Map<String, Taken>> taken = new LinkedHashMap<>();
    matched.forEach(
        (id, m) -> taken.put(id, assessment.measureStems(m, cells.get(id), MEASURES, Stop.NEVER)));
    return taken;
  }

  private static double value(Map<String, Taken> taken, String role, String measure) {
    return reading(taken, role, measure).value();
  }

  private static Reading reading(Map<String, Taken> taken, String role, String measure) {
    return taken.get(role).reading(measure).orElseThrow();
  }

  private static Card card(Taken taken) {
    Scoring scoring = Scoring.shipped();
    return Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.STEMS);
  }

  @Test
  void trueStemsAndNearlyTrueOnesScoreNinetyNine() throws Exception {
    for (Map<String, Taken> taken : List.of(untouched(), measured(leaking(-35)))) {
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
    double before = Double.NaN;
    for (double db : new double[] {-10, -20, -30}) {
      Map<String, Taken> taken = measured(leaking(db));
      Reading bleed = reading(taken, "vocals", "bleed");
      // Three roles leak alike: their sum is 4.8 dB over one of them.
      assertThat(bleed.value()).as(db + " dB").isCloseTo(db + 4.8, within(2.5));
      if (!Double.isNaN(before)) {
        assertThat(before - bleed.value()).isBetween(7.0, 12.0);
      }
      before = bleed.value();
    }
    Reading none = reading(untouched(), "vocals", "bleed");
    assertThat(none.figure().limit()).isEqualTo(Limit.AT_OR_BELOW);
    assertThat(none.value()).isEqualTo(none.detail("floor"), within(0.01));
    assertThat(none.value()).isLessThan(-24);
  }

  @Test
  void theOneWhoBleedsIsNamedAndItsPlaceFound() throws Exception {
    Map<String, Taken> taken =
        measured(changed("vocals", v -> with(v, "vocals", List.of("drums"), -12)));
    Reading bleed = reading(taken, "vocals", "bleed");
    assertThat(bleed.detail("drums")).isCloseTo(-12, within(1.5));
    assertThat(bleed.detail("drums"))
        .isGreaterThan(Math.max(bleed.detail("bass"), bleed.detail("other")) + 8);
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
    Map<String, Map<String, Taken>> taken = measured(tools, Map.of());
    Reading bass = reading(taken.get("judged"), "bass", "bleed");
    assertThat(bass.notes()).containsExactly("cells told by what the other tools agree on");
    assertThat(bass.detail("other")).isCloseTo(-10, within(2.0));
    assertThat(value(taken.get("a"), "vocals", "bleed"))
        .isGreaterThan(value(taken.get("b"), "vocals", "bleed") + 3);
    Taken alone = measured(Map.of("a", leaking(-20)), Map.of()).get("a").get("vocals");
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
  void aQuieterStemHasLostNothing() throws Exception {
    Map<String, Taken> taken = measured(changed("vocals", v -> v.times(0.5f)));
    assertThat(value(taken, "vocals", "missing")).isGreaterThan(-0.5);
    assertThat(reading(taken, "vocals", "missing").detail("level")).isCloseTo(-6.02, within(0.1));
    assertThat(value(taken, "vocals", "dropouts")).isLessThan(0.5);
    assertThat(value(taken, "", "sum-residual")).isGreaterThan(-15);
  }

  @Test
  void aSilencedPassageIsMissingThereAndDropsOut() throws Exception {
    int from = 5 * RATE;
    Map<String, Taken> taken = measured(changed("other", o -> silenced(o, from, from + 3 * RATE)));
    assertThat(value(taken, "other", "dropouts")).isCloseTo(25, within(6.0));
    assertThat(value(taken, "other", "missing")).isLessThan(-1);
    assertThat(reading(taken, "other", "dropouts").spots().get(0).from()).isBetween(4.8, 8.1);
    assertThat(value(taken, "vocals", "missing")).isGreaterThan(-0.5);
  }

  private static Audio silenced(Audio a, int from, int to) {
    float[][] x = {a.wholeChannel(0), a.wholeChannel(1)};
    for (float[] channel : x) {
      java.util.Arrays.fill(channel, from, to, 0);
    }
    return Audio.of(RATE, x);
  }

  @Test
  void overtonesThatWereCutAreMissingInTheirBands() throws Exception {
    Map<String, Taken> taken = measured(changed("vocals", StemsTest::dull));
    Reading missing = reading(taken, "vocals", "missing");
    assertThat(missing.value()).isLessThan(-1);
    for (int b = 0; b < missing.spectrum().hz().length; b++) {
      double hz = missing.spectrum().hz()[b];
      double db = missing.spectrum().version()[b];
      if (Double.isFinite(db) && hz > 3000) {
        assertThat(db).isLessThan(-12);
      }
      if (Double.isFinite(db) && hz > 200 && hz < 900) {
        assertThat(db).isGreaterThan(-3);
      }
    }
    assertThat(value(taken, "vocals", "dropouts")).isLessThan(20);
  }

  @Test
  void aStemInMonoHasMovedToTheMiddle() throws Exception {
    Map<String, Taken> taken =
        measured(
            changed(
                "other",
                o -> {
                  float[] middle = o.downmix().wholeChannel(0);
                  return Audio.of(RATE, middle, middle);
                }));
    assertThat(value(taken, "other", "width-change")).isLessThan(-5);
    assertThat(Math.abs(value(taken, "drums", "width-change"))).isLessThan(1);
    assertThat(value(taken, "other", "missing")).isGreaterThan(-0.7);
  }

  @Test
  void aStemThatDucksAtEachStrokePumps() throws Exception {
    Map<String, Taken> taken = measured(changed("other", StemsTest::ducked));
    Reading pumping = reading(taken, "other", "pumping");
    assertThat(pumping.value()).isBetween(-9.0, -2.0);
    assertThat(Math.abs(pumping.detail("drums"))).isEqualTo(Math.abs(pumping.value()));
    assertThat(Math.abs(value(untouched(), "other", "pumping"))).isLessThan(0.7);
  }

  /** 6 dB down from each stroke on, back within a quarter of a second. */
  private static Audio ducked(Audio a) {
    float[][] x = {a.wholeChannel(0), a.wholeChannel(1)};
    for (float[] channel : x) {
      for (int i = 0; i < channel.length; i++) {
        double since = i % (RATE * 2 / 5) / (double) RATE;
        channel[i] *= (float) (since < 0.15 ? 0.5 : Math.min(1, 0.5 + (since - 0.15) / 0.2));
      }
    }
    return Audio.of(RATE, x);
  }

  @Test
  void rolesThatNobodyElseGivesSaySoAndCompositesAreFormed() throws Exception {
    Map<String, Audio> two = new LinkedHashMap<>();
    two.put("vocals", TRUE.get("vocals"));
    Map<String, Audio> rest = new LinkedHashMap<>(TRUE);
    rest.remove("vocals");
    two.put("everything but vocals", sum(rest));
    two.put("choir", TRUE.get("other").times(0));
    Map<String, Taken> taken = measured(two);
    assertThat(taken.get("choir").reasonNotMeasured("bleed").orElseThrow())
        .contains("nothing tells what belongs to choir");
    Reading bleed = reading(taken, "everything but vocals", "bleed");
    assertThat(bleed.by()).extracting(s -> s.role()).containsExactly("vocals");
    assertThat(bleed.value()).isLessThan(-24);
    assertThat(value(taken, "vocals", "si-sdr")).isGreaterThan(60);
  }

  /** Vincent et al. 2006: what leaked in at −20 dB is that far down, and only its own offender. */
  @Test
  void theSeparationEvaluationNamesWhatLeakedIn() throws Exception {
    Map<String, Taken> taken =
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
    Taken dull = evaluated(changed("drums", StemsTest::dull)).get("drums");
    assertThat(dull.reading("isr").orElseThrow().value()).isLessThan(12);
  }

  private static Map<String, Taken> evaluated(Map<String, Audio> stems) throws Exception {
    MatchedStems matched = assessment.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER);
    StemCells cells = assessment.cells(Map.of("", matched), TRUE, Stop.NEVER).get("");
    List<Measure> some =
        Scoring.shipped().measures(Job.STEMS).stream()
            .filter(m -> EVALUATION.contains(m.declaration().id()))
            .toList();
    return assessment.measureStems(matched, cells, some, Stop.NEVER);
  }

  private static double rms(String role) {
    Audio a = TRUE.get(role);
    return Math.hypot(Sounds.rms(a.wholeChannel(0)), Sounds.rms(a.wholeChannel(1)));
  }

  private static Audio dull(Audio a) {
    return Audio.of(
        RATE,
        Sounds.lowPass(a.wholeChannel(0), RATE, 1500),
        Sounds.lowPass(a.wholeChannel(1), RATE, 1500));
  }

  @Test
  void aDullStemEndsWhereItWasCut() throws Exception {
    Map<String, Taken> taken = measured(changed("drums", StemsTest::dull));
    assertThat(value(taken, "drums", "bandwidth")).isBetween(1200.0, 2300.0);
    assertThat(reading(taken, "drums", "bandwidth").detail("source")).isGreaterThan(7000);
    assertThat(value(untouched(), "drums", "bandwidth")).isGreaterThan(7000);
  }

  @Test
  void aToneThatWasNotInTheMixRings() throws Exception {
    Map<String, Taken> taken =
        measured(
            changed(
                "vocals",
                v -> {
                  float[][] x = {v.wholeChannel(0), v.wholeChannel(1)};
                  for (float[] channel : x) {
                    for (int i = 0; i < channel.length; i++) {
                      channel[i] += (float) (0.04 * Math.sin(2 * Math.PI * 7000 * i / RATE));
                    }
                  }
                  return Audio.of(RATE, x);
                }));
    Reading ringing = reading(taken, "vocals", "ringing");
    assertThat(ringing.value()).isGreaterThan(8);
    assertThat(ringing.detail("frequency")).isCloseTo(7000, within(40.0));
    assertThat(value(taken, "drums", "ringing")).isLessThan(1);
    for (String role : TRUE.keySet()) {
      assertThat(value(untouched(), role, "ringing")).as(role).isLessThan(1);
    }
  }

  /** Every other stroke is soft, 26 dB down; a gate takes the soft ones, or half of them. */
  @Test
  void softStrokesThatAreGoneAreCounted() throws Exception {
    int beat = RATE / 4;
    float[][] drums = {new float[LENGTH], new float[LENGTH]};
    SplittableRandom random = new SplittableRandom(8);
    for (int i = 0; i < LENGTH; i++) {
      double stroke = i % beat / (double) RATE;
      double loud = i / beat % 2 == 0 ? 0.4 : 0.02;
      float x = (float) (loud * Math.exp(-stroke / 0.03) * random.nextGaussian());
      drums[0][i] = x;
      drums[1][i] = x;
    }
    Map<String, Audio> truth = new LinkedHashMap<>();
    truth.put("drums", Audio.of(RATE, drums));
    truth.put("bass", TRUE.get("bass"));
    MatchSettings settings = new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
    Assessment own = Assessment.of(sum(truth), null, null, null, settings);
    double[] kept = new double[3];
    for (int every = 0; every < 3; every++) {
      float[][] gated = {drums[0].clone(), drums[1].clone()};
      for (int i = 0; i < LENGTH; i++) {
        int stroke = i / beat;
        boolean gone = stroke % 2 == 1 && (every == 2 || every == 1 && stroke % 4 == 1);
        gated[0][i] *= gone ? 0 : 1;
        gated[1][i] *= gone ? 0 : 1;
      }
      Map<String, Audio> stems = new LinkedHashMap<>(truth);
      stems.put("drums", Audio.of(RATE, gated));
      MatchedStems matched = own.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER);
      StemCells cells = own.cells(Map.of("a", matched), truth, Stop.NEVER).get("a");
      Reading detail =
          own.measureStems(matched, cells, Scoring.shipped().measures(Job.STEMS), Stop.NEVER)
              .get("drums")
              .reading("quiet-detail")
              .orElseThrow();
      kept[every] = detail.value();
      assertThat(detail.detail("attacks")).isBetween(18.0, 30.0);
    }
    assertThat(kept[0]).isGreaterThan(97);
    assertThat(kept[1]).isCloseTo(50, within(12.0));
    assertThat(kept[2]).isLessThan(10);
  }

  @Test
  void aLevelAndADelayAreToldFromLoss() throws Exception {
    Map<String, Audio> stems = changed("drums", d -> d.times(0.5f));
    stems.put("bass", late(TRUE.get("bass"), 48));
    Reading left = measured(stems).get("").reading("sum-residual").orElseThrow();
    assertThat(left.value()).isGreaterThan(-20);
    assertThat(left.detail("fitted")).isLessThan(-40);
    assertThat(left.notes())
        .anyMatch(n -> n.startsWith("drums is -6.0 dB off"))
        .anyMatch(n -> n.startsWith("bass is") && n.contains("3.0"))
        .noneMatch(n -> n.startsWith("vocals"));
    Map<String, Audio> three = new LinkedHashMap<>(TRUE);
    three.remove("drums");
    Reading without = measured(three).get("").reading("sum-residual").orElseThrow();
    assertThat(without.detail("drums")).isGreaterThan(-1);
    assertThat(without.detail("vocals")).isLessThan(-8);
    assertThat(without.notes()).anyMatch(n -> n.contains("holds drums"));
    Reading whole = untouched().get("").reading("sum-residual").orElseThrow();
    assertThat(whole.value()).isLessThan(-90);
    assertThat(whole.notes()).isEmpty();
  }

  private static Audio late(Audio a, int samples) {
    float[][] x = {new float[LENGTH], new float[LENGTH]};
    for (int c = 0; c < 2; c++) {
      System.arraycopy(a.wholeChannel(c), 0, x[c], samples, LENGTH - samples);
    }
    return Audio.of(RATE, x);
  }
}
