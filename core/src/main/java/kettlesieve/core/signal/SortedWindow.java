package kettlesieve.core.signal;

import java.util.Arrays;

/** Values of a window that slides, in rising order: for running quantiles. */
public final class SortedWindow {
  private final float[] sorted;
  private int size;

  /**
   * An empty window.
   *
   * @param most values that it may hold at a time
   */
  public SortedWindow(int most) {
    sorted = new float[most];
  }

  /** Takes a value in, NaN after all others; an {@link IndexOutOfBoundsException} when full. */
  public void add(float value) {
    int place = place(value);
    System.arraycopy(sorted, place, sorted, place + 1, size - place);
    sorted[place] = value;
    size++;
  }

  /** Takes one value of this size out; an {@link IllegalArgumentException} where there is none. */
  public void remove(float value) {
    int place = Arrays.binarySearch(sorted, 0, size, value);
    if (place < 0) {
      throw new IllegalArgumentException(value + " is not in the window");
    }
    size--;
    System.arraycopy(sorted, place + 1, sorted, place, size - place);
  }

  private int place(float value) {
    int found = Arrays.binarySearch(sorted, 0, size, value);
    return found < 0 ? -found - 1 : found;
  }

  public int size() {
    return size;
  }

  /**
   * The value at a place in rising order.
   *
   * @param place from 0 to {@link #size()} − 1
   */
  public float at(int place) {
    return sorted[place];
  }
}
