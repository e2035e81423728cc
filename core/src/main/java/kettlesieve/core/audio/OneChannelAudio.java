package kettlesieve.core.audio;

/** One channel of another recording. */
record OneChannelAudio(Audio of, int channel) implements Audio {
  @Override
  public int sampleRate() {
    return of.sampleRate();
  }

  @Override
  public int channels() {
    return 1;
  }

  @Override
  public long frames() {
    return of.frames();
  }

  @Override
  public void read(int ignored, long from, float[] into, int offset, int length) {
    of.read(channel, from, into, offset, length);
  }
}
