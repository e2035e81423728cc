package kettlesieve.core.measure;

/**
 * A measure that gave no reading.
 *
 * @param measure its id
 * @param reason why, in plain words
 */
public record NotMeasured(String measure, String reason) {}
