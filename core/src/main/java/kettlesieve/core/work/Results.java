package kettlesieve.core.work;

import kettlesieve.core.score.ScoreSheet;

/**
 * What work on a comparison gave.
 *
 * @param work what was worked on
 * @param sheet readings, scores and places
 */
public record Results(Work work, ScoreSheet sheet) {}
