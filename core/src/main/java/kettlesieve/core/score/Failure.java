package kettlesieve.core.score;

/**
 * A version that could not be used.
 *
 * @param id the version's id
 * @param label its name
 * @param file its file
 * @param reason what is wrong and what would mend it
 */
public record Failure(String id, String label, String file, String reason) {}
