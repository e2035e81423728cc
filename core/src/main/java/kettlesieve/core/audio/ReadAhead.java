package kettlesieve.core.audio;

/**
 * One channel of a recording that is dear to read, read in large pieces: for frames that overlap
 * and are asked for in order. For one thread.
 */
public final class ReadAhead implements Audio {
  private static final int PIECE = 1 << 16;
  private static final int MOST_KEPT = 1 << 12;

  private final Audio of;
  private float[] piece = new float[0];
  private long from;

  /**
   * @param of one channel
   */
  public ReadAhead(Audio of) {
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
  public void read(int channel, long first, float[] into, int offset, int length) {
    if (first < from || first + length > from + piece.length) {
      // A little is kept before the place, for the frame that was asked for before; who asks for
      // pieces as large as these goes through from end to end.
      int kept = Math.min(length, MOST_KEPT);
      from = first - kept;
      piece = of.samples(0, from, kept + Math.max(PIECE, length));
    }
    System.arraycopy(piece, (int) (first - from), into, offset, length);
  }
}
