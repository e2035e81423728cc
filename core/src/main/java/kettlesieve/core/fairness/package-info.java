/**
 * What would have made a comparison unfair, and what was done about it: other lengths, rates,
 * channels and levels, copies of one file, amounts that do not compare. Comes in: matched versions.
 * Goes out: a list in plain words that is part of every export ({@link
 * kettlesieve.core.fairness.Fairness}).
 */
package kettlesieve.core.fairness;
