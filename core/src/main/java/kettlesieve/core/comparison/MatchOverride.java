package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;

/**
 * What a person fixed by hand instead of what was found; null means "as found".
 *
 * @param delaySamples how late the version is, in samples of the source
 * @param polarity 1 or −1
 * @param gainDb what is added to the version's level
 * @param driftPpm how much longer the version runs, in parts per million
 * @param ratio stretch: the version's length over the source's
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record MatchOverride(
    Double delaySamples, Integer polarity, Double gainDb, Double driftPpm, Double ratio) {
  /** Everything as found. */
  public static final MatchOverride NONE = new MatchOverride(null, null, null, null, null);

  public MatchOverride {
    if (polarity != null && Math.abs(polarity) != 1) {
      throw new IllegalArgumentException("polarity is 1 or −1");
    }
    if (ratio != null && !(ratio >= 0.1 && ratio <= 10)) {
      throw new IllegalArgumentException("a length ratio lies between 0.1 and 10");
    }
  }

  /** Whether nothing was set by hand. */
  @JsonIgnore
  public boolean none() {
    return equals(NONE);
  }

  /** The same with another delay samples. */
  public MatchOverride withDelaySamples(Double value) {
    return new MatchOverride(value, polarity, gainDb, driftPpm, ratio);
  }

  /** The same with another polarity. */
  public MatchOverride withPolarity(Integer value) {
    return new MatchOverride(delaySamples, value, gainDb, driftPpm, ratio);
  }

  /** The same with another gain db. */
  public MatchOverride withGainDb(Double value) {
    return new MatchOverride(delaySamples, polarity, value, driftPpm, ratio);
  }

  /** The same with another drift ppm. */
  public MatchOverride withDriftPpm(Double value) {
    return new MatchOverride(delaySamples, polarity, gainDb, value, ratio);
  }

  /** The same with another ratio. */
  public MatchOverride withRatio(Double value) {
    return new MatchOverride(delaySamples, polarity, gainDb, driftPpm, value);
  }
}
