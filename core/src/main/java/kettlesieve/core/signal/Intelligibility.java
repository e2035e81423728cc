package kettlesieve.core.signal;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.ReadAhead;

/**
 * Short-time objective intelligibility (Taal, Hendriks, Heusdens &amp; Jensen, "An algorithm for
 * intelligibility prediction of time–frequency weighted noisy speech", IEEE Trans. Audio, Speech,
 * Lang. Process. 19, 2011): both signals at 10 kHz, frames of 256 samples of which silent ones are
 * taken out, 15 third-octave bands from 150 Hz, and for stretches of 30 frames the correlation of
 * the envelopes, the processed one normalised and clipped at −15 dB.
 *
 * @param seconds middle of each stretch in the recordings' time
 * @param values the mean over bands of each stretch, 1 for alike
 */
public record Intelligibility(double[] seconds, double[] values) {
  private static final int RATE = 10_000;
  private static final int FRAME = 256;
  private static final int HOP = FRAME / 2;
  private static final int TRANSFORM = 512;
  private static final int BANDS = 15;
  private static final double FIRST_HZ = 150;
  private static final int STRETCH = 30;
  private static final double SILENT_DB = 40;
  private static final double CLIP = 1 + Math.pow(10, 15.0 / 20);

  /** The clean recording's side, worked out once for several processed ones. */
  public static final class Clean {
    private final float[] window = window();
    private final int[] edges = edges();
    private final long[] kept;
    private final double[][] bands;

    /**
     * @param clean one channel
     */
    public Clean(Audio clean) {
      Audio x = atRate(clean);
      kept = audible(x, window);
      bands = kept.length < STRETCH + 1 ? null : bands(x, kept, window, edges);
    }
  }

  /**
   * Compares two recordings of one channel, rate and length.
   *
   * @return no values if fewer than 30 frames of the clean one hold sound
   */
  public static Intelligibility of(Audio clean, Audio processed) {
    return of(new Clean(clean), processed);
  }

  /** The same with the clean recording's side worked out before. */
  public static Intelligibility of(Clean clean, Audio processed) {
    if (clean.bands == null) {
      return new Intelligibility(new double[0], new double[0]);
    }
    double[][] yBands = bands(atRate(processed), clean.kept, clean.window, clean.edges);
    int stretches = clean.bands.length - STRETCH + 1;
    double[] seconds = new double[stretches];
    double[] values = new double[stretches];
    for (int m = 0; m < stretches; m++) {
      seconds[m] = (double) clean.kept[m + STRETCH / 2] / RATE;
      for (int j = 0; j < BANDS; j++) {
        values[m] += correlation(clean.bands, yBands, m, j) / BANDS;
      }
    }
    return new Intelligibility(seconds, values);
  }

  /** At 10 kHz; from high rates by way of a whole fraction, which is many times quicker. */
  private static Audio atRate(Audio audio) {
    Audio lower = new ReadAhead(DecimatedAudio.toAtLeast(audio, 11_000));
    return new ReadAhead(LinearTimeAudio.resample(lower, RATE));
  }

  private static float[] window() {
    float[] window = new float[FRAME];
    for (int i = 0; i < FRAME; i++) {
      window[i] = (float) (0.5 * (1 - Math.cos(2 * Math.PI * (i + 1) / (FRAME + 1))));
    }
    return window;
  }

  /** First samples of the frames within 40 dB of the strongest. */
  private static long[] audible(Audio x, float[] window) {
    int count = (int) Math.max(0, (x.frames() - FRAME) / HOP + 1);
    double[] level = new double[count];
    float[] frame = new float[FRAME];
    double strongest = 0;
    for (int t = 0; t < count; t++) {
      x.read(0, (long) t * HOP, frame, 0, FRAME);
      for (int i = 0; i < FRAME; i++) {
        level[t] += (double) frame[i] * frame[i] * window[i] * window[i];
      }
      strongest = Math.max(strongest, level[t]);
    }
    double limit = strongest * Db.toPower(-SILENT_DB);
    long[] kept = new long[count];
    int n = 0;
    for (int t = 0; t < count; t++) {
      if (level[t] > limit) {
        kept[n++] = (long) t * HOP;
      }
    }
    return Arrays.copyOf(kept, n);
  }

  private static int[] edges() {
    int[] edges = new int[2 * BANDS];
    double binHz = (double) RATE / TRANSFORM;
    for (int j = 0; j < BANDS; j++) {
      double middle = FIRST_HZ * Math.pow(2, j / 3.0);
      edges[2 * j] = (int) Math.round(middle * Math.pow(2, -1 / 6.0) / binHz);
      edges[2 * j + 1] = (int) Math.round(middle * Math.pow(2, 1 / 6.0) / binHz);
    }
    return edges;
  }

  /**
   * Envelopes of the bands, frame by frame: the kept frames are laid together again at half their
   * length, as if the silence had never been.
   */
  private static double[][] bands(Audio audio, long[] kept, float[] window, int[] edges) {
    double[][] bands = new double[kept.length - 1][BANDS];
    float[] spectrum = new float[TRANSFORM];
    float[] before = new float[FRAME];
    float[] own = new float[FRAME];
    float[] after = new float[FRAME];
    for (int t = 0; t < bands.length; t++) {
      windowed(audio, t == 0 ? -1 : kept[t - 1], window, before);
      windowed(audio, kept[t], window, own);
      windowed(audio, t + 1 < kept.length ? kept[t + 1] : -1, window, after);
      Arrays.fill(spectrum, 0);
      for (int i = 0; i < FRAME; i++) {
        float laid = own[i] + (i < HOP ? before[i + HOP] : after[i - HOP]);
        spectrum[i] = laid * window[i];
      }
      Fft.forward(spectrum);
      for (int j = 0; j < BANDS; j++) {
        double sum = 0;
        for (int k = edges[2 * j]; k < edges[2 * j + 1]; k++) {
          float re = spectrum[2 * k];
          float im = spectrum[2 * k + 1];
          sum += (double) re * re + (double) im * im;
        }
        bands[t][j] = Math.sqrt(sum);
      }
    }
    return bands;
  }

  private static void windowed(Audio audio, long from, float[] window, float[] into) {
    if (from < 0) {
      Arrays.fill(into, 0);
      return;
    }
    audio.read(0, from, into, 0, FRAME);
    for (int i = 0; i < FRAME; i++) {
      into[i] *= window[i];
    }
  }

  private static double correlation(double[][] x, double[][] y, int first, int band) {
    double xx = 0;
    double yy = 0;
    for (int t = first; t < first + STRETCH; t++) {
      xx += x[t][band] * x[t][band];
      yy += y[t][band] * y[t][band];
    }
    double scale = Math.sqrt(xx / Math.max(yy, 1e-30));
    double[] a = new double[STRETCH];
    double[] b = new double[STRETCH];
    double meanA = 0;
    double meanB = 0;
    for (int i = 0; i < STRETCH; i++) {
      a[i] = x[first + i][band];
      b[i] = Math.min(scale * y[first + i][band], CLIP * a[i]);
      meanA += a[i] / STRETCH;
      meanB += b[i] / STRETCH;
    }
    double ab = 0;
    double aa = 0;
    double bb = 0;
    for (int i = 0; i < STRETCH; i++) {
      ab += (a[i] - meanA) * (b[i] - meanB);
      aa += (a[i] - meanA) * (a[i] - meanA);
      bb += (b[i] - meanB) * (b[i] - meanB);
    }
    return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
  }
}
