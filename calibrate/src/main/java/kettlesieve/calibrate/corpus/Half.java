package kettlesieve.calibrate.corpus;

import com.fasterxml.jackson.annotation.JsonProperty;

/** Which half of the corpus: no voice and no noise is in both. */
public enum Half {
  /** Definitions, scales and weights are set on it. */
  @JsonProperty("setting")
  SETTING,
  /** What was set is judged on it. */
  @JsonProperty("reporting")
  REPORTING;

  /** For people. */
  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
