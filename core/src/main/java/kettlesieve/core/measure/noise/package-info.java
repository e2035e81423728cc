/**
 * Measures of one version beside its source, mostly of denoise and dereverb: what was missed, added
 * and lost in pauses, in the voice and in its tail. They ask the model and {@code measure.cells}
 * only.
 */
package kettlesieve.core.measure.noise;
