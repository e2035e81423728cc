package kettlesieve.core.audio;

import kettlesieve.core.task.Stop;

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
    Inside inside = Inside.of(from, length, frames());
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
}
