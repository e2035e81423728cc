package kettlesieve.core.signal;

import java.util.function.IntFunction;
import kettlesieve.core.task.Stop;

/**
 * Moving means over squares of time–frequency cells, row by row; at the edges the mean is over the
 * cells that exist.
 */
public final class BoxMean {
  private final int frameRadius;
  private final int radius;
  private final int count;
  private final IntFunction<float[]> rows;
  private final float[] columns;
  private final float[] mean;
  private final float[] shifted;

  /**
   * @param radius cells on each side: 1 for 3×3, 2 for 5×5
   * @param bins length of a row
   * @param count number of rows
   * @param rows gives a row; asked for each row several times
   */
  public BoxMean(int radius, int bins, int count, IntFunction<float[]> rows) {
    this(radius, radius, bins, count, rows);
  }

  /**
   * Means over rectangles.
   *
   * @param frameRadius frames on each side
   * @param binRadius bins on each side
   * @param bins length of a row
   * @param count number of rows
   * @param rows gives a row; asked for each row several times
   */
  public BoxMean(int frameRadius, int binRadius, int bins, int count, IntFunction<float[]> rows) {
    this.frameRadius = frameRadius;
    this.radius = binRadius;
    this.count = count;
    this.rows = rows;
    this.columns = new float[bins];
    this.mean = new float[bins];
    this.shifted = new float[bins];
  }

  /** The means around the cells of one row; the array is used again by the next call. */
  public float[] row(int t) {
    Stop.checkHere();
    int first = Math.max(0, t - frameRadius);
    int last = Math.min(count - 1, t + frameRadius);
    System.arraycopy(rows.apply(first), 0, columns, 0, columns.length);
    for (int i = first + 1; i <= last; i++) {
      float[] row = rows.apply(i);
      for (int k = 0; k < columns.length; k++) {
        columns[k] += row[k];
      }
    }
    int height = last - first + 1;
    int bins = columns.length;
    int inner = Math.min(radius, bins);
    for (int k = 0; k < inner; k++) {
      mean[k] = edge(k, height);
    }
    for (int k = Math.max(inner, bins - radius); k < bins; k++) {
      mean[k] = edge(k, height);
    }
    float share = 1f / (height * (2 * radius + 1));
    System.arraycopy(columns, 0, mean, radius, Math.max(0, bins - 2 * radius));
    for (int shift = 1; shift <= 2 * radius; shift++) {
      // Copied into place first: sums along one index become vector code, others do not.
      System.arraycopy(columns, shift, shifted, radius, Math.max(0, bins - 2 * radius));
      for (int k = radius; k < bins - radius; k++) {
        mean[k] += shifted[k];
      }
    }
    for (int k = radius; k < bins - radius; k++) {
      mean[k] *= share;
    }
    return mean;
  }

  private float edge(int k, int height) {
    int low = Math.max(0, k - radius);
    int high = Math.min(columns.length - 1, k + radius);
    float sum = 0;
    for (int i = low; i <= high; i++) {
      sum += columns[i];
    }
    return sum / (height * (high - low + 1));
  }
}
