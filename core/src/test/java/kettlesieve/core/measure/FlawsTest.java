package kettlesieve.core.measure;

import static kettlesieve.core.measure.NoisySpeech.CLEANED;
import static kettlesieve.core.measure.NoisySpeech.FACTOR;
import static kettlesieve.core.measure.NoisySpeech.HARM;
import static kettlesieve.core.measure.NoisySpeech.NOISE;
import static kettlesieve.core.measure.NoisySpeech.NOISY;
import static kettlesieve.core.measure.NoisySpeech.RATE;
import static kettlesieve.core.measure.NoisySpeech.SPEECH;
import static kettlesieve.core.measure.NoisySpeech.reading;
import static kettlesieve.core.measure.NoisySpeech.readings;
import static kettlesieve.core.measure.NoisySpeech.take;
import static kettlesieve.core.measure.NoisySpeech.value;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Db;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/**
 * Flaws put in by hand, on real speech with added noise: each moves its own reading and no other.
 *
 * <p>Over 400 lines: each flaw by hand moves its own reading and no other, one table for all
 * measures.
 */
class FlawsTest {
  // --- artifacts put in by hand ---

  @Test
  void musicalNoiseRisesWithItsStrength() {
    double[] seen = new double[4];
    for (int step = 0; step < 4; step++) {
      float[] version = CLEANED.clone();
      java.util.SplittableRandom random = new java.util.SplittableRandom(3);
      // A tone stands in one or two bins, the noise in a thousand: little is already much.
      double amplitude = (step == 0 ? 0 : 0.15 * (1 << step)) * Sounds.rms(NOISE) * FACTOR * 0.1;
      for (int n = 0; n < version.length / RATE * 10; n++) {
        int at = random.nextInt(version.length - 3000);
        double hz = 500 + 5000 * random.nextDouble();
        for (int i = 0; i < 2400; i++) {
          double shape = Math.sin(Math.PI * i / 2400);
          version[at + i] +=
              (float) (amplitude * shape * shape * Math.sin(2 * Math.PI * hz * i / RATE));
        }
      }
      seen[step] = value(version, "musical-noise");
    }
    assertThat(Math.abs(seen[0])).isLessThan(0.3);
    assertThat(seen[1]).isGreaterThan(seen[0] + 0.03);
    assertThat(seen[2]).isGreaterThan(seen[1] + 0.05);
    assertThat(seen[3]).isGreaterThan(seen[2] + 0.1);
  }

  @Test
  void kurtosisOfNoisePowerIsSix() {
    // Gaussian noise: its power is exponential, 4!/(2!)² = 6; theory.
    float[] noise = Sounds.white(1 << 20, 8);
    var spectrogram = new kettlesieve.core.signal.Spectrogram(Audio.of(RATE, noise), 0);
    double second = 0;
    double fourth = 0;
    long count = 0;
    for (int t = 0; t < spectrogram.framing().count(); t += 4) {
      float[] row = spectrogram.powers(t);
      double mean = 2.0 / spectrogram.framing().length();
      for (int k = 10; k < 1000; k += 3) {
        double x = row[k] / mean;
        second += x * x;
        fourth += x * x * x * x;
        count++;
      }
    }
    double kurtosis = fourth / count / Math.pow(second / count, 2);
    assertThat(kurtosis).isCloseTo(6, within(0.35));
  }

  @Test
  void subtractionTwittersMoreThanTheSmoothedFilterAtEqualCut() {
    Audio source = Audio.of(RATE, NOISY);
    Map<String, Reading> plain =
        readings(new PlainSubtraction().process(source, 90, Progress.SILENT));
    Map<String, Reading> smooth =
        readings(new SmoothedWiener().process(source, 60, Progress.SILENT));
    assertThat(smooth.get("noise-cut").value())
        .isCloseTo(plain.get("noise-cut").value(), within(4.0));
    assertThat(plain.get("musical-noise").value())
        .isGreaterThan(smooth.get("musical-noise").value() + 0.3);
  }

