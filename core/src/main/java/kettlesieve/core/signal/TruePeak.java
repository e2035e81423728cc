package kettlesieve.core.signal;

/**
 * True-peak level after ITU-R BS.1770-5, annex 2: the largest magnitude after four-fold
 * oversampling (two-fold from 80 kHz on, none from 160 kHz on). Each phase of the interpolator is a
 * Kaiser-windowed sinc of 32 taps, longer than the standard's example.
 */
public final class TruePeak {
  private static final int TAPS = 32;
  private static final int BLOCK = 4096;
  private static final int RUN = 64;

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
    double gain = largestGain(phases);
    double peak = samplePeak;
    float[] in = new float[BLOCK + TAPS];
    for (int c = 0; c < audio.channels(); c++) {
      for (long from = 0; from < audio.frames(); from += BLOCK) {
        audio.read(c, from - TAPS / 2 + 1, in, 0, in.length);
        peak = Math.max(peak, peakOf(in, phases, gain, peak));
      }
    }
    return peak;
  }

  /** The true peak in dBTP; −∞ for silence. */
  public static double db(Audio audio) {
    return Db.ofAmplitude(of(audio));
  }

  /** The sum of tap magnitudes, the most of all phases: no interpolated value can exceed this. */
  private static double largestGain(float[][] phases) {
    double largest = 1;
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

  private static double peakOf(float[] in, float[][] phases, double gain, double before) {
    double peak = before;
    float[] piece = new float[RUN];
    float[] sums = new float[RUN];
    for (int run = 0; run < BLOCK; run += RUN) {
      float largest = 0;
      for (int i = run; i < run + RUN + TAPS; i++) {
        largest = Math.max(largest, Math.abs(in[i]));
      }
      peak = Math.max(peak, samplePeak(in, run));
      if (largest * gain <= peak) {
        continue;
      }
      for (float[] taps : phases) {
        java.util.Arrays.fill(sums, 0);
        for (int k = 0; k < TAPS; k++) {
          float tap = taps[k];
          System.arraycopy(in, run + k, piece, 0, RUN);
          for (int i = 0; i < RUN; i++) {
            sums[i] += piece[i] * tap;
          }
        }
        for (float sum : sums) {
          peak = Math.max(peak, Math.abs(sum));
        }
      }
    }
    return peak;
  }

  private static float samplePeak(float[] in, int run) {
    float peak = 0;
    for (int i = run + TAPS / 2 - 1; i < run + RUN + TAPS / 2 - 1; i++) {
      peak = Math.max(peak, Math.abs(in[i]));
    }
    return peak;
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
