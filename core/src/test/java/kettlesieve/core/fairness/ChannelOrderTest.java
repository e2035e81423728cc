package kettlesieve.core.fairness;

import static org.assertj.core.api.Assertions.assertThat;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import org.junit.jupiter.api.Test;

/** Left and right of a version: gone, one, exchanged, out of balance. */
class ChannelOrderTest {
  private static final int RATE = 16_000;
  private static final float[] LEFT = stereo(0.2f);
  private static final float[] RIGHT = stereo(0.9f);
  private static final Audio SOURCE = Audio.of(RATE, LEFT, RIGHT);

  /** Speech in the middle, noise and a tone on the sides. */
  private static float[] stereo(float side) {
    float[] speech = Sounds.speech16();
    float[] noise = Sounds.lowPass(Sounds.pink(speech.length, 5), RATE, 2000);
    float[] x = Sounds.mix(speech, noise, 0.1 * side);
    float[] tone = Sounds.sine(RATE, (double) x.length / RATE, 3000, 0.02 * (1 - side), 0);
    return Sounds.mix(x, java.util.Arrays.copyOf(tone, x.length), 1);
  }

  private static String said(Audio version, double ratio) {
    return ChannelOrder.of(SOURCE, version, at -> ratio * at).orElse("");
  }

  private static float[] times(float[] x, double gain) {
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= (float) gain;
    }
    return y;
  }

  @Test
  void whatIsAsItWasIsNotSpokenOf() {
    assertThat(said(SOURCE, 1)).isEmpty();
    assertThat(said(SOURCE.times(-0.3), 1)).isEmpty();
    assertThat(said(Audio.of(RATE, LEFT), 1)).isEmpty();
    Audio mono = Audio.of(RATE, LEFT, LEFT);
    assertThat(ChannelOrder.of(mono, mono, at -> at)).isEmpty();
  }

  @Test
  void whatIsGoneOneExchangedOrMovedIsNamed() {
    assertThat(said(Audio.of(RATE, LEFT, new float[RIGHT.length]), 1))
        .startsWith("right is silent");
    assertThat(said(Audio.of(RATE, new float[RIGHT.length], RIGHT), 1))
        .startsWith("left is silent");
    float[] middle = Sounds.mix(LEFT, RIGHT, 1);
    assertThat(said(Audio.of(RATE, middle, middle), 1)).contains("in mono");
    assertThat(said(Audio.of(RATE, RIGHT, LEFT), 1)).contains("exchanged");
    assertThat(said(Audio.of(RATE, LEFT, times(RIGHT, 0.5)), 1))
        .isEqualTo("left is louder against right by 6.0 dB");
  }

  /** Played at another speed everything lies elsewhere, in time and frequency. */
  @Test
  void itIsToldOfWhatWasStretchedAsWell() {
    float[] left = slower(LEFT);
    float[] right = slower(RIGHT);
    assertThat(said(Audio.of(RATE, left, right), 1.25)).isEmpty();
    assertThat(said(Audio.of(RATE, right, left), 1.25)).contains("exchanged");
    assertThat(said(Audio.of(RATE, left, new float[left.length]), 1.25))
        .contains("right is silent");
  }

  private static float[] slower(float[] x) {
    float[] y = new float[(int) (1.25 * x.length) - 2];
    for (int i = 0; i < y.length; i++) {
      int k = (int) (i / 1.25);
      float f = (float) (i / 1.25 - k);
      y[i] = (1 - f) * x[k] + f * x[k + 1];
    }
    return y;
  }
}
