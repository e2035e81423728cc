package kettlesieve.core.match;

/**
 * One bit for each time–frequency cell. Frames without any take no room: in an hour of sound that
 * is most of it.
 */
public final class CellMask {
  private final long[][] rows;
  private final int words;

  CellMask(int frames, int bins) {
    rows = new long[frames][];
    words = (bins + 63) / 64;
  }

  void set(int frame, int bin) {
    if (rows[frame] == null) {
      rows[frame] = new long[words];
    }
    rows[frame][bin >> 6] |= 1L << bin;
  }

  /** Whether a cell belongs to the set. */
  public boolean has(int frame, int bin) {
    long[] row = rows[frame];
    return row != null && (row[bin >> 6] >> bin & 1) != 0;
  }

  /** Number of cells of one frame within a range of bins, both ends included. */
  public int count(int frame, int lowBin, int highBin) {
    int count = 0;
    for (int k = lowBin; k <= highBin; k++) {
      count += has(frame, k) ? 1 : 0;
    }
    return count;
  }
}
