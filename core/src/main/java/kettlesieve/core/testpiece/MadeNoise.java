package kettlesieve.core.testpiece;

import java.util.SplittableRandom;

/** Noises made by code, at any level; the same seed gives the same noise. */
public final class MadeNoise {
  private MadeNoise() {}

  /** White noise of a normal distribution. */
  public static float[] white(int length, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] x = new float[length];
    for (int i = 0; i < length; i++) {
      x[i] = (float) random.nextGaussian();
    }
    return x;
  }

  /** −3 dB an octave: Kellet's filter, from memory. */
  public static float[] pink(int length, long seed) {
    float[] x = white(length, seed);
    double b0 = 0;
    double b1 = 0;
    double b2 = 0;
    for (int i = 0; i < length; i++) {
      b0 = 0.99765 * b0 + x[i] * 0.0990460;
      b1 = 0.96300 * b1 + x[i] * 0.2965164;
      b2 = 0.57000 * b2 + x[i] * 1.0526913;
      x[i] = (float) (b0 + b1 + b2 + x[i] * 0.1848);
    }
    return x;
  }

  /**
   * The hum of a mains supply: harmonics that fall, the odd ones slower, over a weak hiss.
   *
   * @param hz of the supply
   */
  public static float[] hum(double hz, int rate, int length, long seed) {
    float[] x = pink(length, seed);
    SplittableRandom random = new SplittableRandom(seed + 1);
    for (int h = 1; h <= 40 && h * hz < 0.45 * rate; h++) {
      double phase = 2 * Math.PI * random.nextDouble();
      double amplitude = 6.0 / Math.pow(h, h % 2 == 1 ? 0.7 : 1.1);
      for (int i = 0; i < length; i++) {
        x[i] += (float) (amplitude * Math.sin(phase + 2 * Math.PI * h * hz * i / rate));
      }
    }
    return x;
  }

  /**
   * Clicks at random moments over a weak hiss.
   *
   * @param aSecond how many, on average
   */
  public static float[] clicks(double aSecond, int rate, int length, long seed) {
    float[] x = pink(length, seed);
    SplittableRandom random = new SplittableRandom(seed + 1);
    int clicks = (int) (aSecond * length / rate);
    for (int n = 0; n < clicks; n++) {
      int at = random.nextInt(length);
      double strength = 20 * Math.pow(10, random.nextDouble()) * (random.nextBoolean() ? 1 : -1);
      double decay = rate * (0.0001 + 0.0004 * random.nextDouble());
      for (int i = at; i < Math.min(length, at + 12 * decay); i++) {
        double since = i - at;
        x[i] += (float) (strength * Math.exp(-since / decay) * Math.cos(since / decay * 1.3));
      }
    }
    return x;
  }
}
