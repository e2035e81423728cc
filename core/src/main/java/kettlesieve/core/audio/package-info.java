/**
 * Sampled sound as it is read, in blocks: {@link kettlesieve.core.audio.Audio} and its views (a
 * slice, a gain, a downmix, a sum), in memory or in a mapped file, and maps from one recording's
 * time to another's. Comes in: samples. Goes out: samples. No transform and no filter; those are in
 * {@code signal}.
 */
package kettlesieve.core.audio;
