package kettlesieve.core.audio;

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
    // Summed from 0 on: places counted from elsewhere take half as long again.
    float[] sum = offset == 0 ? into : new float[length];
    of.read(0, from, sum, 0, length);
    float[] other = new float[length];
    int channels = of.channels();
    for (int c = 1; c < channels; c++) {
      of.read(c, from, other, 0, length);
      for (int i = 0; i < length; i++) {
        sum[i] += other[i];
      }
    }
    for (int i = 0; i < length; i++) {
      sum[i] /= channels;
    }
    if (offset != 0) {
      System.arraycopy(sum, 0, into, offset, length);
    }
  }
}
