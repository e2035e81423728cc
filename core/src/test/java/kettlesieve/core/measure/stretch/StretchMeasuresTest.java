package kettlesieve.core.measure.stretch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** Stretched real speech: by ways whose flaws are common knowledge, and with flaws by hand. */
class StretchMeasuresTest {
  private static final int RATE = 16_000;
  private static final Set<String> HERE =
      Set.of(
          "length-error",
          "timing-drift",
          "pitch-drift",
          "pitch-error",
          "pre-echo",
          "attack-loss",
          "tone-change");
  private static final Audio SPEECH = Audio.of(RATE, Sounds.speech16());

  private static Audio stretched(String way, double ratio) {
    StandIn standIn =
        StandIns.ALL.stream().filter(s -> s.id().equals(way)).findFirst().orElseThrow();
    return standIn
        .make(SPEECH, new Setup(100, ratio, 0), Progress.SILENT)
        .values()
        .iterator()
        .next();
  }

  private static Readings measured(Audio version, double target) throws Exception {
    return measured(version, target, HERE);
  }

  private static Readings measured(Audio version, double target, Set<String> ids) throws Exception {
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, target, null);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(SPEECH, null, null, null, settings);
    return preparedExcerpt.measure(
        preparedExcerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER), ids);
  }

  private static double value(Readings taken, String measure) {
    return taken.reading(measure).map(Reading::value).orElse(Double.NaN);
  }

  @Test
  void anUntouchedCopyScoresNinetyNineOnEveryQuestion() throws Exception {
    Scoring scoring = Scoring.shipped();
    Set<String> all =
        scoring.measures(Job.STRETCH).stream()
            .filter(StretchMeasure.class::isInstance)
            .map(m -> m.declaration().id())
            .collect(Collectors.toSet());
    Readings taken = measured(SPEECH, 1, all);
    // Three of them ask for steady tones, a voice or two channels.
    assertThat(taken.readings()).hasSizeGreaterThan(all.size() - 3);
    Card card = Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.STRETCH);
    assertThat(card.axes().keySet()).isEqualTo(Set.of(Axis.MISSED, Axis.ADDED, Axis.LOST));
    card.axes().values().forEach(score -> assertThat(score.value()).isGreaterThan(99));
  }

  @Test
  void rightLengthIsReadWithinATenthOfAPercentAndWrongLengthToo() throws Exception {
    for (double ratio : new double[] {0.8, 1.25}) {
      Audio version = stretched("waveform-overlap", ratio);
      assertThat(value(measured(version, ratio), "length-error")).isCloseTo(0, within(0.1));
      assertThat(value(measured(version, ratio * 1.02), "length-error"))
          .isCloseTo(100 / 1.02 - 100, within(0.15));
    }
  }

  @Test
  void aDelayAndATrimmedEndAreNoErrorOfLength() throws Exception {
    float[] x = stretched("waveform-overlap", 1.25).wholeChannel(0);
    float[] late = new float[x.length];
    System.arraycopy(x, 0, late, RATE / 5, x.length - RATE / 5);
    Readings taken = measured(Audio.of(RATE, Arrays.copyOf(late, late.length - RATE)), 1.25);
    assertThat(value(taken, "length-error")).isCloseTo(0, within(0.1));
    assertThat(taken.reading("length-error").orElseThrow().detail("offset"))
        .isCloseTo(200, within(15.0));
  }

  @Test
  void aChangeOfSpeedIsNamedWithItsPitch() throws Exception {
    Readings taken = measured(stretched("speed-change", 0.8), 0.8);
    Reading pitch = taken.reading("pitch-drift").orElseThrow();
    // 1200·log2(1/0.8).
    assertThat(pitch.value()).isCloseTo(386.3, within(5.0));
    assertThat(pitch.notes().get(0)).contains("another speed").contains("386");
    for (String way : new String[] {"waveform-overlap", "plain-phase-stretch"}) {
      Reading kept = measured(stretched(way, 0.8), 0.8).reading("pitch-drift").orElseThrow();
      assertThat(kept.value()).as(way).isCloseTo(0, within(10.0));
      assertThat(kept.notes()).isEmpty();
    }
  }

  /** Common practice: a plain phase vocoder smears attacks, a locked one less, overlap not. */
  @Test
  void attacksTellTheWaysApart() throws Exception {
    for (double ratio : new double[] {1.5}) {
      Readings plain = measured(stretched("plain-phase-stretch", ratio), ratio);
      Readings locked = measured(stretched("locked-phase-stretch", ratio), ratio);
      Readings overlap = measured(stretched("waveform-overlap", ratio), ratio);
      assertThat(value(plain, "attack-loss"))
          .isGreaterThan(value(locked, "attack-loss") + 1)
          .isGreaterThan(value(overlap, "attack-loss") + 2);
      assertThat(value(overlap, "attack-loss")).isLessThan(1.5);
      assertThat(value(plain, "pre-echo")).isGreaterThan(value(locked, "pre-echo"));
      assertThat(value(plain, "tone-change")).isLessThan(1);
    }
  }

  @Test
  void aMomentThatComesLateIsDriftThere() throws Exception {
    float[] x = SPEECH.wholeChannel(0);
    float[] late = x.clone();
    int from = 4 * RATE;
    int to = 7 * RATE;
    int by = (int) (0.045 * RATE);
    System.arraycopy(x, from, late, from + by, to - from - by);
    Readings taken = measured(Audio.of(RATE, late), 1);
    Reading drift = taken.reading("timing-drift").orElseThrow();
    assertThat(drift.value()).isBetween(20.0, 60.0);
    assertThat(drift.spots().get(0).from()).isBetween(3.8, 7.1);
    Readings even = measured(SPEECH, 1);
    assertThat(value(even, "timing-drift")).isLessThan(2);
    // A length that hangs on which part is heard is less sure.
    assertThat(width(taken, "length-error")).isGreaterThan(10 * width(even, "length-error"));
    Reading length = taken.reading("length-error").orElseThrow();
    assertThat(length.estimate().low()).isLessThan(0);
    assertThat(length.estimate().high()).isGreaterThan(0);
  }

  private static double width(Readings taken, String measure) {
    Estimate estimate = taken.reading(measure).orElseThrow().estimate();
    return estimate.high() - estimate.low();
  }

  @Test
  void thePitchOfAVersionHasAnInterval() throws Exception {
    Readings moved = shifted("resampling-shift", 3, 3);
    assertThat(width(moved, "pitch-error")).isBetween(0.1, 15.0);
    assertThat(width(measured(SPEECH, 1), "pitch-drift")).isLessThan(0.1);
  }

  @Test
  void aDullVersionHasChangedItsTone() throws Exception {
    Audio dull = Audio.of(RATE, Sounds.lowPass(SPEECH.wholeChannel(0), RATE, 1500));
    assertThat(value(measured(dull, 1), "tone-change")).isGreaterThan(4);
    assertThat(value(measured(SPEECH.times(0.3f), 1), "tone-change")).isLessThan(0.1);
    assertThat(value(measured(SPEECH.times(0.3f), 1), "attack-loss")).isLessThan(0.3);
  }

  private static Readings shifted(String way, double semitones, double target) throws Exception {
    StandIn standIn =
        StandIns.ALL.stream().filter(s -> s.id().equals(way)).findFirst().orElseThrow();
    Audio version =
        standIn
            .make(SPEECH, new Setup(100, 1, semitones), Progress.SILENT)
            .values()
            .iterator()
            .next();
    MatchSettings settings = new MatchSettings(Job.PITCH, LevelMode.WANTED, null, target);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(SPEECH, null, null, null, settings);
    return preparedExcerpt.measure(
        preparedExcerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER), HERE);
  }

  @Test
  void aShiftIsReadInCentsAgainstWhatWasAskedFor() throws Exception {
    String way =
        StandIns.ALL.stream()
            .filter(s -> s.jobs().contains(Job.PITCH))
            .map(StandIn::id)
            .findFirst()
            .orElseThrow();
    for (double semitones : new double[] {-3, 4}) {
      Readings right = shifted(way, semitones, semitones);
      assertThat(value(right, "pitch-error")).as(semitones + "").isCloseTo(0, within(10.0));
      assertThat(value(right, "length-error")).isCloseTo(0, within(0.2));
    }
    assertThat(value(shifted(way, 2.3, 2), "pitch-error")).isCloseTo(30, within(10.0));
    // Nothing was shifted at all: the whole of what was asked for is missing.
    MatchSettings settings = new MatchSettings(Job.PITCH, LevelMode.WANTED, null, 3.0);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(SPEECH, null, null, null, settings);
    Readings left =
        preparedExcerpt.measure(
            preparedExcerpt.matchAny(SPEECH, MatchOverride.NONE, null, Stop.NEVER), HERE);
    assertThat(value(left, "pitch-error")).isCloseTo(-300, within(10.0));
  }
}
