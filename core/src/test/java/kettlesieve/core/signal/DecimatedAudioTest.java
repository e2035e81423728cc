package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

/** A recording at a fraction of its rate: the same sound, whatever way it is asked for. */
class DecimatedAudioTest {
  @Test
  void tonesBelowTheNewLimitStayAndThoseAboveGo() {
    for (int rate : new int[] {44_100, 48_000, 96_000}) {
      Audio low =
          DecimatedAudio.toAtLeast(Audio.of(rate, Sounds.sine(rate, 2, 1_000, 0.5, 0.3)), 11_000);
      float[] expected = Sounds.sine(low.sampleRate(), 2, 1_000, 0.5, 0.3);
      float[] heard = low.wholeChannel(0);
      assertThat(low.sampleRate()).isBetween(11_000, 16_000);
      for (int i = 200; i < expected.length - 200; i++) {
        assertThat(heard[i]).isCloseTo(expected[i], within(1e-3f));
      }
      Audio gone =
          DecimatedAudio.toAtLeast(Audio.of(rate, Sounds.sine(rate, 2, 8_500, 0.5, 0)), 11_000);
      float[] rest = Arrays.copyOfRange(gone.wholeChannel(0), 200, 20_000);
      assertThat(Sounds.rms(rest)).as("at " + rate).isLessThan(0.5 * 0.002);
    }
  }

  /** By blocks on a fixed grid: pieces of any size and place are pieces of the same whole. */
  @Test
  void whatASampleIsDoesNotDependOnHowManyAreAskedFor() {
    Audio low = DecimatedAudio.toAtLeast(Audio.of(48_000, Sounds.white(400_000, 5)), 11_000);
    float[] whole = low.wholeChannel(0);
    for (int from : new int[] {0, 1, 3_999, 8_101, 50_000}) {
      for (int length : new int[] {4_000, 9_001, 40_000}) {
        assertThat(low.samples(0, from, length))
            .isEqualTo(Arrays.copyOf(Arrays.copyOfRange(whole, from, from + length), length));
      }
      // Short ones are summed directly: the same but for rounding.
      float[] brief = low.samples(0, from, 300);
      for (int i = 0; i < brief.length; i++) {
        assertThat(brief[i]).isCloseTo(whole[from + i], within(2e-6f));
      }
    }
    // Before the beginning there is silence, and the filter's reach into it.
    assertThat(low.samples(0, -40_000, 30_000)).containsOnly(0f);
  }
}
