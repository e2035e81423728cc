package kettlesieve.core.signal;

import kettlesieve.core.audio.Audio;

/**
 * How a recording is cut into frames: Hann window, length the power of two not below 0.030·rate,
 * hop a quarter of it. Only whole frames count: padded edges would invent pauses.
 *
 * @param sampleRate Hz
 * @param length samples in a frame
 * @param hop samples from one frame to the next
 * @param count number of whole frames
 */
public record Framing(int sampleRate, int length, int hop, int count) {

  /** The project's standard framing of a recording. */
  public static Framing of(Audio audio) {
    int length = Fft.powerOfTwo((long) Math.ceil(0.030 * audio.sampleRate()));
    int hop = length / 4;
    long frames = audio.frames();
    int count = frames < length ? 0 : Math.toIntExact((frames - length) / hop + 1);
    return new Framing(audio.sampleRate(), length, hop, count);
  }

  /** Number of frequency bins, from 0 Hz to half the rate. */
  public int bins() {
    return length / 2 + 1;
  }

  /** Distance between bins, Hz. */
  public double binHz() {
    return (double) sampleRate / length;
  }

  /** Seconds from one frame to the next. */
  public double hopSeconds() {
    return (double) hop / sampleRate;
  }

  /** Time of a frame's middle, seconds from the start. */
  public double centreSeconds(int frame) {
    return ((double) frame * hop + length / 2.0) / sampleRate;
  }

  /** Time of a frame's first sample, seconds from the start. */
  public double startSeconds(int frame) {
    return (double) frame * hop / sampleRate;
  }

  /** Time just after a frame's last sample, seconds from the start. */
  public double endSeconds(int frame) {
    return ((double) frame * hop + length) / sampleRate;
  }

  /** The lowest bin at or above a frequency. */
  public int binAtOrAbove(double hz) {
    return Math.min(bins() - 1, Math.max(0, (int) Math.ceil(hz / binHz() - 1e-9)));
  }

  /** The highest bin at or below a frequency. */
  public int binAtOrBelow(double hz) {
    return Math.min(bins() - 1, Math.max(0, (int) Math.floor(hz / binHz() + 1e-9)));
  }

  /** The whole number of frames nearest to a duration, at least 1. */
  public int framesIn(double seconds) {
    return (int) Math.max(1, Math.round(seconds / hopSeconds()));
  }
}