  @Test
  void flutterRisesWithItsStrengthAndAnEqualiserHasNone() {
    double[] seen = new double[3];
    double[] depths = {0, 2, 4};
    for (int step = 0; step < 3; step++) {
      float[] version = CLEANED.clone();
      for (int i = 0; i < version.length; i++) {
        double db = depths[step] * Math.sqrt(2) * Math.sin(2 * Math.PI * 11 * i / RATE);
        version[i] *= (float) Db.toAmplitude(db);
      }
      seen[step] = value(version, "flutter");
    }
    assertThat(seen[0]).isLessThan(0.2);
    // An 11 Hz sine at a lag of 43 ms: nearly twice its amplitude (2.8 dB) apart.
    assertThat(seen[1]).isBetween(4.0, 7.0);
    assertThat(seen[2]).isGreaterThan(seen[1] + 3);
    float[] equalised = NOISY.clone();
    for (int i = equalised.length - 1; i > 0; i--) {
      equalised[i] -= 0.6f * equalised[i - 1];
    }
    Map<String, Reading> r = readings(equalised);
    assertThat(r.get("flutter").value()).isLessThan(0.2);
    assertThat(Math.abs(r.get("musical-noise").value())).isLessThan(0.1);
    assertThat(r.get("dropouts").value()).isLessThan(0.5);
  }

  @Test
  void aLowPassCostsBandwidthAndAir() {
    Map<String, Reading> r = readings(Sounds.lowPass(CLEANED, RATE, 3400));
    double third = Math.pow(10, 0.1);
    assertThat(r.get("bandwidth").value()).isBetween(3400 / third, 3400 * third);
    assertThat(r.get("voice-loss").value()).isLessThan(-10);
    assertThat(r.get("voice-loss").detail("air")).isLessThan(-20);
    assertThat(Math.abs(r.get("voice-loss").detail("middle"))).isLessThan(0.7);
    assertThat(r.get("voice-loss").spots()).isNotEmpty().allMatch(s -> s.low() > 2500);
    assertThat(r.get("dropouts").value()).isLessThan(0.5);
  }

  @Test
  void swallowedMomentsAreDropoutsAndArePlacedInTime() {
    float[] version = CLEANED.clone();
    for (int start = RATE; start + 4800 < version.length; start += RATE) {
      for (int i = start; i < start + 4800; i++) {
        version[i] *= 0.05f;
      }
    }
    Reading r = reading(version, "dropouts");
    assertThat(r.value()).isBetween(3.0, 20.0);
    assertThat(r.spots()).isNotEmpty();
    for (Spot spot : r.spots()) {
      double inSecond = (spot.from() + spot.to()) / 2 % 1;
      assertThat(Math.min(inSecond, 1 - inSecond)).isLessThan(0.2);
    }
    assertThat(value(CLEANED, "dropouts")).isLessThan(0.5);
  }

  // --- each flaw moves its own reading and no other ---

  /** Readings outside the 95 % interval of the perfect removal that the flaw was put into. */
  private static List<String> moved(float[] version) {
    Map<String, Reading> before = readings(CLEANED, HARM);
    Map<String, Reading> after = readings(version, HARM);
    return HARM.stream()
        .filter(before::containsKey)
        .filter(
            m -> {
              double score = score(m, after.get(m)) - score(m, before.get(m));
              double value = after.get(m).value();
              boolean outside =
                  value > before.get(m).estimate().high() || value < before.get(m).estimate().low();
              // What costs less than a point within its scale is not heard.
              return outside && score < -1;
            })
        .toList();
  }

  private static float[] fluttering(double depthDb) {
    float[] version = CLEANED.clone();
    for (int i = 0; i < version.length; i++) {
      double db = depthDb * Math.sqrt(2) * Math.sin(2 * Math.PI * 11 * i / RATE);
      version[i] *= (float) Db.toAmplitude(db);
    }
    return version;
  }

  private static float[] chopped() {
    float[] version = CLEANED.clone();
    for (int start = RATE / 2; start + RATE / 10 < version.length; start += RATE) {
      for (int i = start; i < start + RATE / 10; i++) {
        version[i] *= 0.05f;
      }
    }
    return version;
  }

  @Test
  void otherReadingsStayWithinTheirIntervals() {
    // A gain that sinks now and then takes quiet parts with it: detail-loss sees that, too.
    assertThat(moved(fluttering(2)))
        .as("flutter of 2 dB")
        .contains("flutter")
        .isSubsetOf("flutter", "detail-loss");
    // So strong a wavering stands as lines beside every partial: it rings a little as well.
    assertThat(moved(fluttering(4)))
        .as("flutter of 4 dB")
        .contains("flutter")
        .isSubsetOf("flutter", "ringing", "detail-loss");
    assertThat(moved(Sounds.lowPass(CLEANED, RATE, 3400)))
        .as("low-pass")
        .containsExactlyInAnyOrder("voice-loss", "bandwidth");
    assertThat(moved(chopped()))
        .as("dropouts")
        .contains("dropouts")
        .isSubsetOf("dropouts", "detail-loss");
    for (double db : new double[] {5, 10, 20}) {
      float[] left = Sounds.mix(SPEECH, NOISE, FACTOR * Db.toAmplitude(-db));
      assertThat(moved(left)).as("noise left at −" + db + " dB").isEmpty();
    }
  }

