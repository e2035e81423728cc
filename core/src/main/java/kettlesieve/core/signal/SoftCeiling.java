package kettlesieve.core.signal;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;

/**
 * Finds a level towards which tops are rounded off: half waves that reach it stay near it for far
 * longer than a sine does. See {@link Clipping}.
 */
final class SoftCeiling {
  private static final int BLOCK = 1 << 16;
  private static final double SOFT_NEAR = 0.95;
  private static final double SINE_SHARE = 0.35;
  private static final int FEWEST_HALF_WAVES = 20;

  private SoftCeiling() {}

  /** The ceiling of one channel and polarity; null if there is none. */
  static Clipping.Ceiling find(Audio audio, int channel, int polarity) {
    double peak = Clipping.peak(audio, channel, polarity);
    if (!(peak > 4 * Clipping.LEAST_WIDTH)) {
      return null;
    }
    HalfWaves waves = new HalfWaves(peak);
    float[] block = new float[BLOCK];
    float[] wave = new float[1024];
    int length = 0;
    for (long at = 0; at < audio.frames(); at += BLOCK) {
      int n = (int) Math.min(BLOCK, audio.frames() - at);
      audio.read(channel, at, block, 0, n);
      for (int i = 0; i < n; i++) {
        float magnitude = polarity * block[i];
        if (magnitude > 0) {
          wave = length == wave.length ? Arrays.copyOf(wave, 2 * length) : wave;
          wave[length++] = magnitude;
        } else {
          waves.add(wave, length);
          length = 0;
        }
      }
    }
    return waves.pressed() ? new Clipping.Ceiling(channel, polarity, SOFT_NEAR * peak, true) : null;
  }

  /** How long half waves stay near their own peak, for those at the ceiling and for the others. */
  private static final class HalfWaves {
    private final double peak;
    private int high;
    private double highShare;
    private int middle;
    private double middleShare;
    private int upperHalf;

    HalfWaves(double peak) {
      this.peak = peak;
    }

    void add(float[] wave, int length) {
      if (length < 8) {
        return;
      }
      float top = 0;
      for (int i = 0; i < length; i++) {
        top = Math.max(top, wave[i]);
      }
      int near = 0;
      for (int i = 0; i < length; i++) {
        near += wave[i] >= SOFT_NEAR * top ? 1 : 0;
      }
      double share = (double) near / length;
      if (top >= 0.5 * peak) {
        upperHalf++;
      }
      if (top >= 0.9 * peak) {
        high++;
        highShare += share;
      } else if (top >= 0.1 * peak && top <= 0.5 * peak) {
        middle++;
        middleShare += share;
      }
    }

    boolean pressed() {
      if (high < FEWEST_HALF_WAVES || high < 0.3 * upperHalf) {
        return false;
      }
      double own = middle < FEWEST_HALF_WAVES ? 0 : middleShare / middle;
      return highShare / high > Math.max(SINE_SHARE, 1.5 * own);
    }
  }
}
