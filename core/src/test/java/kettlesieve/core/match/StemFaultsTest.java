package kettlesieve.core.match;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** Stems that are plainly wrong are named with what is wrong; whole ones are not. */
class StemFaultsTest {
  private static final int RATE = 16_000;
  private static final Map<String, Audio> TRUE = new LinkedHashMap<>();
  private static final PreparedExcerpt MIX;

  static {
    float[] speech = Sounds.speech16();
    float[] hiss = Sounds.white(speech.length, 9);
    float[] hum = new float[speech.length];
    for (int i = 0; i < hum.length; i++) {
      hum[i] = (float) (0.2 * Math.sin(2 * Math.PI * 110 * i / RATE));
      hiss[i] *= 0.02f;
    }
    TRUE.put("vocals", Audio.of(RATE, speech, scaled(speech, 0.5)));
    TRUE.put("bass", Audio.of(RATE, scaled(hum, 0.3), hum));
    TRUE.put("other", Audio.of(RATE, hiss, scaled(hiss, 0.2)));
    TRUE.put("keys", keys(speech.length));
    try {
      Audio sum = SumAudio.of(List.copyOf(TRUE.values()));
      MIX =
          PreparedExcerpt.of(
              Audio.of(RATE, sum.wholeChannel(0), sum.wholeChannel(1)),
              null,
              null,
              null,
              new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  /** In the middle of the mix, and over after a third of it, as many a part is. */
  private static Audio keys(int length) {
    float[] x = new float[length];
    for (int i = 0; i < length / 3; i++) {
      x[i] = (float) (0.1 * Math.sin(2 * Math.PI * 523 * i / RATE));
    }
    return Audio.of(RATE, x, x);
  }

  private static float[] scaled(float[] x, double gain) {
    float[] y = new float[x.length];
    for (int i = 0; i < y.length; i++) {
      y[i] = (float) gain * x[i];
    }
    return y;
  }

  private static Match matched(String role, Audio stem) throws MatchException {
    Map<String, Audio> stems = new LinkedHashMap<>(TRUE);
    stems.put(role, stem);
    return MIX.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER).match();
  }

  @Test
  void wholeStemsAreNotNamed() throws Exception {
    assertThat(matched("vocals", TRUE.get("vocals")).warnings()).isEmpty();
    assertThat(matched("vocals", TRUE.get("vocals").times(0.3f)).warnings()).isEmpty();
  }

  /** Also where it is the loudest and turns the sum: it is that stem, not the version. */
  @Test
  void theStemThatIsUpsideDownIsNamed() throws Exception {
    for (String role : TRUE.keySet()) {
      Match match = matched(role, TRUE.get(role).times(-1));
      assertThat(match.polarity()).as(role + match).isEqualTo(1);
      assertThat(match.warnings())
          .as(role + match)
          .singleElement()
          .asString()
          .startsWith(role + ": its polarity is turned");
    }
  }

  @Test
  void aVersionThatIsUpsideDownAsAWholeIsTurned() throws Exception {
    Map<String, Audio> stems = new LinkedHashMap<>(TRUE);
    stems.replaceAll((role, stem) -> stem.times(-1));
    Match match = MIX.matchStems(stems, MatchOverride.NONE, null, Stop.NEVER).match();
    assertThat(match.polarity()).isEqualTo(-1);
    assertThat(match.warnings()).isEmpty();
  }

  @Test
  void silentShortSwappedAndMonoStemsAreNamed() throws Exception {
    assertThat(matched("bass", TRUE.get("bass").times(0)).warnings())
        .containsExactly("bass: the stem is silent");
    Audio vocals = TRUE.get("vocals");
    int half = (int) vocals.frames() / 2;
    Audio early =
        Audio.of(
            RATE,
            Arrays.copyOf(vocals.wholeChannel(0), half),
            Arrays.copyOf(vocals.wholeChannel(1), half));
    assertThat(matched("vocals", early).warnings())
        .singleElement()
        .asString()
        .startsWith("vocals: it ends ");
    Audio bass = TRUE.get("bass");
    assertThat(
            matched("bass", Audio.of(RATE, bass.wholeChannel(1), bass.wholeChannel(0))).warnings())
        .containsExactly("bass: left and right look swapped against the mix");
    float[] middle = bass.downmix().wholeChannel(0);
    assertThat(matched("bass", Audio.of(RATE, middle, middle)).warnings())
        .containsExactly("bass: left and right are the same, as from a mono export");
  }
}
