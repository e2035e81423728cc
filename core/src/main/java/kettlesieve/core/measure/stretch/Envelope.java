package kettlesieve.core.measure.stretch;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * The spectral envelope of a voiced frame: the log spectrum smoothed by a cepstral lifter, on a
 * grid of equal musical steps, freed of its tilt. Its peaks are the formants. After Oppenheim &amp;
 * Schafer, "Homomorphic analysis of speech", IEEE Trans. Audio Electroacoust. 16, 1968.
 */
public final class Envelope {
  /** The usual lifter, the same for both files. */
  public static final double LIFTER_SECONDS = 0.00125;

  public static final double LOW_HZ = 300;
  public static final double HIGH_HZ = 5000;

  /** From one point of the grid to the next. */
  public static final int GRID_CENTS = 20;

  private static final double WINDOW_SECONDS = 0.045;
  private static final double SOFT_END = 0.15;
  private static final double FINEST_SECONDS = 0.0035;
  private static final double OF_A_PERIOD = 0.75;
  private static final double LEAST_POWER = 1e-12;

  /** What rises by less on either side is no formant. */
  private static final double PROMINENT_DB = 1;

  private Envelope() {}

  /**
   * Log power of a frame, twice as finely as its length gives, from 0 Hz to Nyquist.
   *
   * @param audio one channel
   * @param seconds middle of the frame
   */
  public static double[] logSpectrum(Audio audio, double seconds) {
    int rate = audio.sampleRate();
    int length = (int) Math.round(WINDOW_SECONDS * rate) / 2 * 2;
    int padded = Fft.powerOfTwo(2L * length);
    float[] x =
        java.util.Arrays.copyOf(
            audio.samples(0, Math.round(seconds * rate) - length / 2, length), padded);
    float[] window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      x[i] *= window[i];
    }
    Fft.forward(x);
    double[] log = new double[padded / 2 + 1];
    log[0] = Math.log(Math.max(LEAST_POWER, (double) x[0] * x[0]));
    log[padded / 2] = Math.log(Math.max(LEAST_POWER, (double) x[1] * x[1]));
    for (int k = 1; k < padded / 2; k++) {
      double power = (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
      log[k] = Math.log(Math.max(LEAST_POWER, power));
    }
    return log;
  }

  /**
   * Smoothed log spectrum on the grid, less its straight line.
   *
   * @param log of {@link #logSpectrum}
   * @param rate of the recording, Hz
   * @param lifterSeconds what of the cepstrum is kept: under a period of the voice
   */
  public static double[] of(double[] log, int rate, double lifterSeconds) {
    int length = 2 * (log.length - 1);
    double[] cepstrum = new double[length];
    cepstrum[0] = log[0];
    cepstrum[1] = log[length / 2];
    for (int k = 1; k < length / 2; k++) {
      cepstrum[2 * k] = log[k];
    }
    Fft.inverse(cepstrum);
    double cut = lifterSeconds * rate;
    for (int n = 0; n < length; n++) {
      double q = Math.min(n, length - n);
      double over = (q - cut) / (SOFT_END * cut);
      double keep = over <= 0 ? 1 : over >= 1 ? 0 : 0.5 + 0.5 * Math.cos(Math.PI * over);
      cepstrum[n] *= keep;
    }
    Fft.forward(cepstrum);
    double top = Math.min(HIGH_HZ, 0.97 * rate / 2);
    int points = (int) (1200 * Math.log(top / LOW_HZ) / Math.log(2) / GRID_CENTS);
    double[] grid = new double[points];
    double slope = 0;
    double squares = 0;
    double mean = 0;
    for (int i = 0; i < points; i++) {
      double bin = LOW_HZ * Math.pow(2, i * GRID_CENTS / 1200.0) * length / rate;
      int k = Math.min(length / 2 - 2, (int) bin);
      double f = bin - k;
      grid[i] = (1 - f) * real(cepstrum, k) + f * real(cepstrum, k + 1);
      mean += grid[i] / points;
    }
    for (int i = 0; i < points; i++) {
      double t = i - (points - 1) / 2.0;
      slope += t * grid[i];
      squares += t * t;
    }
    for (int i = 0; i < points; i++) {
      grid[i] -= mean + slope / squares * (i - (points - 1) / 2.0);
    }
    return grid;
  }

  /**
   * The finest lifter that lets no overtones through, for pictures: what is measured is told by one
   * that is the same for all voices.
   *
   * @param highestHz fundamental of the highest of the voices that are compared
   */
  public static double lifter(double highestHz) {
    return Math.max(LIFTER_SECONDS, Math.min(FINEST_SECONDS, OF_A_PERIOD / highestHz));
  }

  /**
   * Mean envelope over some frames of a voice, dB.
   *
   * @param audio one channel
   * @param seconds middles of the frames
   * @param lifterSeconds of {@link #lifter}
   */
  public static double[] mean(Audio audio, List<Double> seconds, double lifterSeconds) {
    double[] mean = new double[0];
    for (double at : seconds) {
      double[] one = of(logSpectrum(audio, at), audio.sampleRate(), lifterSeconds);
      mean = mean.length == 0 ? new double[one.length] : mean;
      for (int i = 0; i < mean.length; i++) {
        mean[i] += 10 / Math.log(10) * one[i] / seconds.size();
      }
    }
    return mean;
  }

  /** Frequency of a point of the grid, Hz. */
  public static double hz(double point) {
    return LOW_HZ * Math.pow(2, point * GRID_CENTS / 1200);
  }

  /**
   * Frequencies of the peaks of an envelope in dB, Hz, rising. In a deep valley between two
   * formants a ripple of the lifter may show as one more.
   */
  public static List<Double> formants(double[] envelope) {
    List<Double> peaks = new ArrayList<>();
    for (int i = 1; i < envelope.length - 1; i++) {
      boolean highest =
          drop(envelope, i, -1) >= PROMINENT_DB && drop(envelope, i, 1) >= PROMINENT_DB;
      if (highest) {
        double bend = envelope[i - 1] - 2 * envelope[i] + envelope[i + 1];
        double off = bend < 0 ? 0.5 * (envelope[i - 1] - envelope[i + 1]) / bend : 0;
        peaks.add(hz(i + off));
      }
    }
    return peaks;
  }

  /** How far the envelope falls on one side before it rises above a point again. */
  private static double drop(double[] envelope, int from, int step) {
    double lowest = envelope[from];
    for (int i = from + step; i >= 0 && i < envelope.length; i += step) {
      if (envelope[i] > envelope[from]) {
        break;
      }
      lowest = Math.min(lowest, envelope[i]);
    }
    return envelope[from] - lowest;
  }

  private static double real(double[] packed, int bin) {
    return packed[2 * bin];
  }
}
