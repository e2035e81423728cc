package kettlesieve.core.audio;

/** A part of another recording; outside the part it is silent. */
final class SliceAudio implements Audio {
  private final Audio of;
  private final long start;
  private final long frames;

  SliceAudio(Audio of, long from, long to) {
    if (to < from) {
      throw new IllegalArgumentException("a slice cannot end before it begins");
    }
    this.of = of;
    this.start = from;
    this.frames = to - from;
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
    return frames;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    Inside inside = Inside.of(from, length, frames);
    inside.clearAround(into, offset, length);
    of.read(
        channel, start + from + inside.skipped(), into, offset + inside.skipped(), inside.length());
  }
}
