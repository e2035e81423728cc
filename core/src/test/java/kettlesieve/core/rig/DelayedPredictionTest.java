package kettlesieve.core.rig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;

/** Bursts of noise with an echo that is known: what was added can be taken away exactly. */
class DelayedPredictionTest {
  private static final int RATE = 16_000;

  private static float[] dry(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[6 * RATE];
    for (int i = 0; i < x.length; i++) {
      boolean on = i / (RATE / 8) % 3 == 0;
      x[i] = on ? (float) (0.1 * random.nextGaussian()) : 0;
    }
    return x;
  }

  private static float[] echoed(float[] x) {
    float[] y = x.clone();
    int lag = (int) (0.1 * RATE);
    for (int i = lag; i < y.length; i++) {
      y[i] += 0.5f * y[i - lag];
    }
    return y;
  }

  private static double offDb(float[] wanted, float[] x) {
    double error = 0;
    double all = 0;
    for (int i = RATE; i < wanted.length - RATE; i++) {
      error += Math.pow(wanted[i] - x[i], 2);
      all += (double) wanted[i] * wanted[i];
    }
    return 10 * Math.log10(error / all);
  }

  private static Audio processed(Audio in, double amount) {
    return new DelayedPrediction().process(in, amount, Progress.SILENT);
  }

  @Test
  void whatThePastForetellsIsTakenAwayByTheAmount() {
    float[] dry = dry(4);
    float[] wet = echoed(dry);
    Audio source = Audio.of(RATE, wet);
    double before = offDb(dry, wet);
    double half = offDb(dry, processed(source, 50).wholeChannel(0));
    double whole = offDb(dry, processed(source, 100).wholeChannel(0));
    assertThat(half).isLessThan(before - 3);
    assertThat(whole).isLessThan(half - 2);
    assertThat(processed(source, 0)).isSameAs(source);
  }

  @Test
  void eachChannelIsWorkedOnByItself() {
    float[] left = echoed(dry(4));
    float[] right = dry(5);
    Audio both = processed(Audio.of(RATE, left, right), 100);
    assertThat(both.channels()).isEqualTo(2);
    float[] alone = processed(Audio.of(RATE, right), 100).wholeChannel(0);
    float[] beside = both.wholeChannel(1);
    for (int i = 0; i < alone.length; i += 97) {
      assertThat(beside[i]).isCloseTo(alone[i], within(1e-6f));
    }
    // Dry sound foretells nothing, and keeps what it is.
    assertThat(offDb(right, beside)).isLessThan(-10);
  }
}
