package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.NotMeasured;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The more is destroyed, the worse: what has lost nearly all is not raised to the rest's level. */
class RuinedVersionsTest {
  private static final int RATE = 16_000;
  private static float[] noisy;
  private static PreparedExcerpt source;

  @BeforeAll
  static void source() throws Exception {
    float[] speech = Arrays.copyOf(Sounds.speech16(), 16 * RATE);
    float[] noise = Sounds.white(speech.length, 21);
    noisy = Sounds.mix(speech, noise, Sounds.noiseFactor(speech, noise, 10));
    source = PreparedExcerpt.of(Audio.of(RATE, noisy), null, null, null);
  }

  /** Of each 100 ms only the first few are left. */
  private static MatchedVersion torn(int milliseconds) throws Exception {
    float[] x = noisy.clone();
    for (int i = 0; i < x.length; i++) {
      x[i] = i % (RATE / 10) < milliseconds * RATE / 1000 ? x[i] : 0;
    }
    return source.match(Audio.of(RATE, x), MatchOverride.NONE);
  }

  private static double overall(MatchedVersion version) {
    Scoring scoring = Scoring.shipped();
    return Card.of(
            source.measure(version).readings(),
            scoring,
            scoring.profileOrDefault(null),
            Job.DENOISE)
        .overall()
        .orElseThrow()
        .value();
  }

  @Test
  void whatIsLeftOfARuinTellsItsLevel() throws Exception {
    MatchedVersion ruin = torn(2);
    // Two milliseconds in a hundred: 17 dB of the power is gone, not 80 dB of the level.
    assertThat(ruin.match().gainDb()).isBetween(-3.0, 30.0);
    assertThat(ruin.match().warnings()).anyMatch(w -> w.startsWith("most of the wanted sound"));
    Readings taken = source.measure(ruin);
    assertThat(taken.reading("detail-loss").orElseThrow().value()).isGreaterThan(3);
    assertThat(overall(ruin)).isLessThan(40).isLessThan(overall(torn(60)));
  }

  @Test
  void aFileThatIsOnlyQuietIsNoRuin() throws Exception {
    float[] x = noisy.clone();
    for (int i = 0; i < x.length; i++) {
      x[i] *= 0.003f;
    }
    MatchedVersion quiet = source.match(Audio.of(RATE, x), MatchOverride.NONE);
    assertThat(quiet.match().gainDb()).isCloseTo(-20 * Math.log10(0.003), within(0.1));
    assertThat(quiet.match().warnings()).noneMatch(w -> w.contains("gone"));
  }

  @Test
  void silenceHasNoReadings() throws Exception {
    MatchedVersion silent =
        source.match(Audio.of(RATE, new float[noisy.length]), MatchOverride.NONE);
    Readings taken = source.measure(silent);
    assertThat(taken.readings()).isEmpty();
    assertThat(taken.notMeasured())
        .isNotEmpty()
        .extracting(NotMeasured::reason)
        .containsOnly("the version is silent throughout");
  }
}
