/**
 * What is drawn of sound, as columns of numbers and not yet as pixels: envelopes ({@link
 * kettlesieve.core.picture.PeakPyramid}), levels by time and frequency, and where a version
 * differs. Used by the window and by reports; no figure comes from here.
 */
package kettlesieve.core.picture;
