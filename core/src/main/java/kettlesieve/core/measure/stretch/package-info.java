/**
 * Measures of versions in a time of their own, stretched or shifted: length, pitch, attacks,
 * phases, formants, drift.
 */
package kettlesieve.core.measure.stretch;
