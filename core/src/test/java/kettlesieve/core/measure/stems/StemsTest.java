package kettlesieve.core.measure.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.function.UnaryOperator;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.match.RoleCells;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Taken;
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
  private static Assessment assessment;

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
    Map<String, RoleCells> cells = assessment.cells(matched, truth, Stop.NEVER);
    Map<String, Map<String, Taken>> taken = new LinkedHashMap<>();
    matched.forEach(
        (id, m) ->
            taken.put(
                id,
                assessment.measureStems(
                    m, cells.get(id), truth, Scoring.shipped().measures(Job.STEMS), Stop.NEVER)));
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
    for (Map<String, Audio> stems : List.of(TRUE, leaking(-35))) {
      Map<String, Taken> taken = measured(stems);
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
    Reading none = reading(measured(TRUE), "vocals", "bleed");
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
    assertThat(value(measured(TRUE), "", "sum-residual")).isLessThan(-90);
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
    Map<String, Taken> taken =
        measured(
            changed(
                "vocals",
                v ->
                    Audio.of(
                        RATE,
                        Sounds.lowPass(v.wholeChannel(0), RATE, 1500),
                        Sounds.lowPass(v.wholeChannel(1), RATE, 1500))));
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
    assertThat(Math.abs(value(measured(TRUE), "other", "pumping"))).isLessThan(0.7);
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
}
