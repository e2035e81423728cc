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

  /** The taps next to where a value is interpolated. */
  private static final int NEAR = 4;

  private static final int FIRST_NEAR = (TAPS - NEAR) / 2;

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
    double gain = Math.max(1, largestGain(phases, 0, TAPS));
    double near = largestGain(phases, FIRST_NEAR, FIRST_NEAR + NEAR);
    double far = largestGain(phases, 0, FIRST_NEAR) + largestGain(phases, FIRST_NEAR + NEAR, TAPS);
    double peak = samplePeak;
    float[] in = new float[BLOCK + TAPS];
    for (int c = 0; c < audio.channels(); c++) {
      for (long from = 0; from < audio.frames(); from += BLOCK) {
        audio.read(c, from - TAPS / 2 + 1, in, 0, in.length);
        peak = Math.max(peak, peakOf(in, phases, gain, near, far, peak));
      }
    }
    return peak;
  }

  /** The true peak in dBTP; −∞ for silence. */
  public static double db(Audio audio) {
    return Db.ofAmplitude(of(audio));
  }

  /** Sums of the magnitudes of some taps, the most of all phases. */
  private static double largestGain(float[][] phases, int from, int to) {
    double largest = 0;
    for (float[] taps : phases) {
      double sum = 0;
      for (int k = from; k < to; k++) {
        sum += Math.abs(taps[k]);
      }
      largest = Math.max(largest, sum);
    }
    // Sums in single precision may come out a little over it.
    return 1.0001 * largest;
  }

  /**
   * The largest of some samples and of what lies between them.
   *
   * @param gain no value between samples exceeds the largest of those around it by this factor
   * @param near nor this times the largest of the {@value #NEAR} next to it and
   * @param far this times the largest of all around it
   */
  private static double peakOf(
      float[] in, float[][] phases, double gain, double near, double far, double before) {
    double peak = before;
    for (int run = 0; run < BLOCK; run += RUN) {
      float largest = 0;
      for (int i = run; i < run + RUN + TAPS; i++) {
        largest = Math.max(largest, Math.abs(in[i]));
      }
      peak = Math.max(peak, samplePeak(in, run));
      if (largest * gain <= peak) {
        continue;
      }
      double enough = (peak - far * largest) / near;
      for (int i = run; i < run + RUN; i++) {
        float beside = 0;
        for (int k = i + FIRST_NEAR; k < i + FIRST_NEAR + NEAR; k++) {
          beside = Math.max(beside, Math.abs(in[k]));
        }
        if (beside > enough) {
          peak = Math.max(peak, between(in, i, phases));
        }
      }
    }
    return peak;
  }

  /** The largest magnitude at all phases. */
  private static float between(float[] in, int from, float[][] phases) {
    float largest = 0;
    for (float[] taps : phases) {
      float sum = 0;
      for (int k = 0; k < TAPS; k++) {
        sum += in[from + k] * taps[k];
      }
      largest = Math.max(largest, Math.abs(sum));
    }
    return largest;
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
