package kettlesieve.core.measure.stretch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Set;
import java.util.SplittableRandom;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** What becomes of strokes, tones and voices in another time or at another pitch. */
class HitsAndVoicesTest {
  private static final int RATE = 16_000;
  private static final int BEAT = RATE * 2 / 5;
  private static final int BEATS = 24;
  private static final Audio SPEECH = Audio.of(RATE, Sounds.speech16());

  /** Strokes of noise each 0.4 s over a soft chord, each of its own sound. */
  private static float[] strokes() {
    float[] x = new float[BEAT * BEATS];
    SplittableRandom random = new SplittableRandom(11);
    for (int i = 0; i < x.length; i++) {
      double since = i % BEAT / (double) RATE;
      double loud = 0.3 + 0.1 * (i / BEAT % 3);
      x[i] = (float) (loud * Math.exp(-since / 0.04) * random.nextGaussian() * 0.5);
      x[i] += (float) (0.02 * Math.sin(2 * Math.PI * 330 * i / RATE));
    }
    return x;
  }

  private static Readings measured(
      Job job, Audio source, Audio version, Double shift, String... ids) throws Exception {
    MatchSettings settings =
        new MatchSettings(job, LevelMode.WANTED, job == Job.STRETCH ? 1.0 : null, shift);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(source, null, null, null, settings);
    return preparedExcerpt.measure(
        preparedExcerpt.matchAny(version, MatchOverride.NONE, null, Stop.NEVER), Set.of(ids));
  }

  private static Reading reading(float[] source, float[] version, String id) throws Exception {
    return measured(Job.STRETCH, Audio.of(RATE, source), Audio.of(RATE, version), null, id)
        .reading(id)
        .orElseThrow();
  }

  @Test
  void aStrokeThatIsGoneIsFoundWhereItWas() throws Exception {
    float[] x = strokes();
    float[] y = x.clone();
    for (int i = 10 * BEAT; i < 11 * BEAT; i++) {
      y[i] = (float) (0.02 * Math.sin(2 * Math.PI * 330 * i / RATE));
    }
    Reading lost = reading(x, y, "lost-hits");
    assertThat(lost.value()).isCloseTo(100.0 / lost.detail("attacks"), within(0.5));
    assertThat(lost.spots().get(0).from()).isCloseTo(4.0, within(0.15));
    assertThat(reading(x, x, "lost-hits").value()).isZero();
    // One that is hardly there, 14 dB down, still rises out of the chord.
    float[] soft = x.clone();
    for (int i = 13 * BEAT; i < 14 * BEAT; i++) {
      double chord = 0.02 * Math.sin(2 * Math.PI * 330 * i / RATE);
      soft[i] = (float) (chord + 0.2 * (x[i] - chord));
    }
    Reading hardly = reading(x, soft, "lost-hits");
    assertThat(hardly.spots()).hasSize(1);
    assertThat(hardly.spots().get(0).from()).isCloseTo(5.2, within(0.15));
  }

  @Test
  void aStrokeThatSoundsTwiceIsFoundWhereItIs() throws Exception {
    float[] x = strokes();
    float[] y = x.clone();
    int late = (int) (0.045 * RATE);
    for (int i = 0; i < BEAT / 2; i++) {
      y[7 * BEAT + late + i] += 0.8f * x[7 * BEAT + i];
    }
    Reading doubled = reading(x, y, "doubled-hits");
    assertThat(doubled.detail("hits")).isEqualTo(1);
    // The softer third of the strokes is not asked about.
    assertThat(doubled.detail("share")).isBetween(100.0 / BEATS, 100.0 / (BEATS / 2));
    // One in 9.6 s.
    assertThat(doubled.value()).isCloseTo(60 / 9.6, within(0.1));
    assertThat(doubled.spots().get(0).from()).isCloseTo(2.8, within(0.15));
    assertThat(reading(x, x, "doubled-hits").value()).isZero();
  }

  @Test
  void deepNoiseIsRumbleAndADullVersionEndsWhereItWasCut() throws Exception {
    float[] x = strokes();
    float[] deep = x.clone();
    for (int i = 0; i < deep.length; i++) {
      deep[i] += (float) (0.05 * Math.sin(2 * Math.PI * 45 * i / RATE));
    }
    assertThat(reading(x, deep, "rumble").value()).isGreaterThan(8);
    assertThat(reading(x, x, "rumble").value()).isCloseTo(0, within(0.001));
    Reading cut = reading(x, Sounds.lowPass(x, RATE, 2000), "bandwidth");
    assertThat(cut.value()).isBetween(1700.0, 2300.0);
    assertThat(cut.detail("octaves")).isCloseTo(2, within(0.3));
    assertThat(reading(x, x, "bandwidth").detail("octaves")).isZero();
  }