  private static double score(String measure, Reading r) {
    return Scoring.shipped().scale(measure).orElseThrow().score(r.scored().value());
  }

  @Test
  void aResonanceRingsAndNothingElse() {
    double last = 0;
    for (double gain : new double[] {3, 6, 12}) {
      float[] version = resonant(CLEANED, 1500, gain);
      Reading r = reading(version, "ringing");
      assertThat(r.value()).isGreaterThan(last + 1);
      assertThat(r.detail("frequency")).isCloseTo(1500, within(50.0));
      assertThat(moved(version)).isSubsetOf("ringing");
      last = r.value();
    }
    assertThat(last).isGreaterThan(6);
  }

  /** A peak filter (Bristow-Johnson's cookbook form) of quality 60. */
  private static float[] resonant(float[] x, double hz, double gainDb) {
    double a = Math.pow(10, gainDb / 40);
    double w = 2 * Math.PI * hz / RATE;
    double alpha = Math.sin(w) / (2 * 60);
    double a0 = 1 + alpha / a;
    double b0 = (1 + alpha * a) / a0;
    double b1 = -2 * Math.cos(w) / a0;
    double b2 = (1 - alpha * a) / a0;
    double a2 = (1 - alpha / a) / a0;
    float[] y = new float[x.length];
    double x1 = 0;
    double x2 = 0;
    double y1 = 0;
    double y2 = 0;
    for (int i = 0; i < x.length; i++) {
      double out = b0 * x[i] + b1 * x1 + b2 * x2 - b1 * y1 - a2 * y2;
      x2 = x1;
      x1 = x[i];
      y2 = y1;
      y1 = out;
      y[i] = (float) out;
    }
    return y;
  }

  @Test
  void aWhistleInThePausesRings() {
    float[] version = CLEANED.clone();
    double level = 0.02 * Sounds.rms(SPEECH);
    for (int i = 0; i < version.length; i++) {
      version[i] += (float) (level * Math.sin(2 * Math.PI * 3000 * i / RATE));
    }
    Reading r = reading(version, "ringing");
    assertThat(r.detail("whistle")).isGreaterThan(3);
    assertThat(r.detail("frequency")).isCloseTo(3000, within(50.0));
  }

  @Test
  void noiseThatLingersAfterEachWordBreathes() {
    double last = -1;
    for (double extra : new double[] {1, 4, 10}) {
      float[] version = CLEANED.clone();
      float held = 0;
      for (int i = 0; i < version.length; i++) {
        held = Math.abs(SPEECH[i]) > 0.02f ? 1 : held * (float) Math.exp(-1 / (0.3 * RATE));
        version[i] += (float) (FACTOR * 0.1 * (extra - 1) * held * NOISE[i]);
      }
      double value = value(version, "breathing");
      assertThat(value).isGreaterThan(last);
      last = value;
    }
    assertThat(last).isGreaterThan(3);
  }

  @Test
  void quietPartsThatVanishAreDetail() {
    // Expansion: what lies under the usual level sinks further, by a growing exponent.
    double last = reading(CLEANED, "detail-loss").value();
    assertThat(last).isLessThan(0.2);
    for (double depth : new double[] {0.5, 1, 2}) {
      float[] version = CLEANED.clone();
      double envelope = 0;
      double loud = 5 * Sounds.rms(SPEECH);
      for (int i = 0; i < version.length; i++) {
        envelope = Math.max(Math.abs(SPEECH[i]), envelope * Math.exp(-1 / (0.03 * RATE)));
        version[i] *= (float) Math.min(1, Math.pow(envelope / loud, depth));
      }
      double value = value(version, "detail-loss");
      assertThat(value).isGreaterThan(last + 0.05);
      last = value;
    }
    // A steady filter takes nothing of the detail: voice-loss and bandwidth read that.
    assertThat(value(Sounds.lowPass(CLEANED, RATE, 3400), "detail-loss")).isLessThan(0.3);
  }

