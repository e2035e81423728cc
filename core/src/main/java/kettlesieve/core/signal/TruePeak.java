package kettlesieve.core.signal;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;

/**
 * True-peak level after ITU-R BS.1770-5, annex 2: the largest magnitude after four-fold
 * oversampling (two-fold from 80 kHz on, none from 160 kHz on). Each phase of the interpolator is a
 * Kaiser-windowed sinc of 32 taps, longer than the standard's example.
 */
public final class TruePeak {
  /** Taps of an interpolator. */
  public static final int TAPS = 32;

  private static final int BLOCK = 2048;

  /** Values of a block that no sample outside it matters to. */
  private static final int STEP = BLOCK - TAPS + 1;

  private TruePeak() {}

  /** The true peak of all channels as an amplitude, full scale 1. */
  public static double of(Audio audio) {
    return of(audio, 0);
  }

  /**
   * The same where the largest sample is known: what lies far under it need not be looked at.
   *
   * @param samplePeak the largest magnitude of a sample of it
   */
  public static double of(Audio audio, double samplePeak) {
    int factor = audio.sampleRate() < 80_000 ? 4 : audio.sampleRate() < 160_000 ? 2 : 1;
    float[][] phases = phases(factor);
    double gain = Math.max(1, largestGain(phases));
    float[][] responses = responses(phases);
    double peak = samplePeak;
    float[] in = new float[BLOCK];
    float[] between = new float[BLOCK];
    for (int c = 0; c < audio.channels(); c++) {
      for (long from = 0; from < audio.frames(); from += STEP) {
        audio.read(c, from - TAPS / 2 + 1, in, 0, BLOCK);
        float largest = largest(in, 0, BLOCK);
        peak = Math.max(peak, largest);
        if (largest * gain > peak) {
          Fft.forward(in);
          for (float[] response : responses) {
            Arrays.fill(between, 0);
            SpectrumProducts.addProduct(in, response, between);
            Fft.inverse(between);
            peak = Math.max(peak, largest(between, TAPS - 1, BLOCK));
          }
        }
      }
    }
    return peak;
  }

  /** The largest magnitude of a sample of all channels. */
  public static double samplePeak(Audio audio) {
    float[] block = new float[BLOCK];
    float peak = 0;
    for (int c = 0; c < audio.channels(); c++) {
      for (long at = 0; at < audio.frames(); at += BLOCK) {
        int n = (int) Math.min(BLOCK, audio.frames() - at);
        audio.read(c, at, block, 0, n);
        peak = Math.max(peak, largest(block, 0, n));
      }
    }
    return peak;
  }

  /** The true peak in dBTP; −∞ for silence. */
  public static double db(Audio audio) {
    return Db.ofAmplitude(of(audio));
  }

  /** No value between samples exceeds the largest of those around it by this factor. */
  public static double largestGain(float[][] phases) {
    double largest = 0;
    for (float[] taps : phases) {
      double sum = 0;
      for (float tap : taps) {
        sum += Math.abs(tap);
      }
      largest = Math.max(largest, sum);
    }
    // Sums in single precision may come out a little over it.
    return 1.0001 * largest;
  }

  /** The interpolators' transforms. */
  private static float[][] responses(float[][] phases) {
    float[][] responses = new float[phases.length][BLOCK];
    for (int p = 0; p < phases.length; p++) {
      for (int k = 0; k < TAPS; k++) {
        responses[p][k] = phases[p][TAPS - 1 - k];
      }
      Fft.forward(responses[p]);
    }
    return responses;
  }

  private static float largest(float[] in, int from, int to) {
    // Without their sign, floats are in the order of their bits; to compare those takes a quarter
    // of
    // the time where only Java's first compiler works.
    int largest = 0;
    for (int i = from; i < to; i++) {
      int magnitude = Float.floatToRawIntBits(in[i]) & Integer.MAX_VALUE;
      if (magnitude > largest) {
        largest = magnitude;
      }
    }
    return Float.intBitsToFloat(largest);
  }

  /**
   * The interpolators of a rate: what lies between two samples, at a quarter, a half and three
   * quarters (from 80 kHz on the half alone, from 160 kHz on none), is the sum of {@link #TAPS}
   * samples around it, each with its factor; the two samples are the middle ones.
   */
  public static float[][] interpolators(int sampleRate) {
    return phases(sampleRate < 80_000 ? 4 : sampleRate < 160_000 ? 2 : 1);
  }

  private static float[][] phases(int factor) {
    float[][] phases = new float[factor - 1][TAPS];
    for (int p = 1; p < factor; p++) {
      for (int k = 0; k < TAPS; k++) {
        double x = k - (TAPS / 2 - 1) - (double) p / factor;
        double r = x / (TAPS / 2.0);
        double window = Windows.bessel0(6 * Math.sqrt(Math.max(0, 1 - r * r))) / Windows.bessel0(6);
        phases[p - 1][k] = (float) (Math.sin(Math.PI * x) / (Math.PI * x) * window);
      }
    }
    return phases;
  }
}
