package kettlesieve.core.audio;

/** One channel shown as several equal ones. */
record ChannelsAudio(Audio mono, int channels) implements Audio {
  @Override
  public int sampleRate() {
    return mono.sampleRate();
  }

  @Override
  public long frames() {
    return mono.frames();
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    mono.read(0, from, into, offset, length);
  }
}
