package kettlesieve.core.listen;

/**
 * A range of frequencies to listen to.
 *
 * @param low Hz; 0 for no lower end
 * @param high Hz
 */
public record Band(double low, double high) {
  public Band {
    if (!(low >= 0) || !(high > low)) {
      throw new IllegalArgumentException("a band ends above its start");
    }
  }
}
