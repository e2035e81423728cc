/**
 * Measures of repaired clipping, on passages around the clipped runs, against two independent
 * estimates of what was there ({@link kettlesieve.core.measure.clip.ClippedPassages}).
 */
package kettlesieve.core.measure.clip;
