package kettlesieve.core.measure.pass;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.stream.Collectors;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/**
 * Speech under voices that come and go: their loud moments pass for wanted, and only the phases
 * tell the clean recording, which lacks them, from a version that was turned down as far.
 */
class PhasesKeptTest {
  private static final int RATE = 16_000;
  private static final float[] SPEECH = Sounds.speech16();
  private static final float[] BABBLE = babble();
  private static final float[] SOURCE =
      Sounds.mix(SPEECH, BABBLE, Sounds.noiseFactor(SPEECH, BABBLE, 3));
  private static final Set<String> LOST =
      Set.of("detail-loss", "voice-loss", "dropouts", "over-suppression", "bandwidth");

  /** Four of the same voice, backwards and at other places. */
  private static float[] babble() {
    float[] sum = new float[SPEECH.length];
    for (int voice = 1; voice <= 4; voice++) {
      int shift = voice * 37_123;
      for (int i = 0; i < sum.length; i++) {
        sum[i] += SPEECH[(2 * sum.length - 1 - i + shift) % sum.length];
      }
    }
    return sum;
  }

  /** The clean recording's amplitudes with the phases of the source. */
  private static float[] turnedDown(float[] wanted) {
    int length = 512;
    int hop = length / 4;
    float[] window = Windows.hann(length);
    float[] made = new float[SOURCE.length];
    for (int at = 0; at + length <= made.length; at += hop) {
      float[] s = new float[length];
      float[] d = new float[length];
      for (int i = 0; i < length; i++) {
        s[i] = SOURCE[at + i] * window[i];
        d[i] = wanted[at + i] * window[i];
      }
      Fft.forward(s);
      Fft.forward(d);
      for (int k = 1; k < length / 2; k++) {
        double gain =
            Math.hypot(d[2 * k], d[2 * k + 1]) / (Math.hypot(s[2 * k], s[2 * k + 1]) + 1e-9);
        s[2 * k] *= (float) Math.min(1, gain);
        s[2 * k + 1] *= (float) Math.min(1, gain);
      }
      s[0] = 0;
      s[1] = 0;
      Fft.inverse(s);
      for (int i = 0; i < length; i++) {
        made[at + i] += s[i] * window[i] / 1.5f;
      }
    }
    return made;
  }

  private static Readings taken(float[] version) throws Exception {
    return taken(SOURCE, version);
  }

  private static Readings taken(float[] source, float[] version) throws Exception {
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(Audio.of(RATE, source), null, null, null);
    return preparedExcerpt.measure(
        preparedExcerpt.match(Audio.of(RATE, version), MatchOverride.NONE), LOST);
  }

  private static double lost(Readings taken) {
    Scoring scoring = Scoring.shipped();
    return Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.DENOISE)
        .axes()
        .get(Axis.LOST)
        .value();
  }

  private static String text(Readings taken) {
    Map<String, Double> values =
        taken.readings().stream().collect(Collectors.toMap(Reading::measure, Reading::value));
    return values.toString();
  }

  @Test
  void voicesThatWereTakenAwayAreNoLoss() throws Exception {
    Readings clean = taken(SPEECH);
    Readings down = taken(turnedDown(SPEECH));
    // Without the phases both read as low as this.
    assertThat(lost(down)).as(text(down)).isLessThan(45);
    assertThat(lost(clean)).as(text(clean)).isGreaterThan(lost(down) + 30);
  }

  /** Where a voice is silent under the clapping, nothing is left that could have a phase. */
  @Test
  void clapsOverADryVoiceAreNoLoss() throws Exception {
    float[] dry = dry();
    float[] claps = claps(dry.length);
    float[] source = Sounds.mix(dry, claps, Sounds.noiseFactor(dry, claps, 6));
    Readings clean = taken(source, dry);
    assertThat(lost(clean)).as(text(clean)).isGreaterThan(95);
    Readings dull = taken(source, Sounds.lowPass(dry, RATE, 2500));
    assertThat(lost(dull)).as(text(dull)).isLessThan(50);
  }

  /** The voice with nothing at all between its words. */
  private static float[] dry() {
    float[] dry = SPEECH.clone();
    int block = RATE / 50;
    for (int at = 0; at + block <= dry.length; at += block) {
      double energy = 0;
      for (int i = 0; i < block; i++) {
        energy += dry[at + i] * dry[at + i];
      }
      if (energy < 1e-4 * block) {
        Arrays.fill(dry, at, at + block, 0);
      }
    }
    return dry;
  }

  /** A faint hiss, and eight bursts of noise a second, each of its own loudness. */
  private static float[] claps(int length) {
    float[] claps = Sounds.white(length, 31);
    SplittableRandom random = new SplittableRandom(32);
    double[] gain = new double[length];
    Arrays.fill(gain, 0.05);
    for (int n = 0; n < 8 * length / RATE; n++) {
      int at = random.nextInt(length);
      double loud = 0.2 + random.nextDouble();
      for (int i = at; i < Math.min(length, at + RATE / 8); i++) {
        gain[i] += loud * Math.exp(-(i - at) / (0.02 * RATE));
      }
    }
    for (int i = 0; i < length; i++) {
      claps[i] *= (float) gain[i];
    }
    return claps;
  }

  /** Who lets passages of the voice go as well has lost them. */
  @Test
  void whatIsMissingOfTheCleanRecordingIsStillSeen() throws Exception {
    float[] dull = Sounds.lowPass(SPEECH, RATE, 2500);
    Readings low = taken(dull);
    assertThat(lost(low)).as(text(low)).isLessThan(85);
  }
}
