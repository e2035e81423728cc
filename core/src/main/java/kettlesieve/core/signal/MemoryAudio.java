package kettlesieve.core.signal;

import java.util.Arrays;

/** Samples held in arrays, one a channel. */
final class MemoryAudio implements Audio {
  private final int sampleRate;
  private final float[][] samples;

  MemoryAudio(int sampleRate, float[][] samples) {
    if (sampleRate <= 0 || samples.length == 0) {
      throw new IllegalArgumentException("a rate over 0 and one channel or more are needed");
    }
    for (float[] channel : samples) {
      if (channel.length != samples[0].length) {
        throw new IllegalArgumentException("all channels must have the same length");
      }
    }
    this.sampleRate = sampleRate;
    this.samples = samples;
  }

  @Override
  public int sampleRate() {
    return sampleRate;
  }

  @Override
  public int channels() {
    return samples.length;
  }

  @Override
  public long frames() {
    return samples[0].length;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    Stop.checkHere();
    Span inside = Span.clip(from, length, frames());
    inside.clearAround(into, offset, length);
    if (inside.length() > 0) {
      System.arraycopy(
          samples[channel],
          (int) (from + inside.skipped()),
          into,
          offset + inside.skipped(),
          inside.length());
    }
  }

  /** The part of a request that lies inside a recording. */
  record Span(int skipped, int length) {
    static Span clip(long from, int length, long frames) {
      long first = Math.max(0, from);
      long last = Math.min(frames, from + length);
      return last <= first ? new Span(0, 0) : new Span((int) (first - from), (int) (last - first));
    }

    /** Zeros before and after it, where a request reaches over the ends; what is inside stays. */
    void clearAround(float[] into, int offset, int requested) {
      Arrays.fill(into, offset, offset + skipped, 0f);
      Arrays.fill(into, offset + skipped + length, offset + requested, 0f);
    }
  }
}
