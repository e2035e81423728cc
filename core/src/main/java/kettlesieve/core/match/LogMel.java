package kettlesieve.core.match;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.Windows;

/**
 * Levels in 24 mel bands from 100 Hz to 12 kHz (at most 0.475 of the rate), Hann windows of 512
 * samples (256 up to 24 kHz), relative to the recording's own loud frames. Frames stand anywhere:
 * centres are rounded one by one, so that no hop is ever accumulated.
 */
public final class LogMel {
  /** Number of bands. */
  public static final int BANDS = 24;

  private static final double LOW_HZ = 100;
  private static final double HIGH_HZ = 12_000;
  private static final int REFERENCE_FRAMES = 4000;

  private static final int AT_ONCE = 128;

  private final Audio audio;
  private final int length;
  private final float[] window;
  private final int[] first = new int[BANDS];
  private final float[][] weights = new float[BANDS][];
  private final double reference;

  /**
   * @param audio one channel
   * @param scale factor on the bands' frequencies, for a version whose pitch was moved
   */
  public LogMel(Audio audio, double scale) {
    this.audio = audio;
    int rate = audio.sampleRate();
    this.length = rate <= 24_000 ? 256 : 512;
    this.window = Windows.hann(length);
    double top = Math.min(HIGH_HZ, 0.475 * rate);
    double bottomMel = mel(LOW_HZ);
    double step = (mel(top) - bottomMel) / (BANDS + 1);
    double binHz = (double) rate / length;
    for (int b = 0; b < BANDS; b++) {
      double left = scale * hz(bottomMel + b * step) / binHz;
      double middle = scale * hz(bottomMel + (b + 1) * step) / binHz;
      double right = scale * hz(bottomMel + (b + 2) * step) / binHz;
      first[b] = Math.max(1, Math.min(length / 2 - 1, (int) Math.floor(left)));
      int last = Math.max(first[b], Math.min(length / 2 - 1, (int) Math.ceil(right)));
      weights[b] = new float[last - first[b] + 1];
      for (int k = first[b]; k <= last; k++) {
        double w = k < middle ? (k - left) / (middle - left) : (right - k) / (right - middle);
        // A band narrower than a bin still has the bin it lies in.
        weights[b][k - first[b]] = (float) Math.max(w, k == Math.round(middle) ? 0.5 : 0);
      }
    }
    this.reference = reference();
  }

  private static double mel(double hz) {
    return 2595 * Math.log10(1 + hz / 700);
  }

  private static double hz(double mel) {
    return 700 * (Math.pow(10, mel / 2595) - 1);
  }

  private double reference() {
    int count = (int) Math.min(REFERENCE_FRAMES, Math.max(1, audio.seconds() / 0.010));
    double[] sums = new double[count];
    double[] powers = new double[BANDS];
    for (int i = 0; i < count; i++) {
      long first = first((i + 0.5) / count * audio.seconds());
      powers(audio.samples(0, first, length), 0, powers);
      for (double p : powers) {
        sums[i] += p;
      }
    }
    return Math.max(1e-12, Statistics.quantile(sums, 0.995) / BANDS);
  }

  /** Levels in dB of frames at {@code from + i·hop} seconds, by frame and band. */
  public float[][] levels(double from, double hop, int count) {
    float[][] levels = new float[count][BANDS];
    double[] powers = new double[BANDS];
    for (int begin = 0; begin < count; begin += AT_ONCE) {
      // Frames overlap by most of their length: what they share is read once.
      int end = Math.min(count, begin + AT_ONCE);
      long start = first(from + begin * hop);
      int samples = (int) (first(from + (end - 1) * hop) - start) + length;
      float[] read = audio.samples(0, start, samples);
      for (int i = begin; i < end; i++) {
        powers(read, (int) (first(from + i * hop) - start), powers);
        for (int b = 0; b < BANDS; b++) {
          levels[i][b] = (float) (10 * Math.log10(powers[b] / reference + 1e-5));
        }
      }
    }
    return levels;
  }

  /** First sample of the frame round a moment. */
  private long first(double seconds) {
    return Math.round(seconds * audio.sampleRate()) - length / 2;
  }

  private void powers(float[] samples, int at, double[] into) {
    float[] frame = new float[length];
    for (int i = 0; i < length; i++) {
      frame[i] = samples[at + i] * window[i];
    }
    Fft.forward(frame);
    for (int b = 0; b < BANDS; b++) {
      double sum = 0;
      for (int j = 0; j < weights[b].length; j++) {
        int k = first[b] + j;
        sum += weights[b][j] * (frame[2 * k] * frame[2 * k] + frame[2 * k + 1] * frame[2 * k + 1]);
      }
      into[b] = sum;
    }
  }

  /** Each band's levels minus their own moving mean over {@code reach} frames on either side. */
  public static float[][] withoutMean(float[][] levels, int reach) {
    float[][] out = new float[levels.length][BANDS];
    double[] sum = new double[BANDS];
    int from = 0;
    int to = 0;
    for (int i = 0; i < levels.length; i++) {
      for (; to < Math.min(levels.length, i + reach + 1); to++) {
        for (int b = 0; b < BANDS; b++) {
          sum[b] += levels[to][b];
        }
      }
      for (; from < i - reach; from++) {
        for (int b = 0; b < BANDS; b++) {
          sum[b] -= levels[from][b];
        }
      }
      for (int b = 0; b < BANDS; b++) {
        out[i][b] = (float) (levels[i][b] - sum[b] / (to - from));
      }
    }
    return out;
  }
}
