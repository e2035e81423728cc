package kettlesieve.core.ground;

/**
 * One bit for each time–frequency cell. Frames without any take no room: in an hour of sound that
 * is most of it.
 */
public final class CellMask {
  private final long[][] rows;
  private final int words;

  /** Without any cell, for so many frames of so many bins. */
  public CellMask(int frames, int bins) {
    rows = new long[frames][];
    words = (bins + 63) / 64;
  }

  /** Takes a cell in. */
  public void set(int frame, int bin) {
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

  /**
   * The first bin of a frame that belongs to the set, from one on; −1 if there is none. Most cells
   * belong to nothing: who goes from one to the next passes over them 64 at a time.
   */
  public int next(int frame, int from) {
    long[] row = rows[frame];
    int word = from >> 6;
    if (row == null || word >= row.length) {
      return -1;
    }
    long left = row[word] & -1L << from;
    while (left == 0) {
      if (++word == row.length) {
        return -1;
      }
      left = row[word];
    }
    return (word << 6) + Long.numberOfTrailingZeros(left);
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
