package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;

/**
 * What a person fixed by hand instead of what was found; null means "as found".
 *
 * @param delaySamples how late the version is, in samples of the source
 * @param polarity 1 or −1
 * @param gainDb what is added to the version's level
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record MatchOverride(Double delaySamples, Integer polarity, Double gainDb) {
  /** Everything as found. */
  public static final MatchOverride NONE = new MatchOverride(null, null, null);

  public MatchOverride {
    if (polarity != null && Math.abs(polarity) != 1) {
      throw new IllegalArgumentException("polarity is 1 or −1");
    }
  }

  public boolean none() {
    return equals(NONE);
  }

  public MatchOverride withDelaySamples(Double value) {
    return new MatchOverride(value, polarity, gainDb);
  }

  public MatchOverride withPolarity(Integer value) {
    return new MatchOverride(delaySamples, value, gainDb);
  }

  public MatchOverride withGainDb(Double value) {
    return new MatchOverride(delaySamples, polarity, value);
  }
}
