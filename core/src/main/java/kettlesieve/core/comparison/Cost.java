package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;

/**
 * What making a version takes; null for what is not known.
 *
 * @param seconds processing time by the clock
 * @param processorSeconds processor time over all cores
 * @param price as the person writes it, such as "120 €" or "free"
 * @param realTime whether the tool can run while the sound plays; false: only offline
 * @param memoryBytes the most memory that its processes held at once
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Cost(
    Double seconds, Double processorSeconds, String price, Boolean realTime, Long memoryBytes) {
  /** Nothing is known. */
  public static final Cost NONE = new Cost(null, null, null, null, null);

  public Cost {
    if (seconds != null && !(seconds >= 0)
        || processorSeconds != null && !(processorSeconds >= 0)) {
      throw new IllegalArgumentException("a time is not below zero");
    }
    if (memoryBytes != null && memoryBytes < 0) {
      throw new IllegalArgumentException("memory is not below zero");
    }
    price = price == null || price.isBlank() ? null : price.strip();
  }

  /** Where nobody has seen how much memory it takes. */
  public Cost(Double seconds, Double processorSeconds, String price, Boolean realTime) {
    this(seconds, processorSeconds, price, realTime, null);
  }

  /** Whether nothing is known. */
  @JsonIgnore
  public boolean none() {
    return equals(NONE);
  }

  /** This, with what is not known taken from another. */
  public Cost or(Cost other) {
    return new Cost(
        seconds != null ? seconds : other.seconds,
        processorSeconds != null ? processorSeconds : other.processorSeconds,
        price != null ? price : other.price,
        realTime != null ? realTime : other.realTime,
        memoryBytes != null ? memoryBytes : other.memoryBytes);
  }

  /** The same with another seconds. */
  public Cost withSeconds(Double value) {
    return new Cost(value, processorSeconds, price, realTime, memoryBytes);
  }

  /** The same with another processor seconds. */
  public Cost withProcessorSeconds(Double value) {
    return new Cost(seconds, value, price, realTime, memoryBytes);
  }

  /** The same with another price. */
  public Cost withPrice(String value) {
    return new Cost(seconds, processorSeconds, value, realTime, memoryBytes);
  }

  /** The same with another real time. */
  public Cost withRealTime(Boolean value) {
    return new Cost(seconds, processorSeconds, price, value, memoryBytes);
  }
}
