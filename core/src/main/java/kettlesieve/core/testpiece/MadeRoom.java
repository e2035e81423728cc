package kettlesieve.core.testpiece;

import java.util.SplittableRandom;

/**
 * A room that was made: the direct sound, a dozen early reflections that thin out within 60 ms, and
 * a tail of noise that decays exponentially, as loud as the direct sound in all.
 */
final class MadeRoom {
  private static final int EARLY = 12;
  private static final double EARLY_SECONDS = 0.06;
  private static final double TAIL_FROM_SECONDS = 0.012;
  private static final double EARLY_POWER = 0.5;
  private static final double TAIL_POWER = 1;

  private MadeRoom() {}

  /**
   * An impulse response that begins with the direct sound at 1.
   *
   * @param decay time over which it falls by 60 dB, s
   */
  static double[] of(double decay, int rate, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    // Followed for 75 dB: what is left cannot be heard, and fits into no interval of level.
    double[] h = new double[(int) (1.25 * decay * rate) + (int) (EARLY_SECONDS * rate) + 1];
    double tail = 0;
    int from = (int) (TAIL_FROM_SECONDS * rate);
    for (int i = from; i < h.length; i++) {
      double x = random.nextGaussian() * StrictMath.pow(10, -3 * (i - from) / (decay * rate));
      h[i] = x;
      tail += x * x;
    }
    double scale = Math.sqrt(TAIL_POWER / Math.max(tail, 1e-30));
    for (int i = from; i < h.length; i++) {
      h[i] *= scale;
    }
    double early = 0;
    int[] at = new int[EARLY];
    double[] strength = new double[EARLY];
    for (int n = 0; n < EARLY; n++) {
      double seconds = 0.002 + (EARLY_SECONDS - 0.002) * random.nextDouble();
      at[n] = (int) (seconds * rate);
      // A room that dies away sooner has weaker reflections.
      strength[n] =
          (random.nextBoolean() ? 1 : -1)
              * StrictMath.pow(10, -3 * seconds / decay)
              / (1 + 60 * seconds);
      early += strength[n] * strength[n];
    }
    double share = Math.sqrt(Math.min(EARLY_POWER, decay) / early);
    for (int n = 0; n < EARLY; n++) {
      h[at[n]] += share * strength[n];
    }
    h[0] = 1;
    return h;
  }
}
