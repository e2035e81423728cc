package kettlesieve.core.measure.cells;

import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.Framing;

/**
 * Spectra with phases, source beside version, of some 600 frames of a channel, evenly over the
 * recording: what is an average over it needs no more. A constant turn of a frequency (a filter, a
 * delay) is taken off the version.
 */
final class SampledFrames {
  /** Of a pair. */
  static final Analysis<SampledFrames> OF = SampledFrames::new;

  private static final int EVERY = 2;
  private static final int MOST_FRAMES = 600;

  /** Looks at a frame. */
  interface Look {
    /**
     * At one frame of one channel.
     *
     * @param channel its number
     * @param frame its number
     * @param source real and imaginary parts by bin, as {@link
     *     kettlesieve.core.signal.Spectrogram#coefficients} gives them; not to be changed
     * @param version the same, matched in level, turned to the source
     */
    void at(int channel, int frame, float[] source, float[] version);
  }

  private final int[] frames;
  private final float[][][] sources;
  private final float[][][] versions;

  private SampledFrames(Pair pair) {
    int all = pair.endFrame() - pair.firstFrame();
    int step = Math.max(EVERY, (all + MOST_FRAMES - 1) / MOST_FRAMES);
    this.frames = new int[(all + step - 1) / step];
    for (int i = 0; i < frames.length; i++) {
      frames[i] = pair.firstFrame() + i * step;
    }
    this.sources = new float[pair.channels()][frames.length][];
    this.versions = new float[pair.channels()][frames.length][];
    for (int c = 0; c < pair.channels(); c++) {
      for (int i = 0; i < frames.length; i++) {
        if (i % 64 == 0) {
          pair.stop().check();
        }
        sources[c][i] = pair.source().spectrum(c).coefficients(frames[i], 1)[0];
        versions[c][i] = pair.versionSpectrum(c).coefficients(frames[i], 1)[0];
      }
      turn(sources[c], versions[c], pair.framing(), Math.sqrt(pair.version().powerGain()));
    }
  }

  private static void turn(float[][] source, float[][] version, Framing framing, double gain) {
    for (int k = 1; k < framing.bins() - 1; k++) {
      double re = 0;
      double im = 0;
      for (int i = 0; i < source.length; i++) {
        float[] x = source[i];
        float[] y = version[i];
        re += (double) y[2 * k] * x[2 * k] + (double) y[2 * k + 1] * x[2 * k + 1];
        im += (double) y[2 * k + 1] * x[2 * k] - (double) y[2 * k] * x[2 * k + 1];
      }
      double size = Math.sqrt(re * re + im * im);
      float cos = (float) (size > 0 ? gain * re / size : gain);
      float sin = (float) (size > 0 ? gain * im / size : 0);
      for (float[] y : version) {
        float yr = y[2 * k];
        y[2 * k] = yr * cos + y[2 * k + 1] * sin;
        y[2 * k + 1] = y[2 * k + 1] * cos - yr * sin;
      }
    }
  }

  /** Has all frames looked at, channel by channel. */
  void each(Look look) {
    for (int c = 0; c < sources.length; c++) {
      for (int i = 0; i < frames.length; i++) {
        look.at(c, frames[i], sources[c][i], versions[c][i]);
      }
    }
  }

  /** Number of frames of a channel. */
  int count() {
    return frames.length;
  }
}
