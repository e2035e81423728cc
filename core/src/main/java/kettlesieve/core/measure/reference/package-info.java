/**
 * Measures against what is known to be true, a clean recording or true stems: signal-to-distortion
 * ratios by BSS Eval ({@link kettlesieve.core.measure.reference.BssEval}), SI-SDR, segmental SNR,
 * STOI.
 */
package kettlesieve.core.measure.reference;
