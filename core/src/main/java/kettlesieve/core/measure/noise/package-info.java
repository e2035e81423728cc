/**
 * How much noise was left or put in, in pauses and under the voice: level, bursts, musical noise,
 * breathing, clicks; and what is gathered of the noise. Mostly in denoise.
 */
package kettlesieve.core.measure.noise;
