/**
 * The document: source, versions, roles, excerpts, marks, rounds and profiles as one immutable
 * value ({@link kettlesieve.core.comparison.Comparison}), and its file. Knows names of files, never
 * their sound.
 */
package kettlesieve.core.comparison;
