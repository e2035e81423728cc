/**
 * Many comparisons together. Comes in: the scores of each, as plain numbers ({@link
 * kettlesieve.core.roundup.ScoredComparison}), from a sheet or from JSON that was written anywhere.
 * Goes out: tools by recordings with means, wins, tests, odds and costs. Central class: {@link
 * kettlesieve.core.roundup.Roundup}. Knows no audio and reads no file.
 */
package kettlesieve.core.roundup;
