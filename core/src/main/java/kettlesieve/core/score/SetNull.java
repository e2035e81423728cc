package kettlesieve.core.score;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What stems of several tools together leave of the mix.
 *
 * @param stems id of the version that each role is taken from
 * @param db power of the mix minus their sum over that of the mix, dB
 */
public record SetNull(Map<String, String> stems, double db) {
  public SetNull {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
  }
}
