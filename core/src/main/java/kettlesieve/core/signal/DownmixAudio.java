package kettlesieve.core.signal;

/** The mean of all channels of another recording. */
final class DownmixAudio implements Audio {
  private final Audio of;

  DownmixAudio(Audio of) {
    this.of = of;
  }

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
  public void read(int channel, long from, float[] into, int offset, int length) {
    of.read(0, from, into, offset, length);
    float[] other = new float[length];
    for (int c = 1; c < of.channels(); c++) {
      of.read(c, from, other, 0, length);
      for (int i = 0; i < length; i++) {
        into[offset + i] += other[i];
      }
    }
    for (int i = offset; i < offset + length; i++) {
      into[i] /= of.channels();
    }
  }
}
