package kettlesieve.core.measure.voice;

import static org.assertj.core.api.Assertions.assertThat;

import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Framing;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a frame holds, against looking at every sample of it. */
class ClippedFramesTest {
  /** A low tone over speech has tops of up to 20 ms: they begin before the frame they end in. */
  @ParameterizedTest
  @ValueSource(doubles = {0.5, 0.2, 0.1})
  void aFrameThatHoldsTheEndOfATopAloneIsClippedToo(double limit) {
    int rate = 16_000;
    float[] x = Sounds.speech16();
    int burst = rate / 3;
    for (int i = 0; i < x.length; i++) {
      double swell = i / burst % 2 == 0 ? Math.sin(Math.PI * (i % burst) / burst) : 0;
      double sum = x[i] + swell * Math.sin(2 * Math.PI * 25 * i / rate);
      x[i] = (float) Math.max(-limit, Math.min(limit, sum));
    }
    Audio audio = Audio.of(rate, x);
    Framing framing = Framing.of(audio);
    boolean[] holding = ClippedFrames.holding(Clipping.of(audio), 1, framing);
    int clipped = 0;
    for (int t = 0; t < framing.count(); t++) {
      boolean expected = false;
      for (int i = 0; i < framing.length(); i++) {
        int at = t * framing.hop() + i;
        expected |= at < x.length && Math.abs(x[at]) >= (float) limit;
      }
      clipped += expected ? 1 : 0;
      assertThat(holding[t]).as("frame " + t).isEqualTo(expected);
    }
    assertThat(clipped).isBetween(framing.count() / 10, 9 * framing.count() / 10);
  }
}
