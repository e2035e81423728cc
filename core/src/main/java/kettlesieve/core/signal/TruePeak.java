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

  /** Above the sum of tap magnitudes of every phase: no interpolated value can exceed this. */
  private static final double LARGEST_GAIN = 3;

  private TruePeak() {}

  /** The true peak of all channels as an amplitude, full scale 1. */
  public static double of(Audio audio) {
    int factor = audio.sampleRate() < 80_000 ? 4 : audio.sampleRate() < 160_000 ? 2 : 1;
    float[][] phases = phases(factor);
    double peak = 0;
    float[] in = new float[BLOCK + TAPS];
    for (int c = 0; c < audio.channels(); c++) {
      for (long from = 0; from < audio.frames(); from += BLOCK) {
        audio.read(c, from - TAPS / 2 + 1, in, 0, in.length);
        peak = Math.max(peak, peakOf(in, phases, peak));
      }
    }
    return peak;
  }

  /** The true peak in dBTP; −∞ for silence. */
  public static double db(Audio audio) {
    return Db.ofAmplitude(of(audio));
  }

  private static double peakOf(float[] in, float[][] phases, double before) {
    double peak = before;
    for (int run = 0; run < BLOCK; run += RUN) {
      float largest = 0;
      for (int i = run; i < run + RUN + TAPS; i++) {
        largest = Math.max(largest, Math.abs(in[i]));
      }
      peak = Math.max(peak, samplePeak(in, run));
      if (largest * LARGEST_GAIN <= peak) {
        continue;
      }
      for (float[] taps : phases) {
        for (int i = run; i < run + RUN; i++) {
          float sum = 0;
          for (int k = 0; k < TAPS; k++) {
            sum += in[i + k] * taps[k];
          }
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
