package kettlesieve.core.ground;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Framing;
import org.junit.jupiter.api.Test;

/** Where a room is told from what sounds in it, on bursts whose places are known. */
class DirectGroundTest {
  private static final int RATE = 16_000;
  private static final double PERIOD = 1.6;
  private static final double AT = 0.3;
  private static final double BURST = 0.15;

  /** Bursts of noise with tails that start some dB under them. */
  private static DirectGround ground(double decay, double underDb) {
    float[] x = new float[(int) (10 * PERIOD * RATE)];
    SplittableRandom random = new SplittableRandom(5);
    for (int i = 0; i < x.length; i++) {
      double t = (double) i / RATE % PERIOD - AT;
      double gain =
          t < 0
              ? 0
              : t < BURST
                  ? 1
                  : Math.pow(10, -underDb / 20) * Math.pow(10, -3 * (t - BURST) / decay);
      x[i] = (float) ((0.1 * gain + 1e-5) * random.nextGaussian());
    }
    return new DirectGround(SourceMaterial.spectra(Audio.of(RATE, x)));
  }

  private static Framing framing() {
    return Framing.of(Audio.of(RATE, new float[(int) (10 * PERIOD * RATE)]));
  }

  private static int wanted(DirectGround ground, double from, double to) {
    return counted(ground.wanted(0), from, to);
  }

  private static int counted(CellMask mask, double from, double to) {
    Framing framing = framing();
    int count = 0;
    for (int t = 0; t < framing.count(); t++) {
      double second = framing.centreSeconds(t);
      double inPeriod = second % PERIOD;
      // The first bursts are left out: nothing is known of what was before them.
      if (second > PERIOD && inPeriod >= from && inPeriod < to) {
        count += mask.count(t, framing.binAtOrAbove(300), framing.binAtOrBelow(4000));
      }
    }
    return count;
  }

  @Test
  void theStartOfABurstIsWantedAndItsTailIsLate() {
    DirectGround ground = ground(0.6, 10);
    assertThat(ground.problem()).isEmpty();
    int atTheStart = wanted(ground, AT, AT + 0.06);
    int inTheTail = wanted(ground, AT + BURST + 0.1, AT + BURST + 0.5);
    assertThat(atTheStart).isGreaterThan(20 * Math.max(1, inTheTail));
    int late = counted(ground.unwanted(0), AT + BURST + 0.1, AT + BURST + 0.4);
    assertThat(late).isGreaterThan(1000);
    assertThat(counted(ground.unwanted(0), AT, AT + 0.04)).isZero();
  }

  @Test
  void noCellIsBothAndNoFrameIsBoth() {
    DirectGround ground = ground(0.5, 6);
    Framing framing = framing();
    int voice = 0;
    int tail = 0;
    for (int t = 0; t < framing.count(); t++) {
      assertThat(ground.voice(0, t) && ground.tail(0, t)).isFalse();
      voice += ground.voice(0, t) ? 1 : 0;
      tail += ground.tail(0, t) ? 1 : 0;
      for (int k = 0; k < framing.bins(); k++) {
        assertThat(ground.wanted(0).has(t, k) && ground.unwanted(0).has(t, k)).isFalse();
        // What is deep in the tail is late, and in a frame of tail alone.
        if (ground.deep(0).has(t, k)) {
          assertThat(ground.unwanted(0).has(t, k)).isTrue();
          assertThat(ground.tail(0, t)).isTrue();
        }
      }
    }
    assertThat(voice).isPositive();
    assertThat(tail).isGreaterThan(voice);
  }

  @Test
  void whatCoversAVoiceInARoomIsNoiseAndTailTogether() {
    DirectGround ground = ground(0.6, 6);
    NoiseEstimate covering = ground.covering(0);
    Framing framing = framing();
    int bin = framing.binAtOrAbove(1000);
    int before = (int) ((PERIOD + 0.1) / framing.hopSeconds());
    int after = (int) ((PERIOD + AT + BURST + 0.15) / framing.hopSeconds());
    float quiet = covering.moveTo(before)[bin];
    assertThat(covering.moveTo(after)[bin]).isGreaterThan(100 * quiet);
    assertThat(quiet).isPositive();
  }

  @Test
  void hardlyAnyTailIsDry() {
    assertThat(ground(0.6, 6).dry()).isFalse();
    assertThat(ground(0.15, 45).dry()).isTrue();
  }

  @Test
  void tooFewDecaysAreAProblemAndNotASilentGuess() {
    float[] steady = kettlesieve.core.Sounds.white(5 * RATE, 2);
    DirectGround ground = new DirectGround(SourceMaterial.spectra(Audio.of(RATE, steady)));
    assertThat(ground.problem().orElseThrow()).contains("choose a longer excerpt");
    assertThat(ground.warning()).isEmpty();
  }
}
