package kettlesieve.app.model;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.media.Recording;

/**
 * How far a version has come.
 *
 * @param recordings its files that were read, by role; one file alone stands under ""
 * @param prepared matched; null as long as it is not
 * @param problem why it cannot be used; null if it can
 */
public record VersionState(Map<String, Recording> recordings, Prepared prepared, String problem) {
  /** Nothing is known yet. */
  public static final VersionState UNREAD = new VersionState(Map.of(), null, null);

  public VersionState {
    recordings = Collections.unmodifiableMap(new LinkedHashMap<>(recordings));
  }

  /** Its first file; null as long as none is read. */
  public Recording recording() {
    return recordings.isEmpty() ? null : recordings.values().iterator().next();
  }
}
