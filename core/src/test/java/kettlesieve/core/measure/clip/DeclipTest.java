package kettlesieve.core.measure.clip;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.rig.CubicTops;
import kettlesieve.core.rig.PredictedTops;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Db;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The measures of declipping, on real speech that was clipped here. */
class DeclipTest {
  private static final int RATE = 48_000;
  private static final float[] SPEECH = Sounds.speech48();
  private static float[] clipped;
  private static float level;
  private static Clipping runs;

  /**
   * The clipped source beside the clean recording, analysed once for all that is set against it.
   */
  private static PreparedExcerpt analysed;

  @BeforeAll
  static void clip() {
    float peak = 0;
    for (float x : SPEECH) {
      peak = Math.max(peak, Math.abs(x));
    }
    level = 0.35f * peak;
    clipped = new float[SPEECH.length];
    for (int i = 0; i < clipped.length; i++) {
      clipped[i] = Math.max(-level, Math.min(level, SPEECH[i]));
    }
    runs = Clipping.of(Audio.of(RATE, clipped));
    analysed = analysed(clipped, SPEECH);
  }

  private static PreparedExcerpt analysed(float[] source, float[] clean) {
    try {
      return PreparedExcerpt.of(
          Audio.of(RATE, source),
          clean == null ? null : Audio.of(RATE, clean),
          null,
          null,
          new MatchSettings(Job.DECLIP, LevelMode.WANTED, null, null));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  private static Readings take(PreparedExcerpt preparedExcerpt, Audio version) {
    try {
      return preparedExcerpt.measure(preparedExcerpt.match(version, MatchOverride.NONE));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  private static Map<String, Reading> readings(float[] version) {
    return take(analysed, Audio.of(RATE, version)).readings().stream()
        .collect(Collectors.toMap(Reading::measure, r -> r));
  }

  /** Some readings alone. */
  private static Map<String, Reading> readings(
      PreparedExcerpt preparedExcerpt, Audio version, String... measures) {
    try {
      return preparedExcerpt
          .measure(preparedExcerpt.match(version, MatchOverride.NONE), Set.of(measures))
          .readings()
          .stream()
          .collect(Collectors.toMap(Reading::measure, r -> r));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  private static Reading reading(float[] version, String measure) {
    return readings(analysed, Audio.of(RATE, version), measure).get(measure);
  }

  private static double value(float[] version, String measure) {
    return reading(version, measure).value();
  }

  private static Card card(Readings taken) {
    Scoring scoring = Scoring.shipped();
    return Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.DECLIP);
  }

  /** Changes the samples of every run; the function gets position in the run and its length. */
  private interface Change {
    float at(float sample, int position, int length);
  }

  private static float[] changed(float[] x, int everyth, Change change) {
    float[] y = x.clone();
    for (int i = 0; i < runs.runs(0); i += everyth) {
      Clipping.Run run = runs.run(0, i);
      for (int n = 0; n < run.length(); n++) {
        int at = (int) run.from() + n;
        y[at] = change.at(x[at], n, run.length());
      }
    }
    return y;
  }

  @Test
  void theClippedShareIsCountedWithItsLevelAndPassages() {
    long count = 0;
    for (float x : SPEECH) {
      count += Math.abs(x) >= level ? 1 : 0;
    }
    Reading r = reading(clipped, "clipped");
    assertThat(r.value()).isCloseTo(100.0 * count / SPEECH.length, within(0.05));
    assertThat(r.detail("level")).isCloseTo(Db.ofAmplitude(level), within(0.02));
    assertThat(r.detail("runs")).isEqualTo(runs.runs());
    assertThat(r.detail("longest")).isGreaterThan(5);
    double passages = 0;
    for (String severity : new String[] {"light", "medium", "heavy"}) {
      passages += r.detail(severity);
    }
    assertThat(passages).isEqualTo(runs.passages().size());
    assertThat(r.spots()).isNotEmpty();
  }

  @Test
  void nothingIsAddedOrLostByLeavingItOrByTheTruth() {
    for (float[] version : new float[][] {clipped, SPEECH}) {
      Readings taken = take(analysed, Audio.of(RATE, version));
      String what =
          taken.readings().stream().map(r -> r.measure() + " " + r.value()).toList().toString();
      assertThat(card(taken).axes().get(Axis.ADDED).value()).as(what).isGreaterThanOrEqualTo(99);
      assertThat(card(taken).axes().get(Axis.LOST).value()).as(what).isGreaterThanOrEqualTo(99);
    }
    Map<String, Reading> untouched = readings(clipped);
    assertThat(untouched.get("flat-tops-left").value()).isGreaterThan(90);
    assertThat(untouched.get("delta-sdr").value()).isCloseTo(0, within(1e-6));
    assertThat(untouched.get("peak-rebuild").value()).isCloseTo(0, within(0.02));
    Map<String, Reading> truth = readings(SPEECH);
    assertThat(truth.get("flat-tops-left").value()).isLessThan(4);
    assertThat(truth.get("under-clip").value()).isLessThan(1);
    assertThat(truth.get("delta-sdr").value()).isGreaterThan(50);
    assertThat(truth.get("peak-rebuild").value()).isGreaterThan(1);
    assertThat(untouched.get("distortion-left").value()).isCloseTo(0, within(1e-6));
    assertThat(untouched.get("est-delta-sdr").value()).isCloseTo(0, within(1e-6));
    assertThat(truth.get("distortion-left").value())
        .isLessThan(-untouched.get("distortion-left").detail("uncertainty"));
    assertThat(truth.get("over-rebuilt").value()).isLessThan(3);
    assertThat(truth.get("harshness").value()).isLessThan(untouched.get("harshness").value());
  }

  @Test
  void halfARepairLeavesHalfOfTheFlatTops() {
    float[] half = clipped.clone();
    for (int i = 0; i < runs.runs(0); i += 2) {
      Clipping.Run run = runs.run(0, i);
      System.arraycopy(SPEECH, (int) run.from(), half, (int) run.from(), run.length());
    }
    Map<String, Reading> r = readings(half);
    assertThat(r.get("flat-tops-left").value()).isBetween(35.0, 65.0);
    assertThat(r.get("untouched").value()).isLessThan(-70);
    assertThat(r.get("delta-sdr").value()).isBetween(1.0, 12.0);
  }

  @Test
  void eachFlawMovesItsOwnReadingInOrder() {
    double[] steps = {1.05, 1.2, 1.6};
    double last = 0;
    for (double step : steps) {
      // A table on each top: a jump at both edges.
      float[] version = changed(clipped, 1, (x, n, length) -> (float) (x * step));
      Map<String, Reading> r =
          readings(analysed, Audio.of(RATE, version), "edge-crackle", "untouched");
      assertThat(r.get("edge-crackle").value()).isGreaterThan(last);
      assertThat(r.get("untouched").value()).isLessThan(-70);
      last = r.get("edge-crackle").value();
    }
    assertThat(last).isGreaterThan(3);
    double before = Double.NEGATIVE_INFINITY;
    for (double height : new double[] {1.5, 3, 6}) {
      float[] version =
          changed(
              SPEECH,
              20,
              (x, n, length) ->
                  (float) (x * (1 + (height - 1) * Math.sin(Math.PI * (n + 1) / (length + 1)))));
      double overshoot = value(version, "overshoot");
      assertThat(overshoot).isGreaterThan(before);
      before = overshoot;
    }
    assertThat(before).isGreaterThan(6);
    double touched = -90;
    for (double gain : new double[] {0.003, 0.03, 0.2}) {
      float[] noise = Sounds.white(SPEECH.length, 3);
      double rms = Sounds.rms(SPEECH) / Sounds.rms(noise);
      double value = value(Sounds.mix(SPEECH, noise, gain * rms), "untouched");
      assertThat(value).isGreaterThan(touched + 10);
      touched = value;
    }
    float[] sunk = changed(clipped, 1, (x, n, length) -> 0.8f * x);
    assertThat(value(sunk, "under-clip")).isGreaterThan(95);
  }

  @Test
  void theStandInsComeNearerToTheTruth() {
    Map<String, Reading> predicted = repaired(new PredictedTops());
    Map<String, Reading> cubic = repaired(new CubicTops());
    assertThat(predicted.get("delta-sdr").value()).isGreaterThan(1);
    // Without the clean recording the gain is read nearly as it is with it.
    for (Map<String, Reading> r : java.util.List.of(predicted, cubic)) {
      assertThat(r.get("est-delta-sdr").value()).isCloseTo(r.get("delta-sdr").value(), within(3.0));
    }
    double truth = predicted.get("delta-sdr").value() - cubic.get("delta-sdr").value();
    double said = predicted.get("est-delta-sdr").value() - cubic.get("est-delta-sdr").value();
    assertThat(Math.signum(said)).isEqualTo(Math.signum(truth));
    assertThat(cubic.get("delta-sdr").value()).isGreaterThan(1);
    // Prediction leaves runs alone that are too long for it: half of these flat tops stay, and
    // show.
    double before = reading(clipped, "sdr-clipped").value();
    assertThat(cubic.get("flat-tops-left").value()).isLessThan(25);
    assertThat(predicted.get("flat-tops-left").value()).isBetween(25.0, 75.0);
    for (Map<String, Reading> r : java.util.List.of(predicted, cubic)) {
      assertThat(r.get("untouched").value()).isLessThan(-60);
      double gain = r.get("sdr-clipped").value() - r.get("delta-sdr").value();
      assertThat(gain).isCloseTo(before, within(0.05));
      assertThat(r.get("sdr").value()).isGreaterThan(10);
      assertThat(r.get("lsd").value()).isBetween(0.0, 10.0);
    }
  }

  private static Map<String, Reading> repaired(StandIn tool) {
    Audio made =
        tool.make(Audio.of(RATE, clipped), new Setup(100, 1, 0), Progress.SILENT)
            .get(StandIn.WHOLE);
    return readings(made.wholeChannel(0));
  }

  @Test
  void theLevelIsMatchedOnWhatWasNeverClipped() {
    Map<String, Reading> r =
        readings(
            analysed(clipped, null),
            Audio.of(RATE, SPEECH).times(0.5),
            "untouched",
            "delta-sdr",
            "sdr");
    assertThat(r.get("untouched").value()).isLessThan(-60);
    assertThat(r).doesNotContainKeys("delta-sdr", "sdr");
  }

  @Test
  void withoutClippingThereIsNothingToJudge() {
    Readings taken = take(analysed(SPEECH, null), Audio.of(RATE, SPEECH));
    Map<String, Reading> r =
        taken.readings().stream().collect(Collectors.toMap(Reading::measure, x -> x));
    assertThat(r.get("clipped").value()).isZero();
    assertThat(taken.notMeasured())
        .anyMatch(
            n ->
                n.measure().equals("flat-tops-left")
                    && n.reason().equals("no clipping was found in the source"));
  }
}
