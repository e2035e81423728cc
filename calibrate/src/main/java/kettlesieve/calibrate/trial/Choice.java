package kettlesieve.calibrate.trial;

/**
 * Which sources are judged.
 *
 * @param every only every so many; 1 for all
 * @param only those whose name holds this; empty for all
 */
public record Choice(int every, String only) {}
