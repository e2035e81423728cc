package kettlesieve.core.picture;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/** Levels for the picture of a spectrogram: one transform a column, whatever the zoom. */
public final class SpectrumColumns {
  private SpectrumColumns() {}

  /**
   * Levels in dB by column and row, row 0 at the bottom.
   *
   * @param audio read on its first channel, or its downmix if it has several
   * @param fromSeconds time of the first column
   * @param secondsPerColumn step
   * @param topHz frequency at the top row
   * @return levels of the strongest bin in each row's range; −∞ is given as −200
   */
  public static float[][] levels(
      Audio audio,
      double fromSeconds,
      double secondsPerColumn,
      int columns,
      int rows,
      FrequencyScale scale,
      double topHz) {
    double[] middles = new double[columns];
    for (int c = 0; c < columns; c++) {
      middles[c] = fromSeconds + (c + 0.5) * secondsPerColumn;
    }
    return levels(audio, middles, rows, scale, topHz);
  }

  /**
   * Levels in dB by column and row, row 0 at the bottom, of moments anywhere in a recording.
   *
   * @param seconds the moments
   * @return levels of the strongest bin in each row's range; −∞ is given as −200
   */
  public static float[][] levels(
      Audio audio, double[] seconds, int rows, FrequencyScale scale, double topHz) {
    return levels(audio, seconds, rows, scale, topHz, 0);
  }

  /** Samples of a window of about 30 ms at a rate: what is drawn if nothing else is asked. */
  public static int usualWindow(int sampleRate) {
    return Fft.powerOfTwo((long) Math.ceil(0.030 * sampleRate));
  }

  /**
   * The level at one moment and frequency, as a picture with the same window shows it.
   *
   * @param window samples of the window, a power of two; 0 for the usual
   * @return dB of the bin that is nearest; −∞ is given as −200
   */
  public static double level(Audio audio, double seconds, double hz, int window) {
    int length = window > 0 ? window : usualWindow(audio.sampleRate());
    double[] powers = new double[length / 2];
    powers(audio.downmix(), seconds, Windows.hann(length), new float[length], powers);
    int k = bin(hz * length / audio.sampleRate(), length);
    return Db.ofPower(Math.max(1e-20, powers[k]));
  }

  /** Powers of all bins around a moment; a full-scale sine is 0 dB. */
  private static void powers(
      Audio mono, double seconds, float[] window, float[] frame, double[] powers) {
    int length = window.length;
    double norm = 4.0 / ((double) length * length);
    mono.read(0, Math.round(seconds * mono.sampleRate()) - length / 2, frame, 0, length);
    for (int i = 0; i < length; i++) {
      frame[i] *= window[i];
    }
    Fft.forward(frame);
    for (int k = 1; k < length / 2; k++) {
      double re = frame[2 * k];
      double im = frame[2 * k + 1];
      powers[k] = (re * re + im * im) * norm * 4;
    }
  }

  /**
   * The same with a window of one's own.
   *
   * @param window samples of the window, a power of two; 0 for the usual
   */
  public static float[][] levels(
      Audio audio, double[] seconds, int rows, FrequencyScale scale, double topHz, int window) {
    Audio mono = audio.downmix();
    int columns = seconds.length;
    int rate = mono.sampleRate();
    int length = window > 0 ? window : usualWindow(rate);
    float[] shape = Windows.hann(length);
    int[] first = new int[rows];
    int[] last = new int[rows];
    double binHz = (double) rate / length;
    for (int r = 0; r < rows; r++) {
      first[r] = bin(scale.hz((double) r / rows, topHz) / binHz, length);
      last[r] = Math.max(first[r], bin(scale.hz((r + 1.0) / rows, topHz) / binHz, length));
    }
    float[][] levels = new float[columns][rows];
    float[] frame = new float[length];
    double[] powers = new double[length / 2];
    for (int c = 0; c < columns; c++) {
      powers(mono, seconds[c], shape, frame, powers);
      for (int r = 0; r < rows; r++) {
        double strongest = 1e-20;
        for (int k = first[r]; k <= last[r]; k++) {
          strongest = Math.max(strongest, powers[k]);
        }
        levels[c][r] = (float) Db.ofPower(strongest);
      }
    }
    return levels;
  }

  private static int bin(double position, int length) {
    return Math.max(1, Math.min(length / 2 - 1, (int) Math.round(position)));
  }
}
