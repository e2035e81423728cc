package kettlesieve.core.measure;

/**
 * A further figure of a reading.
 *
 * @param key stable, lower-case word, as in exports
 * @param value the figure
 * @param unit its unit; empty for a bare number
 */
public record Detail(String key, double value, String unit) {}
