package kettlesieve.core.measure;

import kettlesieve.core.match.MapFit;
import kettlesieve.core.match.StretchedVersion;

/**
 * A stretched or shifted version beside its source.
 *
 * @param source what belongs to the source, the same object for all versions
 * @param version in its own time
 * @param ratio the length asked for over the source's
 * @param pitch the frequency ratio asked for; 1 where pitch is to stay
 */
public record Warp(SourceAnalysis source, StretchedVersion version, double ratio, double pitch)
    implements Subject {
  @Override
  public String words() {
    return "a version in its own time";
  }

  @Override
  public boolean hasReference() {
    return false;
  }

  /** How the source's time runs in the version. */
  public MapFit fit() {
    return version.fit();
  }
}
