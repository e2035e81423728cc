package kettlesieve.calibrate.trial;

/**
 * Which sources are judged.
 *
 * @param every only every so many; 1 for all
 * @param only those whose name holds this; empty for all
 * @param quick whether the one processor of declip that takes minutes a source is left out
 */
public record Choice(int every, String only, boolean quick) {}
