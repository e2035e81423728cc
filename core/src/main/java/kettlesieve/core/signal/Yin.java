package kettlesieve.core.signal;

import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.ReadAhead;
import kettlesieve.core.task.Stop;

/**
 * Fundamental frequency of a single voice at any moment: the first clear minimum of the cumulative
 * mean normalised difference function (de Cheveigné &amp; Kawahara, "YIN, a fundamental frequency
 * estimator for speech and music", J. Acoust. Soc. Am. 111, 2002), window 25 ms, threshold 0.15,
 * parabolic interpolation, on the recording brought to about 11 kHz. Where half or a third of the
 * lag that was found is nearly as clear, that is taken: it would be called an octave too low. For
 * one thread.
 */
public final class Yin {
  private static final double THRESHOLD = 0.15;
  private static final double NEARLY = 0.25;
  private static final double ROUGH = 0.4;
  private static final double NEAR = Math.pow(2, 3 / 12.0);
  private static final double WINDOW_SECONDS = 0.025;
  private static final int LEAST_RATE = 11_000;
  private static final double SILENT_POWER = 1e-9;

  private final Audio audio;
  private final int window;
  private final int shortest;
  private final int longest;
  private long last = Long.MIN_VALUE;
  private double[] known;

  /**
   * @param mono one channel
   * @param lowHz lowest frequency that is looked for
   * @param highHz highest
   */
  public Yin(Audio mono, double lowHz, double highHz) {
    this.audio = new ReadAhead(DecimatedAudio.toAtLeast(mono, LEAST_RATE));
    this.window = (int) Math.round(WINDOW_SECONDS * audio.sampleRate());
    this.shortest = Math.max(2, (int) Math.floor(audio.sampleRate() / highHz));
    this.longest = (int) Math.ceil(audio.sampleRate() / lowHz);
  }

  /**
   * The fundamental frequency around a moment.
   *
   * @param seconds middle of what is looked at
   * @return Hz; NaN where nothing is voiced
   */
  public double at(double seconds) {
    double[] difference = difference(seconds);
    for (int lag = shortest; lag <= longest; lag++) {
      if (difference[lag] < THRESHOLD) {
        int found = lowest(difference, lag);
        return hz(difference, shorter(difference, found));
      }
    }
    return Double.NaN;
  }

  /**
   * The fundamental frequency where it is expected, for a voice that is rough or damaged.
   *
   * @param seconds middle of what is looked at
   * @param expectedHz within three semitones of which it is looked for
   * @return Hz; NaN where nothing is voiced there
   */
  public double near(double seconds, double expectedHz) {
    double[] difference = difference(seconds);
    int from = Math.max(shortest, (int) (audio.sampleRate() / expectedHz / NEAR));
    int to = Math.min(longest - 1, (int) Math.ceil(audio.sampleRate() / expectedHz * NEAR));
    int best = from;
    for (int lag = from; lag <= to; lag++) {
      best = difference[lag] < difference[best] ? lag : best;
    }
    boolean minimum = best > from && best < to && difference[best] < ROUGH;
    return minimum ? hz(difference, best) : Double.NaN;
  }

  /** Two or three periods are as alike as one: where one is nearly as clear, it is the one. */
  private int shorter(double[] difference, int found) {
    for (int part = 3; part >= 2; part--) {
      int at = Math.round((float) found / part);
      int best = at;
      for (int lag = at - part; lag <= at + part; lag++) {
        best = lag >= shortest && difference[lag] < difference[best] ? lag : best;
      }
      if (best >= shortest
          && difference[best] < NEARLY
          && difference[best] <= difference[best - 1]
          && difference[best] <= difference[best + 1]) {
        return best;
      }
    }
    return found;
  }

  private static int lowest(double[] difference, int from) {
    int lag = from;
    while (difference[lag + 1] < difference[lag]) {
      lag++;
    }
    return lag;
  }

  private double hz(double[] difference, int lag) {
    return audio.sampleRate() / (lag + fraction(difference, lag));
  }

  /** The cumulative mean normalised difference by lag; 1 where it is silent. */
  private double[] difference(double seconds) {
    Stop.checkHere();
    int length = window + longest + 1;
    long from = Math.round(seconds * audio.sampleRate()) - length / 2;
    if (from != last) {
      known = difference(audio.samples(0, from, length));
      last = from;
    }
    return known;
  }

  private double[] difference(float[] x) {
    double[] difference = new double[longest + 2];
    double power = 0;
    for (float v : x) {
      power += v * v;
    }
    if (power < SILENT_POWER * x.length) {
      Arrays.fill(difference, 1);
      return difference;
    }
    float[] sums = new float[longest + 1];
    for (int j = 0; j < window; j++) {
      addSquares(x, j, sums);
    }
    double running = 0;
    difference[0] = 1;
    for (int lag = 1; lag <= longest; lag++) {
      running += sums[lag];
      difference[lag] = running > 0 ? sums[lag] * lag / running : 1;
    }
    difference[longest + 1] = Double.POSITIVE_INFINITY;
    return difference;
  }

  /** Over the lags, not over the window: sums along one index only become vector code. */
  private static void addSquares(float[] x, int at, float[] sums) {
    float own = x[at];
    for (int lag = 0; lag < sums.length; lag++) {
      float d = own - x[at + lag];
      sums[lag] += d * d;
    }
  }

  private double fraction(double[] y, int at) {
    if (at <= 1 || at >= longest) {
      return 0;
    }
    double bend = y[at - 1] - 2 * y[at] + y[at + 1];
    return bend > 0 ? 0.5 * (y[at - 1] - y[at + 1]) / bend : 0;
  }
}