  @Test
  void bluntedAttacksAreLost() {
    double last = -0.1;
    for (double strength : new double[] {0, 0.5, 1}) {
      float[] version = CLEANED.clone();
      // Where a fast envelope runs ahead of a slow one, the gain sinks.
      double fast = 0;
      double slow = 0;
      for (int i = 0; i < version.length; i++) {
        double x = Math.abs(SPEECH[i]);
        fast = Math.max(x, fast * Math.exp(-1 / (0.02 * RATE)));
        slow += (fast - slow) * (fast > slow ? 1 / (0.06 * RATE) : 1 / (0.02 * RATE));
        version[i] *= (float) Math.pow(Math.min(1, slow / Math.max(fast, 1e-4)), strength);
      }
      double value = value(version, "attack-loss");
      assertThat(value).isGreaterThan(last);
      last = value;
    }
    assertThat(last).isGreaterThan(1);
  }

  @Test
  void burstsOfLeftOverNoiseAreMissed() {
    double last = -0.1;
    for (double level : new double[] {0, 0.5, 1}) {
      float[] version = CLEANED.clone();
      for (int start = 0; start + RATE / 4 < version.length; start += RATE / 2) {
        for (int i = start; i < start + RATE / 12; i++) {
          version[i] += (float) (level * 0.9 * FACTOR * NOISE[i]);
        }
      }
      double value = value(version, "noise-bursts");
      assertThat(value).isGreaterThan(last);
      last = value;
    }
    assertThat(last).isGreaterThan(4);
  }

  @Test
  void clicksThatStayAreCounted() {
    float[] source = NOISY.clone();
    float[] repaired = CLEANED.clone();
    int clicks = 0;
    for (int at = RATE / 3; at < source.length; at += RATE / 2) {
      source[at] += 0.8f;
      repaired[at] += clicks++ % 2 == 0 ? 0.8f : 0;
    }
    Reading r =
        take(RATE, source, null, Audio.of(RATE, repaired)).readings().stream()
            .filter(x -> x.measure().equals("clicks-left"))
            .findFirst()
            .orElseThrow();
    assertThat(r.detail("source")).isCloseTo(120, within(10.0));
    assertThat(r.detail("share")).isCloseTo(50, within(6.0));
    assertThat(r.value()).isCloseTo(60, within(6.0));
  }

  @Test
  void aRoomThatIsTakenAwayIsSeenInItsTail() {
    float[] dry = java.util.Arrays.copyOf(SPEECH, 2 * SPEECH.length);
    System.arraycopy(SPEECH, 0, dry, SPEECH.length, SPEECH.length);
    float[] wet = reverberant(dry, 0.3);
    double last = 1;
    for (double left : new double[] {1, 0.5, 0.1}) {
      float[] version = Sounds.mix(dry, difference(wet, dry), left);
      Readings taken;
      try {
        var settings =
            new kettlesieve.core.match.MatchSettings(
                Job.DEREVERB, kettlesieve.core.comparison.LevelMode.WANTED, null, null);
        PreparedExcerpt a =
            PreparedExcerpt.of(Audio.of(RATE, wet), Audio.of(RATE, dry), null, null, settings);
        taken =
            a.measure(a.match(Audio.of(RATE, version), MatchOverride.NONE), Set.of("room-tail"));
      } catch (MatchException e) {
        throw new AssertionError(e);
      }
      Reading r =
          taken.readings().stream()
              .filter(x -> x.measure().equals("room-tail"))
              .findFirst()
              .orElseThrow(() -> new AssertionError(taken.notMeasured()));
      assertThat(r.value()).isLessThan(last);
      last = r.value() - 1;
    }
    assertThat(last).isLessThan(-5);
  }

  private static float[] difference(float[] a, float[] b) {
    return Sounds.mix(a, b, -1);
  }

  /** A room of exponentially decaying noise, of the given reverberation time. */
  private static float[] reverberant(float[] dry, double seconds) {
    float[] response = Sounds.white((int) (seconds * RATE), 17);
    float[] wet = dry.clone();
    java.util.SplittableRandom random = new java.util.SplittableRandom(9);
    for (int tap = 0; tap < 400; tap++) {
      int late = 200 + random.nextInt(response.length - 200);
      double decay = Math.pow(10, -3.0 * late / response.length);
      float gain = (float) (0.25 * decay * response[late]);
      for (int i = late; i < wet.length; i++) {
        wet[i] += gain * dry[i - late];
      }
    }
    return wet;
  }

  @Test
  void levelChangeIsThatOfTheDeliveredFile() {
    Reading r = readings(Audio.of(RATE, NOISY).times(Db.toAmplitude(-6))).get("level-change");
    assertThat(r.value()).isCloseTo(-6, within(0.01));
    assertThat(r.details()).extracting(Detail::key).contains("loudness", "truePeak", "range");
  }
}
