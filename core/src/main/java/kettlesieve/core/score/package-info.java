/**
 * From readings to scores, places and ties: scales and weights ({@link
 * kettlesieve.core.score.Scoring}), cards by question, the sheet ({@link
 * kettlesieve.core.score.ScoreSheet}), limits, trade-offs, the best set of stems. Comes in: what
 * was measured. Goes out: an immutable sheet.
 */
package kettlesieve.core.score;
