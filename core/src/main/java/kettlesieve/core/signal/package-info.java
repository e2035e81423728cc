/**
 * Transforms, filters, statistics and detectors of one recording: spectra by tiles ({@link
 * kettlesieve.core.signal.Spectrogram}), loudness, true peak, fundamentals, clicks, clipping,
 * resampling. Comes in: {@code audio}. Goes out: numbers and further views. Knows nothing of
 * versions; every package after it may use it.
 */
package kettlesieve.core.signal;