  @Test
  void aChordThatTremblesWarbles() throws Exception {
    float[] x = new float[10 * RATE];
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      double seconds = (double) i / RATE;
      for (double hz : new double[] {220, 277, 330, 440, 660}) {
        double root = hz * Math.pow(2, (int) seconds % 3 / 12.0);
        x[i] += (float) (0.05 * Math.sin(2 * Math.PI * root * seconds));
      }
      y[i] = (float) (x[i] * (1 + 0.25 * Math.sin(2 * Math.PI * 7 * seconds)));
    }
    // A sine of 25 % is 20·log10(1.25/0.75) = 4.4 dB from peak to peak; the window evens it out.
    assertThat(reading(x, y, "warble").value()).isBetween(0.7, 1.8);
    assertThat(reading(x, x, "warble").value()).isZero();
    // Thirty times a second is too quick for the window, and stands beside each partial: of a level
    // that sways by 25 %, a sixty-fourth of its power on either side.
    for (int i = 0; i < x.length; i++) {
      y[i] = (float) (x[i] * (1 + 0.25 * Math.sin(2 * Math.PI * 30 * i / RATE)));
    }
    double quick = 20 * Math.log10(1 + Math.sqrt(2 / 64.0));
    assertThat(reading(x, y, "warble").value()).isCloseTo(quick, within(0.25));
  }

  private static Audio made(String way, double ratio, double semitones) {
    StandIn standIn =
        StandIns.ALL.stream().filter(s -> s.id().equals(way)).findFirst().orElseThrow();
    return standIn
        .make(SPEECH, new Setup(100, ratio, semitones), Progress.SILENT)
        .values()
        .iterator()
        .next();
  }

  /** Common practice: overlap keeps the pulse of a voice, phases that run free smear it. */
  @Test
  void aVoiceWhosePulseIsSmearedIsPhasey() throws Exception {
    double[] phasey = new double[3];
    String[] ways = {"waveform-overlap", "locked-phase-stretch", "plain-phase-stretch"};
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.25, null);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(SPEECH, null, null, null, settings);
    for (int i = 0; i < ways.length; i++) {
      phasey[i] =
          preparedExcerpt
              .measure(
                  preparedExcerpt.matchAny(
                      made(ways[i], 1.25, 0), MatchOverride.NONE, null, Stop.NEVER),
                  Set.of("phasiness"))
              .reading("phasiness")
              .orElseThrow()
              .value();
    }
    assertThat(phasey[0]).isLessThan(1);
    assertThat(phasey[1]).isGreaterThan(phasey[0] + 2).isLessThan(phasey[2]);
  }

  @Test
  void formantsThatMoveAreToldFromFormantsThatStay() throws Exception {
    for (double shift : new double[] {-4, 3}) {
      Readings moved =
          measured(Job.PITCH, SPEECH, made("resampling-shift", 1, shift), shift, "formant-shift");
      Readings kept =
          measured(
              Job.PITCH, SPEECH, made("formant-keeping-shift", 1, shift), shift, "formant-shift");
      assertThat(moved.reading("formant-shift").orElseThrow().value())
          .isCloseTo(shift, within(0.5));
      assertThat(kept.reading("formant-shift").orElseThrow().value()).isCloseTo(0, within(0.5));
    }
  }

  @Test
  void aPassageThatWasNotShiftedSlips() throws Exception {
    float[] y = made("resampling-shift", 1, 3).wholeChannel(0);
    float[] x = SPEECH.wholeChannel(0);
    System.arraycopy(x, 0, y, 0, 3 * RATE);
    Audio version = Audio.of(RATE, y);
    Reading slips =
        measured(Job.PITCH, SPEECH, version, 3.0, "pitch-slips")
            .reading("pitch-slips")
            .orElseThrow();
    assertThat(slips.value()).isBetween(5.0, 60.0);
    assertThat(slips.spots().get(0).from()).isLessThan(3);
    Audio right = made("resampling-shift", 1, 3);
    Readings good = measured(Job.PITCH, SPEECH, right, 3.0, "pitch-slips", "pitch-error");
    assertThat(good.reading("pitch-slips").orElseThrow().value()).isLessThan(1);
    assertThat(good.reading("pitch-error").orElseThrow().detail("voiced"))
        .isCloseTo(0, within(10.0));
    assertThat(good.reading("pitch-error").orElseThrow().detail("range")).isLessThan(20);
  }
}
