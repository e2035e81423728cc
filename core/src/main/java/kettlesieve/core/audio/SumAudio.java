package kettlesieve.core.audio;

import java.util.List;

/**
 * Recordings added together, each with a sign: stems put together again, a mix without some of
 * them, what a version took out. It has the rate, length and channels of the first.
 */
public final class SumAudio implements Audio {
  private final List<Audio> parts;
  private final int positive;

  private SumAudio(List<Audio> parts, int positive) {
    this.parts = parts;
    this.positive = positive;
  }

  /**
   * The sum of recordings of one rate; channels are fitted to those of the first.
   *
   * @throws IllegalArgumentException if there are none
   */
  public static Audio of(List<Audio> parts) {
    if (parts.isEmpty()) {
      throw new IllegalArgumentException("a sum needs a part");
    }
    return parts.size() == 1 ? parts.get(0) : fitted(parts.get(0), parts, parts.size());
  }

  /** The first recording minus all the others. */
  public static Audio remainder(Audio whole, List<Audio> without) {
    List<Audio> parts = new java.util.ArrayList<>();
    parts.add(whole);
    parts.addAll(without);
    return fitted(whole, parts, 1);
  }

  private static Audio fitted(Audio first, List<Audio> parts, int positive) {
    int channels = first.channels();
    return new SumAudio(parts.stream().map(p -> p.asChannels(channels)).toList(), positive);
  }

  @Override
  public int sampleRate() {
    return parts.get(0).sampleRate();
  }

  @Override
  public int channels() {
    return parts.get(0).channels();
  }

  @Override
  public long frames() {
    return parts.get(0).frames();
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    // Summed from 0 on: places counted from elsewhere take half as long again.
    float[] sum = offset == 0 ? into : new float[length];
    parts.get(0).read(channel, from, sum, 0, length);
    float[] other = new float[length];
    for (int p = 1; p < parts.size(); p++) {
      parts.get(p).read(channel, from, other, 0, length);
      if (p < positive) {
        for (int i = 0; i < length; i++) {
          sum[i] += other[i];
        }
      } else {
        for (int i = 0; i < length; i++) {
          sum[i] -= other[i];
        }
      }
    }
    if (offset != 0) {
      System.arraycopy(sum, 0, into, offset, length);
    }
  }
}
