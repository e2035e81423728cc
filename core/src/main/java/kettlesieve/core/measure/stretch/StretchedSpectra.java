package kettlesieve.core.measure.stretch;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/**
 * Power spectra of a source and of a version in its own time, by block of the source, of windows of
 * about 0.2 s around the same moments.
 */
public final class StretchedSpectra {
  /** Of a version. */
  public static final StretchedPair.OfStretched<StretchedSpectra> OF = StretchedSpectra::new;

  private static final double SECONDS = 0.19;

  private final double binHz;
  private final float[][] source;
  private final float[][] version;

  private StretchedSpectra(StretchedPair warp) {
    Audio before = warp.source().source().whole().downmix();
    Audio after = warp.version().audio().downmix();
    int length = Fft.powerOfTwo((long) (SECONDS * before.sampleRate()));
    this.binHz = (double) before.sampleRate() / length;
    int blocks = warp.source().timeline().blocks();
    this.source = new float[blocks][length / 2];
    this.version = new float[blocks][length / 2];
    float[] window = Windows.hann(length);
    double start = warp.source().source().startSeconds();
    double end = start + warp.source().source().audio().seconds();
    double step = length / 2.0 / before.sampleRate();
    for (double at = start + step; at + step <= Math.max(end, start + 2 * step); at += step) {
      double there = warp.fit().map().at(at);
      if (there < step || there + step > after.seconds()) {
        continue;
      }
      int block = warp.source().timeline().block(warp.frame(at));
      add(before, at, window, source[block]);
      add(after, there, window, version[block]);
    }
  }

  private static void add(Audio audio, double seconds, float[] window, float[] sum) {
    float[] x = new float[window.length];
    audio.read(0, Math.round(seconds * audio.sampleRate()) - x.length / 2, x, 0, x.length);
    for (int i = 0; i < x.length; i++) {
      x[i] *= window[i];
    }
    Fft.forward(x);
    for (int k = 1; k < sum.length; k++) {
      sum[k] += x[2 * k] * x[2 * k] + x[2 * k + 1] * x[2 * k + 1];
    }
  }

  /**
   * Power between two frequencies.
   *
   * @param ofVersion of the version, or of the source
   * @param weights how often each block counts
   */
  public double power(boolean ofVersion, int[] weights, double lowHz, double highHz) {
    float[][] spectra = ofVersion ? version : source;
    int from = Math.max(1, (int) Math.ceil(lowHz / binHz));
    int to = Math.min(spectra[0].length, (int) Math.ceil(highHz / binHz));
    double sum = 0;
    for (int b = 0; b < weights.length; b++) {
      if (weights[b] > 0) {
        double block = 0;
        for (int k = from; k < to; k++) {
          block += spectra[b][k];
        }
        sum += weights[b] * block;
      }
    }
    return sum;
  }

  /**
   * The same by block, for who asks for one range under many weights.
   *
   * @return by block
   */
  public double[] blocks(boolean ofVersion, double lowHz, double highHz) {
    double[] powers = new double[source.length];
    int[] one = new int[source.length];
    for (int b = 0; b < powers.length; b++) {
      one[b] = 1;
      powers[b] = power(ofVersion, one, lowHz, highHz);
      one[b] = 0;
    }
    return powers;
  }
}
