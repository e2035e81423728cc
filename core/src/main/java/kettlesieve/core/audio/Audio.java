package kettlesieve.core.audio;

/**
 * Sampled sound of any length, read in blocks.
 *
 * <p>Samples are floats with full scale ±1. Behind an {@code Audio} lies memory, a mapped file or a
 * view of another {@code Audio}; nothing may assume that a whole recording fits in an array.
 * Implementations are immutable and may be read from several threads at once.
 */
public interface Audio {

  /** Sampling frequency in Hz. */
  int sampleRate();

  /** Number of channels, at least 1. */
  int channels();

  /** Length in sample frames. */
  long frames();

  /**
   * Copies samples of one channel. Positions before the start or after the end read as zero.
   *
   * @param channel from 0 to {@code channels() - 1}
   * @param from first sample frame, may be negative
   * @param into receives {@code length} samples, beginning at {@code offset}
   */
  void read(int channel, long from, float[] into, int offset, int length);

  /** Length in seconds. */
  default double seconds() {
    return (double) frames() / sampleRate();
  }

  /** Reads {@code length} samples of a channel into a new array. */
  default float[] samples(int channel, long from, int length) {
    float[] block = new float[length];
    read(channel, from, block, 0, length);
    return block;
  }

  /**
   * One whole channel as an array, for recordings known to be short.
   *
   * @throws IllegalStateException if the channel has more samples than an array can hold
   */
  default float[] wholeChannel(int channel) {
    if (frames() > Integer.MAX_VALUE - 16) {
      throw new IllegalStateException("too long for one array: " + frames() + " frames");
    }
    return samples(channel, 0, (int) frames());
  }

  /**
   * Sound held in memory; one array a channel, all of the same length. The arrays are not copied.
   */
  static Audio of(int sampleRate, float[]... channels) {
    return new MemoryAudio(sampleRate, channels);
  }

  /** A view of the sample frames {@code from} (inclusive) to {@code to} (exclusive). */
  default Audio slice(long from, long to) {
    if (from == 0 && to == frames()) {
      return this;
    }
    return new SliceAudio(this, from, to);
  }

  /** A view with every sample multiplied by {@code factor} (negative: polarity inverted). */
  default Audio times(double factor) {
    return factor == 1 ? this : new GainAudio(this, (float) factor);
  }

  /** A view with one channel: the mean of all channels, or this if it has only one. */
  default Audio downmix() {
    return channels() == 1 ? this : new DownmixAudio(this);
  }

  /**
   * A view of one channel alone.
   *
   * @param channel from 0
   */
  static Audio only(Audio of, int channel) {
    return of.channels() == 1 ? of : new OneChannelAudio(of, channel);
  }

  /** A view with so many channels: this, or its downmix, once or several times over. */
  default Audio asChannels(int count) {
    if (count == channels()) {
      return this;
    }
    return count == 1 ? downmix() : new ChannelsAudio(downmix(), count);
  }
}
