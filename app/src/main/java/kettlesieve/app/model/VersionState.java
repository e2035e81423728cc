package kettlesieve.app.model;

import kettlesieve.core.media.Recording;

/**
 * How far a version has come.
 *
 * @param recording its file, read; null as long as it is not
 * @param prepared matched; null as long as it is not
 * @param problem why it cannot be used; null if it can
 */
public record VersionState(Recording recording, Prepared prepared, String problem) {
  /** Nothing is known yet. */
  public static final VersionState UNREAD = new VersionState(null, null, null);
}
