package kettlesieve.core.measure;

/**
 * Where a reading stands: everything that shows, selects, exports or marks one uses it.
 *
 * @param version id of the version
 * @param part what of it was measured
 * @param measure id of the measure
 * @param against the offending role of a share; empty for the reading itself
 */
public record Address(String version, Part part, String measure, String against) {
  /** A reading of a version as a whole. */
  public static Address of(String version, String measure) {
    return new Address(version, Part.ALL, measure, "");
  }
}
