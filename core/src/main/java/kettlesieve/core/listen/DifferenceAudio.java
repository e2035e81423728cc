package kettlesieve.core.listen;

import kettlesieve.core.signal.Audio;

/** What a version took out: the source minus the matched version. */
public final class DifferenceAudio implements Audio {
  private final Audio source;
  private final Audio version;

  /**
   * @param source the source
   * @param version on the source's time, polarity and level; its channels are fitted to the
   *     source's
   */
  public DifferenceAudio(Audio source, Audio version) {
    this.source = source;
    this.version = version.asChannels(source.channels());
  }

  @Override
  public int sampleRate() {
    return source.sampleRate();
  }

  @Override
  public int channels() {
    return source.channels();
  }

  @Override
  public long frames() {
    return source.frames();
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    source.read(channel, from, into, offset, length);
    float[] other = version.samples(channel, from, length);
    for (int i = 0; i < length; i++) {
      into[offset + i] -= other[i];
    }
  }
}
