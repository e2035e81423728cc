package kettlesieve.core.audio;

/** Another recording, louder or quieter by a fixed factor. */
final class GainAudio implements Audio {
  private final Audio of;
  private final float factor;

  GainAudio(Audio of, float factor) {
    this.of = of;
    this.factor = factor;
  }

  @Override
  public int sampleRate() {
    return of.sampleRate();
  }

  @Override
  public int channels() {
    return of.channels();
  }

  @Override
  public long frames() {
    return of.frames();
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    of.read(channel, from, into, offset, length);
    for (int i = offset; i < offset + length; i++) {
      into[i] *= factor;
    }
  }
}
